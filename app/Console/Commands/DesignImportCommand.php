<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\PlainCommand;
use App\Design\DesignFile;
use App\Design\Draft;
use App\Models\Right;
use App\Models\Roles;
use App\Models\User;
use App\Support\Refused;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\EffectCount;

final class DesignImportCommand extends PlainCommand
{
    protected $signature = 'brenvic:design:import {file : a design file} {--merge : only what it changed since the version it was written from} {--publish= : publish the draft with this note} {--json : the result as JSON}';

    protected $description = 'Imports a design file into the draft, and says what publishing it would do';

    public function handle(Draft $draft): int
    {
        $json = @file_get_contents((string) $this->argument('file'));
        if ($json === false) {
            $this->error("“{$this->argument('file')}” cannot be read.");

            return self::FAILURE;
        }
        try {
            $by = User::query()->whereIn('role', app(Roles::class)->with(Right::Design))->orderBy('id')->firstOrFail();
            $file = DesignFile::read($json);
            $this->option('merge') ? $draft->mergeIn($by, $file->design, $file->version) : $draft->become($by, $file->design);
            $changes = $draft->changes();
            $effects = $draft->effects($by);
            $version = $this->option('publish') === null ? null : $draft->publish($by, (string) $this->option('publish'))->id;
            if ($this->isForPrograms()) {
                $this->json([
                    'changes' => array_map(
                        static fn (DesignChange $of): array => ['kind' => $of->kind->value, 'code' => $of->code, 'act' => $of->act()],
                        $changes,
                    ),
                    'effects' => array_map(static fn (EffectCount $of): array => $of->told(), $effects),
                    'version' => $version,
                ]);

                return self::SUCCESS;
            }
            foreach ($changes as $change) {
                $this->line("{$change->kind->one()} {$change->code}: {$change->act()}");
            }
            foreach ($effects as $effect) {
                $this->line(
                    sprintf('%7d  %s', $effect->documents, $effect->what.($effect->kind->stops() ? ' (stops the publication)' : '')),
                );
            }
            $version === null || $this->line("Published as version {$version}.");
        } catch (Refused $fault) {
            $this->error($fault->getMessage());

            return self::FAILURE;
        }

        return self::SUCCESS;
    }
}
