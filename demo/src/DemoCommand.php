<?php

declare(strict_types=1);

namespace Demo;

use App\Catalog\Catalog;
use App\Import\Import;
use App\Import\ImportInto;
use App\Import\ImportResult;
use App\Import\ValuesTable;
use App\Models\Document;
use App\Models\Library;
use App\Models\User;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\File;

final class DemoCommand extends Command
{
    protected $signature = 'brenvic:demo {--empty : only an administrator, and an empty design} {--people : print the sign-ins}';

    protected $description = 'Fills a new installation with the demo organisation; does nothing when there is somebody already';

    public function handle(Import $import): int
    {
        if ($this->option('people')) {
            if (! User::query()->where('sign_in', 'librarian')->exists()) {
                $this->line('  the people that your administrator has made');

                return self::SUCCESS;
            }
            foreach (TrustDesign::PEOPLE + Procedures::PEOPLE as $signIn => [$name, $role]) {
                $this->line(sprintf('  %-10s %s  %s, %s', $signIn, TrustDesign::PASSWORD, $name, $role));
            }

            return self::SUCCESS;
        }
        $folder = config('brenvic.data').'/demo-files';
        if (User::query()->exists() && ! is_dir($folder)) {
            return self::SUCCESS;
        }
        if ($this->option('empty')) {
            [$signIn, $name] = $this->first();
            $code = TrustDesign::begin($signIn, $name);
            $this->line(
                "The first sign-in is “{$signIn}”, with the one-time code {$code}: choose “I have a one-time code” and a password of your own.",
            );

            return self::SUCCESS;
        }
        if (! User::query()->exists()) {
            TrustDesign::install();
        }
        // The folder stands until all is imported: a start that was stopped half-way goes on here.
        $this->line('Making the demo documents…');
        File::deleteDirectory($folder);
        File::makeDirectory($folder, 0775, true);
        foreach ((new Collection($folder))->make() as $code) {
            $this->importLibrary($import, $folder, $code);
        }
        Suppliers::fill((string) config('brenvic.outside.suppliers.database'));
        $this->line(sprintf('  %-24s %5d', 'Dossiers', app(Dossiers::class)->make()));
        if (! User::query()->where('sign_in', 'works')->exists()) {
            Procedures::install();
            $this->line(sprintf('  %-24s %5d', 'Cases of procedures', Procedures::cases()));
            Oversight::install();
            [$holds, $disposals] = Oversight::make();
            $this->line(sprintf('  %-24s %5d', 'Holds', $holds));
            $this->line(sprintf('  %-24s %5d', 'Disposals', $disposals));
            $this->line(sprintf('  %-24s %5d', 'Searches made', Usage::make()));
        }
        File::deleteDirectory($folder);

        return self::SUCCESS;
    }

    private function importLibrary(Import $import, string $folder, string $code): void
    {
        $library = Library::query()->where('code', $code)->firstOrFail();
        $sheets = ValuesTable::read("{$folder}/{$code}.csv", app(Catalog::class)->fields());
        $files = [];
        foreach (array_keys($sheets) as $name) {
            $files[(string) $name] = "{$folder}/{$code}/{$name}";
        }
        $refused = 0;
        $import->run($files, new ImportInto($library), $sheets, function (ImportResult $result) use (&$refused): void {
            if ($result->outcome === 'refused') {
                $refused++;
                $this->warn("{$result->name}: {$result->note}");
            }
        });
        $this->line(
            sprintf(
                '  %-24s %5d documents%s',
                $library->name,
                Document::query()->where('library_id', $library->id)->count(),
                $refused > 0 ? ", {$refused} refused" : '',
            ),
        );
    }

    /** @return array{string, string} the sign-in name and the name of who administers first, asked for where there is somebody to ask */
    private function first(): array
    {
        if (! $this->input->isInteractive() || ! stream_isatty(STDIN)) {
            return ['admin', 'Administrator'];
        }
        $name = trim((string) $this->ask('Your name, who administers this office', 'Administrator'));
        do {
            $signIn = trim((string) $this->ask('The name you sign in with (lower-case letters, digits, dots, - and _)', 'admin'));
        } while (preg_match('/^[a-z0-9][a-z0-9._-]{0,59}$/', $signIn) !== 1);

        return [$signIn, $name];
    }
}
