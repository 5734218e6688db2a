<?php

declare(strict_types=1);

use Symfony\Component\Process\Process;

it('answers from memory that processes share as from the index itself, whatever is written or taken back', function () {
    $database = sys_get_temp_dir().'/brenvic-shared-'.bin2hex(random_bytes(6)).'.sqlite';
    touch($database);
    try {
        $process = new Process(
            [PHP_BINARY, '-d', 'apc.enable_cli=1', '-d', 'memory_limit=512M', base_path('tests/shared-memory.php')],
            base_path(),
            ['DB_DATABASE' => $database],
            null,
            120,
        );
        $process->run();
    } finally {
        array_map(unlink(...), glob("{$database}*") ?: []);
    }
    expect($process->getOutput())->toBe("The same in all rounds.\n", $process->getErrorOutput());
});
