<?php

declare(strict_types=1);

use Symfony\Component\Process\Process;

require_once dirname(__DIR__).'/mail-server.php';

it('loses nothing and brings nothing in twice, however often it is killed', function () {
    $server = new MailServer();
    $server->start();
    $data = sys_get_temp_dir().'/brenvic-killed-'.bin2hex(random_bytes(4));
    mkdir("{$data}/sources/post", 0777, true);
    touch("{$data}/brenvic.sqlite");
    $environment = [
        'BRENVIC_DATA' => $data,
        'DB_DATABASE' => "{$data}/brenvic.sqlite",
        'QUEUE_CONNECTION' => 'database',
        'BRENVIC_MAILBOXES' => json_encode(['post' => $server->address()]),
    ];
    $root = dirname(__DIR__, 2);
    (new Process(['php', "{$root}/tests/empty-office.php"], $root, $environment))->mustRun();
    for ($i = 1; $i <= 9; $i++) {
        $server->put("From: Ida Ash <ida@ash.example>\nTo: office@tarnwick.example\nSubject: Mail {$i}\nMessage-ID: <{$i}@ash.example>\n\nThe text.\n");
        file_put_contents("{$data}/sources/post/file-{$i}.txt", "Text {$i}\n");
    }
    $database = new PDO("sqlite:{$data}/brenvic.sqlite");
    $count = static fn (): int => (int) $database->query('SELECT COUNT(*) FROM documents')->fetchColumn();
    $kills = 0;
    seeded(18);
    while ($count() < 18) {
        $until = min(18, $count() + mt_rand(1, 4));
        $watch = new Process(['php', "{$root}/artisan", 'brenvic:watch'], $root, $environment);
        $watch->start();
        // Between what is safe and what is put away lies only this.
        while ($watch->isRunning() && $count() < $until) {
            usleep(500);
        }
        $watch->isRunning() && $kills++;
        $watch->signal(SIGKILL);
        $watch->wait();
    }
    (new Process(['php', "{$root}/artisan", 'brenvic:watch', '--once'], $root, $environment))->mustRun();
    $names = $database->query('SELECT file_name FROM documents ORDER BY file_name')->fetchAll(PDO::FETCH_COLUMN);
    $expected = [
        ...array_map(static fn (int $i): string => "Mail {$i}.eml", range(1, 9)),
        ...array_map(static fn (int $i): string => "file-{$i}.txt", range(1, 9)),
    ];
    sort($expected);
    expect($kills)->toBeGreaterThan(3)->and($names)->toBe($expected);
    foreach ($database->query('SELECT sha256 FROM documents')->fetchAll(PDO::FETCH_COLUMN) as $sha256) {
        expect(hash_file('sha256', "{$data}/files/".substr($sha256, 0, 2)."/{$sha256}"))->toBe($sha256);
    }
    expect($server->count())->toBe(0)
        ->and($server->count('Brenvic done'))->toBe(9)
        ->and($server->count('Brenvic refused'))->toBe(0)
        ->and(glob("{$data}/sources/post/*.txt"))->toBe([])
        ->and(glob("{$data}/sources/post/done/*"))->toHaveCount(9)
        ->and(glob("{$data}/sources/post/refused/*"))->toBe([]);
    $server->stop();
    Illuminate\Support\Facades\File::deleteDirectory($data);
});
