<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Design\Catalog;
use App\Design\DesignFile;
use App\Models\DesignVersion;
use Illuminate\Console\Command;
use Symfony\Component\Console\Output\OutputInterface;

final class DesignExportCommand extends Command
{
    protected $signature = 'brenvic:design:export';

    protected $description = 'Prints the published design as JSON (docs/design.schema.json)';

    public function handle(Catalog $catalog): int
    {
        $this->output->write(json_encode(DesignFile::write($catalog->design(), DesignVersion::query()->max('id')), JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR)."\n", false, OutputInterface::OUTPUT_RAW);

        return self::SUCCESS;
    }
}
