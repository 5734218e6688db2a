<?php

declare(strict_types=1);

namespace Bench;

use Brenvic\Core\Fields\PartialDate;
use RuntimeException;

/**
 * PostgreSQL on a private folder, reached through one psql that stays open: a tsvector column with a GIN index, an
 * index for each field, all facets by one GROUPING SETS.
 */
final class PostgresPeer implements Peer
{
    private const PROGRAMS = '/usr/lib/postgresql/15/bin';

    private const MARK = 'answered';

    /** The title stands so many words from the text, so that no phrase reaches from one into the other. */
    private const APART = 1_000;

    /** @var resource */
    private $psql;

    /** @var array<int, resource> */
    private array $pipes = [];

    public static function isThere(): bool
    {
        return is_executable(self::PROGRAMS.'/postgres');
    }

    public function __construct(private readonly string $folder, private readonly Corpus $corpus)
    {
        $made = is_file("{$folder}/made");
        if (! $made) {
            exec('rm -rf '.escapeshellarg($folder));
            mkdir($folder, 0777, true);
            chmod($folder, 0777);
            $this->run(['initdb', '-D', "{$folder}/data", '-A', 'trust', '-U', 'bench', '--no-sync']);
        }
        $this->run([
            'pg_ctl',
            '-D',
            "{$folder}/data",
            '-w',
            '-l',
            "{$folder}/log",
            '-o',
            "-c listen_addresses='' -c unix_socket_directories='{$folder}' -c shared_buffers=2GB -c work_mem=256MB -c maintenance_work_mem=1GB -c max_wal_size=8GB -c fsync=off -c jit=off -c temp_buffers=256MB",
            'start',
        ]);
        $process = proc_open(
            [self::PROGRAMS.'/psql', '-h', $folder, '-U', 'bench', '-d', 'postgres', '-qAtX', '-v', 'ON_ERROR_STOP=1'],
            [['pipe', 'r'], ['pipe', 'w'], STDERR],
            $this->pipes,
        );
        if ($process === false) {
            throw new RuntimeException('psql does not start.');
        }
        $this->psql = $process;
        if (! $made) {
            $this->make();
            touch("{$folder}/made");
        }
    }

    public function __destruct()
    {
        fclose($this->pipes[0]);
        proc_close($this->psql);
        $this->run(['pg_ctl', '-D', "{$this->folder}/data", '-m', 'fast', 'stop']);
    }

    public function name(): string
    {
        return 'PostgreSQL 15';
    }

    private function make(): void
    {
        $fields = array_keys(Corpus::FIELDS);
        $this->sql(
            'CREATE TABLE docs (id int PRIMARY KEY, '.
                implode(', ', array_map(static fn (string $f): string => "{$f} int", $fields)).
                ', branch int, year int, day int, words tsvector)',
        );
        fwrite($this->pipes[0], "COPY docs FROM STDIN;\n");
        foreach ($this->corpus->documents() as $number => $d) {
            $words = [];
            foreach ([self::APART => $d['title'], 0 => $d['text']] as $before => $text) {
                foreach (explode(' ', $text) as $i => $word) {
                    $words[$word][] = $before + $i + 1;
                }
            }
            $vector = implode(
                ' ',
                array_map(static fn (string $word, array $at): string => "{$word}:".implode(',', $at), array_keys($words), $words),
            );
            fwrite(
                $this->pipes[0],
                implode("\t", [
                    $number,
                    ...array_values($d['values']),
                    ($d['values']['reach'] % 10) + 1,
                    PartialDate::ofDay($d['day'])->year,
                    $d['day'],
                    $vector,
                ])."\n",
            );
        }
        fwrite($this->pipes[0], "\\.\n");
        foreach ([...$fields, 'year', 'day'] as $field) {
            $this->sql("CREATE INDEX ON docs ({$field})");
        }
        $this->sql('CREATE INDEX ON docs USING gin (words)');
        $this->sql('VACUUM ANALYZE docs');
    }

    public function ask(Question $question): int
    {
        $condition =
            "library <= 6 AND ({$question->where})".($question->tsquery === '' ? '' : " AND words @@ '{$question->tsquery}'::tsquery");
        $fields = [...array_keys(Corpus::FIELDS), 'branch', 'year'];
        $list = implode(', ', $fields);
        $sets = implode(', ', array_map(static fn (string $f): string => "({$f})", $fields));
        $sql = "BEGIN; CREATE TEMP TABLE found ON COMMIT DROP AS SELECT id, day, {$list} FROM docs WHERE {$condition};
            SELECT 'total', count(*) FROM found; SELECT {$list}, count(*) FROM found GROUP BY GROUPING SETS ({$sets}); SELECT id FROM found ORDER BY day DESC LIMIT 50;";
        if ($question->tsquery !== '') {
            $sql .= "SELECT id FROM docs WHERE {$condition} ORDER BY ts_rank(words, '{$question->tsquery}'::tsquery) DESC LIMIT 50;";
        }
        $total = 0;
        foreach ($this->sql("{$sql} COMMIT") as $line) {
            if (str_starts_with($line, 'total|')) {
                $total = (int) substr($line, 6);
            }
        }

        return $total;
    }

    /** @return list<string> */
    private function sql(string $sql): array
    {
        fwrite($this->pipes[0], "{$sql};\n\\echo ".self::MARK."\n");
        $lines = [];
        while (($line = fgets($this->pipes[1])) !== false) {
            $line = rtrim($line, "\n");
            if ($line === self::MARK) {
                return $lines;
            }
            $lines[] = $line;
        }
        throw new RuntimeException('psql ended: '.implode(' ', array_slice($lines, -3)));
    }

    /** @param  list<string>  $command */
    private function run(array $command): void
    {
        $command[0] = self::PROGRAMS."/{$command[0]}";
        // The server refuses to run as root.
        $line = implode(
            ' ',
            array_map(escapeshellarg(...), posix_geteuid() === 0 ? ['runuser', '-u', 'postgres', '--', ...$command] : $command),
        );
        exec("cd /tmp && {$line} </dev/null >/dev/null 2>&1", result_code: $failed);
        if ($failed !== 0) {
            throw new RuntimeException("failed: {$line}");
        }
    }
}
