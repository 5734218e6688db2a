<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Design\Catalog;
use App\Exchange\RdfFiles;
use Brenvic\Core\Classification\Skos;
use Brenvic\Core\Design\DesignKind;
use Illuminate\Console\Command;

final class SchemeExportCommand extends Command
{
    protected $signature = 'brenvic:scheme:export {code} {--format=turtle : turtle, rdfxml or jsonld}';

    protected $description = 'Prints a published vocabulary or classification scheme as SKOS';

    public function handle(Catalog $catalog): int
    {
        $code = (string) $this->argument('code');
        $scheme = $catalog->design()->part(DesignKind::Vocabulary, $code);
        $format = (string) $this->option('format');
        if ($scheme === null || ! isset(RdfFiles::FORMATS[$format])) {
            $this->error($scheme === null ? "There is no scheme “{$code}”." : "There is no format “{$format}”: turtle, rdfxml or jsonld.");

            return self::FAILURE;
        }
        $this->output->write(RdfFiles::write(Skos::triples($code, $scheme), $format), false, \Symfony\Component\Console\Output\OutputInterface::OUTPUT_RAW);

        return self::SUCCESS;
    }
}
