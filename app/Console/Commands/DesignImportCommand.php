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

final class DesignImportCommand extends PlainCommand
{
    protected $signature = 'brenvic:design:import {file} {--merge : only what it changed since the version it was written from} {--publish= : publish the draft with this note}';

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
            foreach ($draft->changes() as $change) {
                $this->line(
                    "{$change->kind->one()} {$change->code}: ".
                        $change->act(),
                );
            }
            foreach ($draft->effects($by) as $effect) {
                $this->line(
                    sprintf('%7d  %s', $effect->documents, $effect->what.($effect->kind->stops() ? ' (stops the publication)' : '')),
                );
            }
            if ($this->option('publish') !== null) {
                $this->line("Published as version {$draft->publish($by, (string) $this->option('publish'))->id}.");
            }
        } catch (Refused $fault) {
            $this->error($fault->getMessage());

            return self::FAILURE;
        }

        return self::SUCCESS;
    }
}
