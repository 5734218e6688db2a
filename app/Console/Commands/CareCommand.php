<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Alarms\Alarms;
use App\Audit\Heads;
use App\Console\PlainCommand;
use App\Find\AskedSearches;
use App\Find\SavedSearches;
use App\Fixity\Fixity;
use App\Fixity\ReadFiles;
use App\Health\Beats;
use App\Health\DiskDays;
use App\Health\Health;
use App\Health\NightlyBackup;
use App\Health\Tools;
use App\History\Readers;
use App\Intake\Uploads;
use App\Jobs\Workers;
use App\Notices\Notices;
use App\Oversight\Superseded;
use App\People\SessionFiles;
use App\People\Sessions;
use App\Procedures\Beginning;
use App\Procedures\Deadlines;
use App\Reports\KeptReports;
use App\Retrieve\Posting;
use App\Served\Changes;
use App\Support\OfficeSetting;
use App\Webhooks\TellPrograms;
use Illuminate\Support\Facades\Session;

final class CareCommand extends PlainCommand
{
    protected $signature = 'brenvic:care {--once : look once, and end}';

    protected $description = 'Looks after the office until it is stopped: nightly backups, and alarms for what does not work';

    /** Seconds between two looks. */
    private const EVERY = 30;

    /** What has just started needs not to have been there yet, in seconds. */
    private const BEGINNING = 120;

    private const SECONDS = 3_600;

    /** The hour from which notices are mailed that are wanted once a day. */
    private const MAILED_FROM = 7;

    private const MAILED = 'notices_mailed';

    /** Seconds between two looks for what is new in watched searches, and for what came true as time went by. */
    private const TOLD = 600;

    private int $toldAt = 0;

    /** When files of sessions were last taken away. */
    private int $clearedAt = 0;

    public function handle(): int
    {
        $since = time();
        $parent = Workers::parent();
        do {
            Beats::beat('care');
            // Roles may change meanwhile: alarms are mailed to who administers now.
            $this->laravel->forgetScopedInstances();
            $this->look(time() - $since > self::BEGINNING || (bool) $this->option('once'));
            for ($second = 0; $second < self::EVERY && ! $this->option('once'); $second++) {
                sleep(1);
                if ($parent > 1 && Workers::parent() !== $parent) {
                    return self::SUCCESS;
                }
            }
        } while (! $this->option('once') && time() - $since < self::SECONDS);

        return self::SUCCESS;
    }

    private function look(bool $isSettled): void
    {
        foreach (Health::checks() as $check) {
            // That no backups are set up is said where health is shown; it is no alarm every day.
            if ($check->name === 'backup' && (string) config('brenvic.backup.folder') === '') {
                continue;
            }
            if ($check->isWell) {
                Alarms::clear($check->name);
            } elseif ($isSettled || ! $check->isWorker) {
                // Figures change from look to look: one alarm stands for all of them.
                Alarms::raise($check->name, $check->isWorker || $check->name === 'database' ? $check->says : self::sentence($check->name));
            }
        }
        Sessions::clear();
        app(Deadlines::class)->check();
        self::mailDaily();
        if (Heads::give()) {
            Readers::forget();
            AskedSearches::forget();
            app(Superseded::class)->look();
            Fixity::isDue() && ReadFiles::begin();
        }
        Changes::settle();
        TellPrograms::look();
        app(Posting::class)->send();
        if ($this->toldAt < time() - self::TOLD) {
            $this->toldAt = time();
            app(SavedSearches::class)->tellNew();
            app(Beginning::class)->daily();
        }
        if ($this->clearedAt < time() - self::SECONDS) {
            $this->clearedAt = time();
            DiskDays::note();
            Uploads::clear();
            Tools::note();
            $files = Session::driver()->getHandler();
            $files instanceof SessionFiles && $files->clear();
        }
        if (NightlyBackup::isDue()) {
            NightlyBackup::make();
        }
    }

    /** Once a day, in the morning. */
    private static function mailDaily(): void
    {
        $today = now()->toDateString();
        if (now()->hour >= self::MAILED_FROM && OfficeSetting::get(self::MAILED) !== $today) {
            Notices::mailDaily();
            KeptReports::begin();
            OfficeSetting::put(self::MAILED, $today);
        }
    }

    private static function sentence(string $name): string
    {
        return match ($name) {
            'disk' => 'The disk of the documents is nearly full.',
            'jobs' => 'Work in the background was given up. What it was is shown where it was begun, and in the log.',
            default => 'There was no backup for more than a day.',
        };
    }
}
