<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Catalog\Catalog;
use App\Console\PlainCommand;
use App\Health\Beats;
use App\Intake\Sources\ArrivingFile;
use App\Intake\Sources\Watch;
use App\Jobs\Workers;
use App\Models\DesignVersion;

final class WatchCommand extends PlainCommand
{
    protected $signature = 'brenvic:watch {--once : look twice, a moment apart, and end}';

    protected $description = 'Brings in what arrives at the sources of the design, until it is stopped';

    /** Seconds between two looks. */
    private const EVERY = 1;

    /** A process that lives long is begun anew now and then. */
    private const SECONDS = 3_600;

    public function handle(): int
    {
        $until = time() + self::SECONDS;
        $parent = Workers::parent();
        $watch = new Watch();
        $version = null;
        for ($looks = 0; time() < $until; $looks++) {
            Beats::beat('watch');
            // A design may be published meanwhile; what was seen in the folders is kept.
            $newest = DesignVersion::query()->max('id');
            if ($newest !== $version) {
                $this->laravel->forgetScopedInstances();
                $version = $newest;
            }
            $count = $watch->look($this->laravel->make(Catalog::class), $this->laravel->make(ArrivingFile::class));
            if ($count > 0) {
                $this->line("{$count} brought in");
            }
            if ($this->option('once') && $looks > 0) {
                break;
            }
            // Nobody is left to start it again: the server was stopped.
            if ($parent > 1 && Workers::parent() !== $parent) {
                break;
            }
            sleep($this->option('once') ? 3 : self::EVERY);
        }

        return self::SUCCESS;
    }
}
