<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Capture\TextReading;
use App\Catalog\Catalog;
use App\Console\PlainCommand;
use App\Design\Proposals;
use App\Import\BagFolder;
use App\Import\BagSheets;
use App\Import\Import;
use App\Import\ImportInto;
use App\Import\ImportResult;
use App\Import\RegisterSheets;
use App\Import\RowSheet;
use App\Import\ValuesTable;
use App\Models\Document;
use App\Models\Proposal;
use App\Models\User;
use App\Support\Refused;
use Brenvic\Core\Exchange\BagIt\BagCheck;
use FilesystemIterator;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use SplFileInfo;

final class ImportCommand extends PlainCommand
{
    protected $signature = 'brenvic:import {path : a file, or a folder with all that is below it}
        {--library= : code of the library}
        {--type= : code of the document type, where the values file names none}
        {--values= : CSV, XLSX or ODS with one row a file: a column “file”, perhaps “type”, and columns named by fields}
        {--register= : a table whose columns were accepted as a proposal by who is named with --as}
        {--folders : values from the folders that files lie in, as they were accepted as a proposal by who is named with --as}
        {--bag : the path is a BagIt bag, as a folder or a ZIP: it is checked, and its files come in with the values that it brings}
        {--as= : the sign-in name of whose accepted proposal it goes by}
        {--queue : leave PDFs and images to the background worker}
        {--json : one object a line}';

    protected $description = 'Brings in files. It can be stopped at any moment and started again; nothing comes in twice';

    public function handle(Import $import, Catalog $catalog, TextReading $reading): int
    {
        try {
            return $this->import($import, $catalog, $reading);
        } catch (Refused $fault) {
            $this->error($fault->getMessage());

            return self::FAILURE;
        }
    }

    private function import(Import $import, Catalog $catalog, TextReading $reading): int
    {
        $library =
            $catalog->libraries()->firstWhere('code', $this->option('library')) ??
            throw new Refused(
                "There is no library “{$this->option('library')}”. The libraries are: {$catalog->libraries()->pluck('code')->join(', ')}.",
            );
        $type =
            $this->option('type') === null
                ? null
                : $catalog->types()->firstWhere('code', $this->option('type')) ??
                    throw new Refused(
                        "There is no document type “{$this->option('type')}”. The types are: {$catalog->types()->pluck('code')->join(
                            ', ',
                        )}.",
                    );
        $user = User::query()
            ->where('sign_in', (string) $this->option('as'))
            ->first();
        $bag = $this->option('bag') ? BagFolder::open((string) $this->argument('path')) : null;
        try {
            [$files, $sheets] = $bag === null ? $this->loose($catalog, $user) : $this->bagged($bag);

            return $this->bringIn($import, new ImportInto($library, $type, $user), $files, $sheets, $reading);
        } finally {
            $bag?->close();
        }
    }

    /** @return array{array<string, string>, array<string, RowSheet>} files and what is said of them, by name */
    private function loose(Catalog $catalog, ?User $user): array
    {
        $files = $this->files((string) $this->argument('path'));

        return [$files, $this->sheets($files, $catalog, $user)];
    }

    /**
     * @return array{array<string, string>, array<string, RowSheet>}
     *
     * @throws Refused when the bag is not whole: nothing of it is brought in
     */
    private function bagged(BagFolder $bag): array
    {
        $faults = BagCheck::of($bag);
        if ($faults !== []) {
            throw new Refused("The bag is not whole, so nothing of it is brought in.\n".implode("\n", $faults));
        }
        ['sheets' => $sheets, 'unknown' => $unknown] = app(BagSheets::class)->of($bag);
        $unknown === [] || $this->warn('No field here is called '.implode(', ', $unknown).': left out.');
        $files = [];
        foreach (BagCheck::payload($bag) as $path) {
            $files[substr($path, strlen('data/'))] = $bag->at($path);
        }

        return [$files, $sheets];
    }

    /**
     * @param  array<string, string>  $files
     * @param  array<string, RowSheet>  $sheets
     */
    private function bringIn(Import $import, ImportInto $into, array $files, array $sheets, TextReading $reading): int
    {
        $counts = [];
        $report = function (ImportResult $result) use (&$counts): void {
            $counts[$result->outcome] = ($counts[$result->outcome] ?? 0) + 1;
            if ($this->option('json')) {
                $this->json(['file' => $result->name, 'outcome' => $result->outcome, 'note' => $result->note, 'ref' => $result->ref]);
            } elseif ($result->outcome === 'refused' || $this->output->isVerbose()) {
                $this->line("{$result->outcome}: {$result->name}".($result->note === '' ? '' : " ({$result->note})"));
            }
        };
        foreach (array_diff_key($sheets, $files) as $name => $_) {
            $report(new ImportResult((string) $name, 'row without file', 'The values file has a row for this, and there is no such file.'));
        }
        if ($sheets !== []) {
            foreach (array_diff_key($files, $sheets) as $name => $_) {
                $report(new ImportResult((string) $name, 'file without row', 'It is brought in without index values.'));
            }
        }
        $since = microtime(true);
        $import->run($files, $into, $sheets, $report);
        if (! $this->option('queue')) {
            $this->readTexts($into->library->id, $reading);
        }
        if (! $this->option('json')) {
            ksort($counts);
            $seconds = microtime(true) - $since;
            foreach ($counts as $outcome => $count) {
                $this->line(sprintf('%7d  %s', $count, $outcome));
            }
            $this->line(sprintf('%7.1f  seconds', $seconds));
        }

        return isset($counts['refused']) ? self::AMISS : self::SUCCESS;
    }

    /**
     * @param  array<string, string>  $files
     * @return array<string, RowSheet>
     */
    private function sheets(array $files, Catalog $catalog, ?User $user): array
    {
        if ($this->option('values') !== null) {
            return ValuesTable::read($this->valuesFile(), $catalog->fields());
        }
        $register = $this->option('register');
        if ($register === null && ! $this->option('folders')) {
            return [];
        }
        $mapping = Proposals::mapping(
            $user ?? throw new Refused('Say with --as whose accepted proposal it goes by.'),
            $register === null ? Proposal::FOLDERS : Proposal::TABLE,
        );
        Proposals::guardPublished($mapping, $catalog);

        return $register === null ? RegisterSheets::ofFolders($mapping, $files) : RegisterSheets::ofTable((string) $register, $mapping, $files);
    }

    private function valuesFile(): string
    {
        $path = (string) $this->option('values');

        return is_file($path) && is_readable($path) ? $path : throw new Refused("The values file “{$path}” cannot be opened.");
    }

    /** Reads at once what would otherwise wait for the background worker. */
    private function readTexts(int $library, TextReading $reading): void
    {
        while (
            ($ids = Document::query()
                ->where('library_id', $library)
                ->where('text_state', Document::TEXT_PENDING)
                ->orderBy('id')
                ->limit(500)
                ->pluck('id'))->isNotEmpty()
        ) {
            foreach ($ids as $id) {
                $reading->read($id);
            }
        }
    }

    /** @return array<string, string> name within the import => file, in order */
    private function files(string $path): array
    {
        $root = realpath($path);
        if ($root === false) {
            throw new Refused("There is no file or folder “{$path}”.");
        }
        if (is_file($root)) {
            return [basename($root) => $root];
        }
        $files = [];
        $found = new RecursiveIteratorIterator(
            new RecursiveDirectoryIterator($root, FilesystemIterator::SKIP_DOTS),
            RecursiveIteratorIterator::LEAVES_ONLY,
            RecursiveIteratorIterator::CATCH_GET_CHILD,
        );
        /** @var SplFileInfo $file */
        foreach ($found as $file) {
            // A link could lead out of the folder.
            if ($file->isFile() && ! $file->isLink() && $file->isReadable()) {
                $files[substr($file->getPathname(), strlen($root) + 1)] = $file->getPathname();
            }
        }
        ksort($files, SORT_STRING);

        return $files;
    }
}
