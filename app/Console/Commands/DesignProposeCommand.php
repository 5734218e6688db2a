<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\PlainCommand;
use App\Design\Proposals;
use App\Models\Right;
use App\Models\User;
use App\Support\Refused;

/** Has a design proposed from a table or folder tree on this machine, to be decided about under Design. */
final class DesignProposeCommand extends PlainCommand
{
    protected $signature = 'brenvic:design:propose
        {path : a table (CSV, XLSX, ODS), or a folder whose tree is looked at}
        {--as= : the sign-in name of who designs}
        {--json : the result as JSON}';

    protected $description = 'Propose a design from a table or a folder tree';

    public function handle(Proposals $proposals): int
    {
        $user = User::query()->where('sign_in', (string) $this->option('as'))->first();
        try {
            if ($user === null || ! $user->may(Right::Design)) {
                throw new Refused('Say with --as who designs: the sign-in name of a librarian.');
            }
            $proposals->beginHere($user, (string) $this->argument('path'));
        } catch (Refused $fault) {
            $this->error($fault->getMessage());

            return self::FAILURE;
        }
        $this->isForPrograms()
            ? $this->json(['begun' => true])
            : $this->line('It is being read. Decide about the proposal under Design, Propose a design…');

        return self::SUCCESS;
    }
}
