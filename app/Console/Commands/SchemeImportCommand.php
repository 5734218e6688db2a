<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\PlainCommand;
use App\Design\Draft;
use App\Design\PartShape;
use App\Exchange\RdfFiles;
use App\Models\Right;
use App\Models\Roles;
use App\Models\User;
use App\Support\Refused;
use Brenvic\Core\Classification\Skos;
use Brenvic\Core\Classification\SkosImport;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\EffectCount;
use Brenvic\Core\Fields\InvalidDefinition;

final class SchemeImportCommand extends PlainCommand
{
    protected $signature = 'brenvic:scheme:import {file : SKOS in Turtle, RDF/XML or JSON-LD} {--code= : code of the scheme, new or there} {--language=en : the language whose labels come first} {--scheme= : address of the scheme to take, where the file holds several} {--dry-run : only say what would change} {--publish= : publish the draft with this note} {--json : the result as JSON}';

    /** Codes that are named of each kind. */
    private const NAMED = 8;

    protected $description = 'Takes a SKOS file into the draft of the design, and says what it adds, changes and removes';

    public function handle(Draft $draft): int
    {
        $code = (string) $this->option('code');
        $contents = @file_get_contents((string) $this->argument('file'));
        if ($code === '' || $contents === false) {
            $this->error($contents === false ? "“{$this->argument('file')}” cannot be read." : 'Name the scheme with --code.');

            return self::FAILURE;
        }
        try {
            $present = $draft->design()->part(DesignKind::Vocabulary, $code);
            $import = Skos::read(
                RdfFiles::read($contents, RdfFiles::formatOf(mb_strtolower((string) $this->argument('file')), $contents)),
                $code,
                $present,
                (string) $this->option('language'),
                (string) $this->option('scheme'),
            );
            $this->isForPrograms() || $this->tell($import);
            [$effects, $version] = $this->option('dry-run') ? [[], null] : $this->put($draft, $code, $import);
            $this->isForPrograms() &&
                $this->json([
                    'added' => $import->added,
                    'changed' => $import->changed,
                    'removed' => $import->lost,
                    'faults' => $import->faults,
                    'effects' => array_map(static fn (EffectCount $of): array => $of->told(), $effects),
                    'version' => $version,
                ]);
        } catch (Refused|InvalidDefinition $fault) {
            $this->error($fault->getMessage());

            return self::FAILURE;
        }

        return self::SUCCESS;
    }

    private function tell(SkosImport $import): void
    {
        foreach ($import->faults as $fault) {
            $this->warn($fault);
        }
        foreach (
            ['added' => $import->added, 'changed' => $import->changed, 'here and not in the file: removed' => $import->lost] as $what => $codes
        ) {
            $named =
                $codes === [] ? '' : ': '.implode(', ', array_slice($codes, 0, self::NAMED)).(count($codes) > self::NAMED ? ' …' : '');
            $this->line(sprintf('%7d  %s%s', count($codes), $what, $named));
        }
        $this->line(
            sprintf('%7d  statements of the file beyond what a vocabulary has; kept, and given back by an export', $import->kept()),
        );
    }

    /**
     * @return array{list<EffectCount>, int|null} what publishing it does, and the version where it was published
     *
     * @throws Refused|InvalidDefinition
     */
    private function put(Draft $draft, string $code, SkosImport $import): array
    {
        $by = User::query()->whereIn('role', app(Roles::class)->with(Right::Design))->orderBy('id')->firstOrFail();
        $draft->put($by, DesignKind::Vocabulary, $code, PartShape::complete(DesignKind::Vocabulary, $import->vocabulary), null);
        $effects = $draft->effects($by);
        $version = $this->option('publish') === null ? null : $draft->publish($by, (string) $this->option('publish'))->id;
        foreach ($this->isForPrograms() ? [] : $effects as $effect) {
            $this->line(sprintf('%7d  %s', $effect->documents, $effect->what.($effect->kind->stops() ? ' (blocks publication)' : '')));
        }
        $this->isForPrograms() ||
            $this->line(
                $version === null
                    ? 'It is in the draft. Look at its effect in Design and publish it there.'
                    : "Published as version {$version}.",
            );

        return [$effects, $version];
    }
}
