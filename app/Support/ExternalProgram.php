<?php

declare(strict_types=1);

namespace App\Support;

use Brenvic\Core\Capture\UnreadableFile;
use Illuminate\Support\Facades\File;
use Symfony\Component\Process\Exception\ProcessTimedOutException;
use Symfony\Component\Process\ExecutableFinder;
use Symfony\Component\Process\Process;

/** Runs a program on an untrusted file: without a shell, in a folder of its own, with limits on time and memory. */
final class ExternalProgram
{
    /** Whether the machine has a program. */
    public static function isThere(string $program): bool
    {
        return (new ExecutableFinder())->find($program) !== null;
    }

    /** A folder of its own for what programs read and write; whoever asks for it takes it away. */
    public static function folder(): string
    {
        $folder = sys_get_temp_dir().'/brenvic-'.bin2hex(random_bytes(8));
        mkdir($folder, 0700);

        return $folder;
    }

    /**
     * Does work in such a folder, and takes it away whatever becomes of it.
     *
     * @template T
     *
     * @param  \Closure(string): T  $work
     * @return T
     */
    public static function inFolder(\Closure $work): mixed
    {
        $folder = self::folder();
        try {
            return $work($folder);
        } finally {
            File::deleteDirectory($folder);
        }
    }

    /**
     * @param  list<string>  $command
     * @return array{int, string, string} exit code, output, errors
     *
     * @throws UnreadableFile when it takes too long
     */
    public static function run(array $command, string $folder): array
    {
        $limits = config('brenvic.limits');
        $process = new Process(
            ['prlimit', '--as='.($limits['program_kilobytes'] * 1024), '--core=0', '--', ...$command],
            $folder,
            ['OMP_THREAD_LIMIT' => '1', 'HOME' => $folder],
            null,
            $limits['program_seconds'],
        );
        try {
            $process->run();
        } catch (ProcessTimedOutException) {
            throw new UnreadableFile('failed', "Reading the text took longer than {$limits['program_seconds']} seconds and was stopped.");
        }

        return [(int) $process->getExitCode(), $process->getOutput(), $process->getErrorOutput()];
    }
}
