<?php

declare(strict_types=1);

use Symfony\Component\Process\Process;

it('does what follows from a decision once and only once, however often the worker is killed', function () {
    $data = sys_get_temp_dir().'/brenvic-decided-'.bin2hex(random_bytes(4));
    mkdir($data, 0777, true);
    touch("{$data}/brenvic.sqlite");
    $environment = [
        'BRENVIC_DATA' => $data,
        'DB_DATABASE' => "{$data}/brenvic.sqlite",
        'QUEUE_CONNECTION' => 'database',
        'BRENVIC_WORKER' => '1',
        'CACHE_STORE' => 'array',
    ];
    $root = dirname(__DIR__, 2);
    (new Process(['php', "{$root}/tests/decided-office.php", '8'], $root, $environment, timeout: 120))->mustRun();
    $database = new PDO("sqlite:{$data}/brenvic.sqlite");
    $database->exec('PRAGMA busy_timeout = 20000');
    $number = static fn (string $sql): int => (int) $database->query($sql)->fetchColumn();
    expect($number('SELECT COUNT(*) FROM annotations'))->toBe(0)->and($number('SELECT COUNT(*) FROM cases'))->toBe(8);
    $kills = 0;
    seeded(21);
    // What is recorded grows by what is done: it is killed after some steps of it, wherever it is then.
    $length = static fn (): int => $number('SELECT COUNT(*) FROM case_events') + $number('SELECT COUNT(*) FROM history');
    for ($round = 0; $round < 60 && $number("SELECT COUNT(*) FROM cases WHERE status = 'ended'") < 8; $round++) {
        // One that is killed twice would be given up, and be there to be tried again by hand.
        $database->exec('UPDATE jobs SET attempts = 0, reserved_at = NULL');
        $until = $length() + mt_rand(1, 7);
        $worker = new Process(['php', "{$root}/artisan", 'queue:work', '--queue=awaited,started,bulk,idle', '--stop-when-empty'], $root, $environment);
        $worker->start();
        while ($worker->isRunning() && $length() < $until) {
            usleep(mt_rand(200, 4_000));
        }
        if ($worker->isRunning()) {
            $kills++;
            $worker->stop(0, SIGKILL);
        }
    }
    $database->exec('UPDATE jobs SET attempts = 0, reserved_at = NULL');
    (new Process(['php', "{$root}/artisan", 'queue:work', '--queue=awaited,started,bulk,idle', '--stop-when-empty'], $root, $environment, timeout: 120))->mustRun();
    expect($kills)->toBeGreaterThan(5);
    foreach ($database->query('SELECT id, document_id, status, step, length FROM cases')->fetchAll(PDO::FETCH_OBJ) as $case) {
        expect("{$case->status} {$case->step}")->toBe('ended accepted');
        $of = static fn (string $table): int => $number("SELECT COUNT(*) FROM {$table} WHERE document_id = {$case->document_id}");
        // Each act is done once, and is in the record once.
        expect($number("SELECT COUNT(*) FROM annotations WHERE kind = 'stamp' AND document_id = {$case->document_id}"))->toBe(1)
            ->and($of('document_dossier'))->toBe(1)
            ->and($number("SELECT COUNT(*) FROM case_events WHERE kind = 'acted' AND case_id = {$case->id}"))->toBe(4)
            ->and($number("SELECT COUNT(*) FROM case_events WHERE case_id = {$case->id}"))->toBe((int) $case->length)
            ->and($number("SELECT COUNT(*) FROM history WHERE act = 'acted' AND document_id = {$case->document_id}"))->toBe(4);
    }
    expect($number('SELECT COUNT(*) FROM dossiers'))->toBe(8)
        // People are told of each task once.
        ->and($number("SELECT COUNT(*) FROM notices WHERE kind = 'task' AND user_id = (SELECT id FROM users WHERE sign_in = 'manager')"))->toBe(8)
        ->and($number('SELECT COUNT(*) FROM cases WHERE told < length'))->toBe(0)
        ->and((string) $database->query('PRAGMA integrity_check')->fetchColumn())->toBe('ok');
    (new Process(['php', "{$root}/artisan", 'brenvic:check'], $root, $environment, timeout: 120))->mustRun();
    Illuminate\Support\Facades\File::deleteDirectory($data);
});
