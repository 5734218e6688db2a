<?php

declare(strict_types=1);

use Illuminate\Filesystem\Filesystem;
use Symfony\Component\Process\Process;

beforeEach(function () {
    $this->folder = sys_get_temp_dir().'/brenvic-upgrade-'.bin2hex(random_bytes(5));
    mkdir("{$this->folder}/data", 0777, true);
    touch("{$this->folder}/data/brenvic.sqlite");
    $this->run = function (array $command, string $backup = ''): array {
        $process = new Process(['php', ...$command], dirname(__DIR__, 2), [
            'BRENVIC_DATA' => "{$this->folder}/data",
            'DB_DATABASE' => "{$this->folder}/data/brenvic.sqlite",
            'BRENVIC_BACKUP' => $backup,
        ]);
        $process->run();

        return [$process->getExitCode(), $process->getOutput().$process->getErrorOutput()];
    };
    $this->pdo = fn (): PDO => new PDO("sqlite:{$this->folder}/data/brenvic.sqlite");
});

afterEach(function () {
    (new Filesystem())->deleteDirectory($this->folder);
});

it('makes a new database without a copy, and does nothing where there is nothing to do', function () {
    expect(($this->run)(['artisan', 'brenvic:upgrade']))->toBe([0, ''])
        ->and(($this->pdo)()->query('SELECT count(*) FROM alarms')->fetchColumn())->toBe(0)
        ->and(($this->run)(['artisan', 'brenvic:upgrade']))->toBe([0, ''])
        ->and(is_dir("{$this->folder}/data/before-upgrade"))->toBeFalse();
});

it('copies the database before it is changed, beside it or as a backup', function () {
    ($this->run)(['tests/empty-office.php']);
    foreach (['', "{$this->folder}/backups"] as $backup) {
        ($this->pdo)()->exec('DROP TABLE alarms');
        ($this->pdo)()->exec("DELETE FROM migrations WHERE migration LIKE '%alarms_are_raised'");
        [$code, $said] = ($this->run)(['artisan', 'brenvic:upgrade'], $backup);
        expect($code)->toBe(0, $said)->and(($this->pdo)()->query('SELECT count(*) FROM alarms')->fetchColumn())->toBe(0);
        if ($backup === '') {
            $copy = new PDO('sqlite:'.(glob("{$this->folder}/data/before-upgrade/*.sqlite") ?: [''])[0]);
            expect($copy->query("SELECT count(*) FROM sqlite_master WHERE name = 'alarms'")->fetchColumn())->toBe(0)
                ->and($copy->query('SELECT count(*) FROM users')->fetchColumn())->toBe(5);
        } else {
            expect(glob("{$backup}/snapshots/*Z"))->toHaveCount(1);
        }
    }
});

it('changes nothing where no backup can be made first', function () {
    ($this->run)(['tests/empty-office.php']);
    ($this->pdo)()->exec("DELETE FROM migrations WHERE migration LIKE '%alarms_are_raised'");
    file_put_contents("{$this->folder}/in-the-way", '');
    [$code, $said] = ($this->run)(['artisan', 'brenvic:upgrade'], "{$this->folder}/in-the-way/backups");
    expect($code)->toBe(1)->and($said)->toContain('Nothing was changed');
});

it('refuses a database that a newer version has made', function () {
    ($this->run)(['artisan', 'brenvic:upgrade']);
    ($this->pdo)()->exec("INSERT INTO migrations (migration, batch) VALUES ('2099_01_01_000000_of_tomorrow', 9)");
    [$code, $said] = ($this->run)(['artisan', 'brenvic:upgrade']);
    expect($code)->toBe(1)->and($said)->toContain('newer version')->toContain('2099_01_01_000000_of_tomorrow');
});
