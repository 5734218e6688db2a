<?php

declare(strict_types=1);

namespace Bench;

use Brenvic\Core\Fields\PartialDate;
use RuntimeException;

/** Xapian, through a Python process that stays open (bench/peers/xapian_peer.py): one line a document, one a question. */
final class XapianPeer implements Peer
{
    private const PYTHON = '/usr/bin/python3';

    /** @var resource */
    private $process;

    /** @var array<int, resource> */
    private array $pipes = [];

    public static function isThere(): bool
    {
        exec(self::PYTHON.' -c "import xapian" 2>/dev/null', result_code: $missing);

        return $missing === 0;
    }

    public function __construct(string $folder, Corpus $corpus)
    {
        $made = is_file("{$folder}/made");
        $process = proc_open(
            [self::PYTHON, __DIR__.'/../peers/xapian_peer.py', "{$folder}/database"],
            [['pipe', 'r'], ['pipe', 'w'], STDERR],
            $this->pipes,
        );
        if ($process === false) {
            throw new RuntimeException('python3 does not start.');
        }
        $this->process = $process;
        if (! $made) {
            is_dir($folder) || mkdir($folder, 0777, true);
            foreach ($corpus->documents() as $d) {
                $this->line([
                    [$d['title'], $d['text']],
                    [...array_values($d['values']), ($d['values']['reach'] % 10) + 1, PartialDate::ofDay($d['day'])->year],
                    $d['day'],
                ]);
            }
            $this->line(null);
            fgets($this->pipes[1]);
            touch("{$folder}/made");
        }
    }

    public function __destruct()
    {
        fclose($this->pipes[0]);
        proc_close($this->process);
    }

    public function name(): string
    {
        return 'Xapian 1.4';
    }

    public function ask(Question $question): int
    {
        $this->line(['and', $question->tree, ['or', ...array_map(static fn (int $n): string => "Xlibrary{$n}", range(1, 6))]]);

        return (int) fgets($this->pipes[1]);
    }

    private function line(mixed $what): void
    {
        fwrite($this->pipes[0], json_encode($what, JSON_THROW_ON_ERROR)."\n");
    }
}
