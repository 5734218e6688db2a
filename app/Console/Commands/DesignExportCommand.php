<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Catalog\Catalog;
use App\Console\PlainCommand;
use App\Design\DesignFile;
use App\Design\Draft;
use App\Models\DesignVersion;

final class DesignExportCommand extends PlainCommand
{
    protected $signature = 'brenvic:design:export {--draft : as the draft would make it}';

    protected $description = 'Prints the published design, or the draft, as JSON (docs/design.schema.json)';

    public function handle(Catalog $catalog, Draft $draft): int
    {
        $design = $this->option('draft') ? $draft->design() : $catalog->design();
        $this->raw(
            json_encode(
                DesignFile::write($design, DesignVersion::query()->max('id')),
                JSON_PRETTY_PRINT | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR,
            )."\n",
        );

        return self::SUCCESS;
    }
}
