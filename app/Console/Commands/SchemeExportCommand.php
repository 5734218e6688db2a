<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Catalog\Catalog;
use App\Console\PlainCommand;
use App\Design\Draft;
use App\Exchange\RdfFiles;
use Brenvic\Core\Classification\Skos;
use Brenvic\Core\Design\DesignKind;

final class SchemeExportCommand extends PlainCommand
{
    protected $signature = 'brenvic:scheme:export {code : of the vocabulary or scheme} {--format=turtle : turtle, rdfxml or jsonld} {--draft : as the draft would make it}';

    protected $description = 'Prints a vocabulary or classification scheme as SKOS, as published or as drafted';

    public function handle(Catalog $catalog, Draft $draft): int
    {
        $code = (string) $this->argument('code');
        $design = $this->option('draft') ? $draft->design() : $catalog->design();
        $scheme = $design->part(DesignKind::Vocabulary, $code);
        $format = (string) $this->option('format');
        if ($scheme === null || ! isset(RdfFiles::FORMATS[$format])) {
            $this->error($scheme === null ? "There is no scheme “{$code}”." : "There is no format “{$format}”: turtle, rdfxml or jsonld.");

            return self::FAILURE;
        }
        $this->raw(RdfFiles::write(Skos::triples($code, $scheme), $format));

        return self::SUCCESS;
    }
}
