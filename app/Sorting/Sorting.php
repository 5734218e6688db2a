<?php

declare(strict_types=1);

namespace App\Sorting;

use App\Access\WaitingSight;
use App\Capture\Layering;
use App\Capture\ReadText;
use App\Catalog\Catalog;
use App\Files\FilePages;
use App\Files\FileStore;
use App\Files\NewFile;
use App\Intake\Arrivals;
use App\Intake\Filing;
use App\Models\Document;
use App\Models\DocumentType;
use App\Models\Library;
use App\Models\MadeHow;
use App\Models\User;
use App\Models\Version;
use App\Support\ExternalProgram;
use App\Support\Refused;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Pages\PagePlan;
use Brenvic\Core\Pages\SeparatorCode;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Gate;
use InvalidArgumentException;

/**
 * Page work on what waits: stacks become documents, pages find their place. Every page of what is worked on has a place in
 * what comes of it, so nothing is lost; pages that are left out, and all of them as they lay, stay in the first version.
 */
final readonly class Sorting
{
    private const GONE = 'Some of these documents were filed or removed in the meantime. Nothing was changed; look at the list again.';

    public function __construct(
        private Catalog $catalog,
        private FileStore $files,
        private Arrivals $arrivals,
        private PageSigns $signs,
    ) {
    }

    /**
     * @param  list<string>  $sources  references of waiting documents
     * @param  list<SortedDocument>  $wanted
     * @return int|null what the work is taken back by; null when all is as it was
     *
     * @throws Refused
     */
    public function sort(User $by, array $sources, array $wanted): ?int
    {
        $documents = $this->sources($by, $sources);

        return ExternalProgram::inFolder(function (string $folder) use ($by, $documents, $wanted): ?int {
            $pdfs = $counts = [];
            foreach ($documents as $i => $document) {
                $whole = $this->files->whole($document->sha256);
                $pdfs[$document->ref] = FilePages::pdf($whole, $document->file_name, "{$folder}/source-{$i}.pdf");
                $counts[$document->ref] = FilePages::count($pdfs[$document->ref], $folder);
            }
            self::ofAll($wanted, $counts);
            $made = [];
            $untouched = [];
            foreach ($wanted as $i => $one) {
                $source = $one->pages[0]->source;
                if ($one->isWhole($source, $counts[$source]) && $one->known == new SeparatorCode()) {
                    $untouched[$source] = true;
                } else {
                    $made[] = [$one, ...$this->filesOf($one, $pdfs, $counts, "{$folder}/{$i}")];
                }
            }
            $used = $documents->reject(static fn (Document $document): bool => isset($untouched[$document->ref]))->keyBy('ref');

            return $made === [] ? null : $this->keep($by, $used, $made);
        });
    }

    /** Takes page work back, as long as nothing of it is filed. */
    public function undo(User $by, int $work): void
    {
        DB::transaction(static function () use ($by, $work): void {
            $row = DB::table('page_works')->where('id', $work)->where('user_id', $by->id)->first() ?? abort(404);
            $results = json_decode((string) $row->results, true);
            $waiting = Document::query()->whereKey($results)->where('state', Document::WAITING)->count();
            if ($row->is_undone || $waiting !== count($results)) {
                throw new Refused('Something of it was filed or worked on since, so it stays as it is.');
            }
            Document::query()->whereKey($results)->get()->each->delete();
            Document::onlyTrashed()->whereKey(json_decode((string) $row->sources, true))->restore();
            DB::table('page_works')->where('id', $work)->update(['is_undone' => true]);
        });
    }

    /**
     * What waits is never changed, but for words that are put into it: its pages are those that were looked at.
     *
     * @param  list<string>  $sources
     * @return Collection<int, Document>
     */
    private function sources(User $by, array $sources): Collection
    {
        $found = WaitingSight::of($by)
            ->where('state', Document::WAITING)
            ->whereNull('parent_id')
            ->whereIn('ref', $sources)
            ->orderBy('id')
            ->get();
        foreach ($found as $document) {
            Gate::authorize('file', $this->catalog->libraries()->get($document->library_id));
        }
        if ($found->count() !== count($sources)) {
            throw new Refused(self::GONE);
        }
        foreach ($found as $document) {
            if (! in_array($document->file_kind, [FileKind::Pdf->value, FileKind::Image->value], true)) {
                throw new Refused("“{$document->file_name}” has no pages. Pages come from PDFs and pictures.");
            }
        }

        return $found;
    }

    /**
     * Holds that each page has one place.
     *
     * @param  list<SortedDocument>  $wanted
     * @param  array<string, int>  $counts
     */
    private static function ofAll(array $wanted, array $counts): void
    {
        $left = [];
        foreach ($counts as $ref => $count) {
            if ($count === 0) {
                throw new Refused('One of the files cannot be opened, or is protected by a password. Nothing was changed.');
            }
            for ($page = 1; $page <= $count; $page++) {
                $left["{$ref}/{$page}"] = true;
            }
        }
        foreach ($wanted as $one) {
            if ($one->kept() === []) {
                throw new Refused('A document keeps at least one page. Remove a blank document from intake instead.');
            }
            foreach ($one->pages as $page) {
                $key = "{$page->source}/{$page->page}";
                if (! isset($left[$key])) {
                    throw new Refused('A page has two places, or is none of these documents’. Nothing was changed.');
                }
                unset($left[$key]);
            }
        }
        if ($left !== []) {
            throw new Refused(count($left).(count($left) === 1 ? ' page has' : ' pages have').' no place any more. Nothing was changed.');
        }
    }

    /**
     * The files of a new document: as its pages came, and as they are to be.
     *
     * @param  array<string, string>  $pdfs
     * @param  array<string, int>  $counts
     * @return array{string, string} paths; the same when nothing was done to the pages
     */
    private function filesOf(SortedDocument $one, array $pdfs, array $counts, string $stem): array
    {
        $asTheyCame = array_map(static fn (SortedPage $p): SortedPage => new SortedPage($p->source, $p->page), $one->pages);
        $came = self::joined($asTheyCame, $pdfs, $counts, "{$stem}-came.pdf");
        if ($one->isAsItCame()) {
            return [$came, $came];
        }
        $put = self::joined($one->kept(), $pdfs, $counts, "{$stem}-put.pdf");
        $angles = [];
        foreach ($one->kept() as $i => $page) {
            $angle = $page->isStraightened ? $this->skewOf($page) : 0.0;
            if ($angle !== 0.0) {
                $angles[$i + 1] = $angle;
            }
        }

        return [$came, $angles === [] ? $put : Straightening::of($put, $angles, "{$stem}-straight.pdf")];
    }

    private function skewOf(SortedPage $page): float
    {
        $sha256 = (string) Document::query()->where('ref', $page->source)->value('sha256');
        foreach ($this->signs->of($sha256) as $sign) {
            if ($sign->number === $page->page) {
                return $sign->skew;
            }
        }

        return 0.0;
    }

    /**
     * @param  list<SortedPage>  $pages
     * @param  array<string, string>  $pdfs
     * @param  array<string, int>  $counts
     */
    private static function joined(array $pages, array $pdfs, array $counts, string $target): string
    {
        try {
            $plan = PagePlan::of(
                array_map(static fn (SortedPage $p): array => ['source' => $p->source, 'page' => $p->page, 'turn' => $p->turn], $pages),
                $counts,
            );
        } catch (InvalidArgumentException $fault) {
            throw new Refused($fault->getMessage());
        }
        $runs = array_map(static fn (array $run): array => [...$run, 'source' => $pdfs[$run['source']]], $plan->runs());
        if (! FilePages::join($runs, $plan->turns(), $target, dirname($target))) {
            throw new Refused('The pages could not be put together. Nothing was changed.');
        }

        return $target;
    }

    /**
     * @param  \Illuminate\Support\Collection<string, Document>  $used  by reference
     * @param  list<array{SortedDocument, string, string}>  $made
     */
    private function keep(User $by, \Illuminate\Support\Collection $used, array $made): int
    {
        $taken = array_map(fn (array $m): array => [$m[0], $this->files->take($m[1]), $this->files->take($m[2])], $made);

        return DB::transaction(function () use ($by, $used, $taken): int {
            $ids = $used->map(static fn (Document $document): int => $document->id)->values()->all();
            $gone = Document::query()->whereKey($ids)->where('state', Document::WAITING)->get();
            if ($gone->count() !== count($ids)) {
                throw new Refused(self::GONE);
            }
            $results = [];
            $numbers = [];
            foreach ($taken as [$one, $came, $put]) {
                $source = $used[$one->pages[0]->source] ?? $used->firstOrFail();
                $numbers[$source->ref] = ($numbers[$source->ref] ?? 0) + 1;
                $results[] = $this->make($by, $source, $one, $came, $put, $numbers[$source->ref])->id;
            }
            $gone->each->delete();

            return DB::table('page_works')->insertGetId([
                'user_id' => $by->id,
                'sources' => json_encode($ids, JSON_THROW_ON_ERROR),
                'results' => json_encode($results, JSON_THROW_ON_ERROR),
                'made_at' => now(),
            ]);
        });
    }

    /**
     * @param  array{string, int}  $came  SHA-256 and bytes
     * @param  array{string, int}  $put
     */
    private function make(User $by, Document $source, SortedDocument $one, array $came, array $put, int $number): Document
    {
        [$library, $type] = $this->known($one, $source, $by);
        $name = pathinfo($source->file_name, PATHINFO_FILENAME).($number === 1 ? '' : " ({$number})").'.pdf';
        $isVersion = $came[0] !== $put[0];
        $document = $this->arrivals->create($library->id, new NewFile($put[0], $put[1], $name), $this->files->head($put[0]), [
            'document_type_id' => $type?->id,
            'created_by' => $source->created_by,
            'path' => $source->path,
            'source' => $source->source,
            'intake_group' => $source->intake_group,
            'intake_note' => $source->intake_note,
            'intake_dossier' => $one->known->dossier ?? $source->intake_dossier,
            'page_count' => count($one->kept()),
            'wants_layer' => true,
            'version' => $isVersion ? 2 : 1,
        ]);
        if ($number === 1) {
            Filing::copyValues($source->id, $document->id);
        }
        foreach ($isVersion ? [[1, $came, count($one->pages)], [2, $put, count($one->kept())]] : [] as [$version, [$sha256, $bytes], $pages]) {
            Version::query()->create([
                'document_id' => $document->id,
                'number' => $version,
                'sha256' => $sha256,
                'bytes' => $bytes,
                'file_name' => $name,
                'file_kind' => FileKind::Pdf->value,
                'page_count' => $pages,
                'text_state' => $version === 2 ? Document::TEXT_PENDING : Document::TEXT_NONE,
                'text_reason' => $version === 2 ? '' : 'The pages as they came; the words are read of those that were put in order.',
                'how' => $version === 2 ? MadeHow::PageWork : MadeHow::Filed,
                'note' => $version === 2 ? 'Put in order before filing' : '',
                'made_by' => $by->id,
                'made_at' => now(),
            ]);
        }
        $this->carry($document, $one);
        ReadText::soon($document);

        return $document;
    }

    /** The words of pages that lie as they lay when they were read. */
    private function carry(Document $document, SortedDocument $one): void
    {
        $read = Document::withTrashed()
            ->whereIn('ref', array_unique(array_map(static fn (SortedPage $page): string => $page->source, $one->pages)))
            ->where('text_state', Document::TEXT_READ)
            ->pluck('id', 'ref');
        foreach ($one->kept() as $i => $page) {
            if ($page->isAsItCame() && isset($read[$page->source])) {
                DB::insert(
                    'INSERT INTO version_pages (document_id, version, number, width, height, text, boxes)
                        SELECT ?, ?, ?, width, height, text, boxes FROM pages WHERE document_id = ? AND number = ?',
                    [$document->id, Layering::CARRIED, $i + 1, $read[$page->source], $page->page],
                );
                $document->ocr_confidence ??= Document::withTrashed()->whereKey($read[$page->source])->first()?->ocr_confidence;
            }
        }
        $document->save();
    }

    /** @return array{Library, DocumentType|null} */
    private function known(SortedDocument $one, Document $source, User $by): array
    {
        $named = $one->known->library === null ? null : $this->catalog->libraries()->firstWhere('code', $one->known->library);
        $library = $named !== null && Gate::allows('file', $named) ? $named : $source->library()->firstOrFail();

        return [$library, $this->catalog->typeOrNone($by, $one->known->type) ?? $this->catalog->types()->get((int) $source->document_type_id)];
    }
}
