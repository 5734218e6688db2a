<?php

declare(strict_types=1);

namespace App\Versions;

use App\Access\Rights;
use App\Files\FilePages;
use App\Files\FileStore;
use App\Files\NewFile;
use App\Intake\Arrivals;
use App\Models\Document;
use App\Models\MadeHow;
use App\Models\User;
use App\Redaction\Redactions;
use App\Support\ExternalProgram;
use App\Support\Refused;
use Brenvic\Core\Pages\PagePlan;
use Brenvic\Core\Versions\PageMap;
use Illuminate\Http\UploadedFile;
use InvalidArgumentException;

/**
 * Work on the pages of PDFs and scans: put in, taken out, moved, turned, split off and joined. What comes of it is a new
 * version, or a new document; pages are carried over as they are.
 */
final readonly class PageWork
{
    public function __construct(
        private Versions $versions,
        private FileStore $files,
        private Arrivals $arrivals,
        private Rights $rights,
        private Redactions $redactions,
    ) {
    }

    /**
     * Makes a version of pages in a new order.
     *
     * @param  int  $version  the version that they were looking at
     */
    public function arrange(Document $document, User $by, PagesWanted $wanted, string $note, int $version): void
    {
        $this->fresh($document, $version);
        ExternalProgram::inFolder(function (string $folder) use ($document, $by, $wanted, $note): void {
            [$file, $from] = $this->made($document, $by, $wanted, $folder);
            [$sha256, $bytes] = $this->files->take($file);
            $new = new NewFile($sha256, $bytes, pathinfo($document->file_name, PATHINFO_FILENAME).'.pdf');
            $this->versions->add($document, $by, $new, new NewVersion(MadeHow::PageWork, $note, pages: $from));
        });
    }

    /**
     * Makes a document of its own of some pages, waiting to be filed.
     *
     * @param  list<int>  $numbers
     */
    public function split(Document $document, User $by, array $numbers, int $version): Document
    {
        $this->fresh($document, $version);

        return ExternalProgram::inFolder(function (string $folder) use ($document, $by, $numbers): Document {
            $pages = array_map(static fn (int $n): array => ['source' => '', 'page' => $n, 'turn' => 0], $numbers);
            [$file] = $this->made($document, $by, new PagesWanted($pages), $folder, true);

            return $this->arrivals->receive(
                $file,
                pathinfo($document->file_name, PATHINFO_FILENAME).
                    ', pages '.
                    implode(', ', array_slice($numbers, 0, 6)).
                    (count($numbers) > 6 ? ' and more' : '').
                    '.pdf',
                $document->library()->firstOrFail(),
                $by,
            );
        });
    }

    /**
     * @param  bool  $mayBeSame  whether it may be all of the document, as it is
     * @return array{string, PageMap} the file, and how its pages come from the document's
     */
    private function made(Document $document, User $by, PagesWanted $wanted, string $folder, bool $mayBeSame = false): array
    {
        $sources = $counts = [];
        foreach (array_unique(array_column($wanted->pages, 'source')) as $i => $source) {
            $sources[$source] = $this->source($document, $by, $source, $wanted->uploads, "{$folder}/source-{$i}.pdf");
            $counts[$source] = FilePages::count($sources[$source], $folder);
            if ($counts[$source] === 0) {
                throw new Refused('One of the files cannot be opened, or is protected by a password. Nothing was changed.');
            }
        }
        try {
            $plan = PagePlan::of($wanted->pages, $counts);
        } catch (InvalidArgumentException $fault) {
            throw new Refused($fault->getMessage());
        }
        if (! $mayBeSame && $plan->changesNothing('', $counts[''] ?? 0)) {
            throw new Refused('The pages are unchanged, so no version was made.');
        }
        $runs = array_map(static fn (array $run): array => [...$run, 'source' => $sources[$run['source']]], $plan->runs());
        if (! FilePages::join($runs, $plan->turns(), "{$folder}/made.pdf", $folder)) {
            throw new Refused('The pages could not be put together. Nothing was changed.');
        }

        return ["{$folder}/made.pdf", new PageMap($plan->from(''))];
    }

    /** @param  list<UploadedFile>  $uploads */
    private function source(Document $document, User $by, string $source, array $uploads, string $target): string
    {
        if (preg_match('/^file-(\d+)$/', $source, $m) === 1) {
            $upload = $uploads[(int) $m[1]] ?? throw new Refused('A file did not arrive whole. Nothing was changed.');

            return FilePages::pdf((string) $upload->getRealPath(), $upload->getClientOriginalName(), $target);
        }
        $of = $source === '' ? $document : Document::query()->where('ref', $source)->first();
        if ($of === null || ! $this->rights->sees($by, $of) || $this->redactions->binds($by, $of)) {
            throw new Refused("There is no document “{$source}” whose pages you may take.");
        }

        return FilePages::pdf($this->files->whole($of->sha256), $of->file_name, $target);
    }

    private function fresh(Document $document, int $version): void
    {
        $document->refresh();
        if ($document->version !== $version) {
            throw new Refused("Version {$document->version} was made in the meantime. Look at it first; nothing was changed.");
        }
    }
}
