<?php

declare(strict_types=1);

namespace App\Redaction;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Files\MadeFile;
use App\Files\PageStore;
use App\Files\Renditions;
use App\History\Act;
use App\History\History;
use App\Index\Indexer;
use App\Index\RedactedTexts;
use App\Jobs\Urgency;
use App\Marks\Carrying;
use App\Marks\Turned;
use App\Models\DeliveryForm;
use App\Models\Document;
use App\Models\Page;
use App\Models\Redaction;
use App\Models\Rendition;
use App\Models\User;
use App\Support\Refused;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\WordBox;
use Brenvic\Core\Design\VocabularyPart;
use Brenvic\Core\Pages\Box;
use Brenvic\Core\Pages\Hit;
use Brenvic\Core\Redaction\RedactedPage;
use Brenvic\Core\Redaction\Sought;
use Brenvic\Core\Versions\Quote;
use Illuminate\Support\Facades\DB;

/**
 * What is removed from documents for those who may see the redacted copy only. The original stays as it is; the copy is
 * made in the background, and whatever else shows the text (pages, snippets, the index) follows the same marks.
 */
final class Redactions
{
    /** @var array<int, list<int>> by the person’s id */
    private array $bound = [];

    /** Places that are listed at most for one search. */
    /** The columns that say where a redaction is. */
    private const PLACE = ['page', 'start', 'length', 'areas', 'is_lost'];

    private const MOST = 2_000;

    private const AROUND = 60;

    /** The vocabulary of reasons; where there is none, reasons are written freely. */
    public const REASONS = 'redaction_reason';

    public function __construct(
        private readonly Catalog $catalog,
        private readonly Indexer $indexer,
        private readonly Rights $rights,
        private readonly Renditions $renditions,
        private readonly CleanNames $names,
    ) {
    }

    /** @return list<Redaction> in the order of the pages */
    public function of(Document $document): array
    {
        return array_values(
            Redaction::query()
                ->with(['maker', 'checker'])
                ->where('document_id', $document->id)
                ->orderBy('page')
                ->orderByRaw('start IS NULL, start')
                ->orderBy('id')
                ->get()
                ->all(),
        );
    }

    /** Whether a person sees a document only as its redacted copy. */
    public function binds(User $user, Document $document): bool
    {
        return RedactedTexts::has($document->id) && $this->rights->isKeptFrom($user, 'original', $document->id);
    }

    /** @return list<int> the documents that a person sees only as their redacted copies */
    public function bound(User $user): array
    {
        if (isset($this->bound[$user->id])) {
            return $this->bound[$user->id];
        }
        $redacted = array_map(intval(...), DB::table('redactions')->distinct()->pluck('document_id')->all());
        $kept = $redacted === [] ? null : $this->rights->keptFrom($user, 'original');

        return $this->bound[$user->id] = $kept === null ? [] : array_values(array_filter($redacted, $kept->has(...)));
    }

    /** One page as those see it who may see the redacted copy only. */
    public function page(Document $document, int $number, TextPage $page): RedactedPage
    {
        $marks = Redaction::query()->where('document_id', $document->id)->where('page', $number)->where('is_lost', false)->get();

        return RedactedPage::of($page, RedactedTexts::marks($marks));
    }

    /**
     * Every place of words, or of what has a form, with what stands around it.
     *
     * @param  list<Sought>  $sought
     * @return list<array{page: int, start: int, length: int, part: ''|'begins'|'ends', before: string, exact: string, after: string, removed: bool}> `part` of what a page break cuts in two
     */
    public function places(Document $document, array $sought): array
    {
        $removed = Redaction::query()->where('document_id', $document->id)->whereNotNull('start')->get()->groupBy('page');
        $places = [];
        $last = null;
        foreach (
            DB::table('pages')
                ->where('document_id', $document->id)
                ->orderBy('number')
                ->select(['number', 'text', 'width'])
                ->cursor() as $page
        ) {
            $number = (int) $page->number;
            $text = (string) $page->text;
            /** @var array<string, array{int, string, Hit, ''|'begins'|'ends'}> $found */
            $found = [];
            foreach ($sought as $one) {
                foreach ($one->in($text) as $hit) {
                    $found["{$hit->offset} {$hit->length}"] = [$number, $text, $hit, ''];
                }
                if ($last === null || $last[0] !== $number - 1) {
                    continue;
                }
                foreach ($one->across($last[1], $text, (float) $page->width === 0.0) as [$begins, $ends]) {
                    $found["before {$begins->offset} {$begins->length}"] = [$last[0], $last[1], $begins, 'begins'];
                    $found["{$ends->offset} {$ends->length}"] = [$number, $text, $ends, 'ends'];
                }
            }
            uasort($found, static fn (array $a, array $b): int => [$a[0], $a[2]->offset] <=> [$b[0], $b[2]->offset]);
            foreach ($found as [$at, $in, $hit, $part]) {
                if (count($places) >= self::MOST) {
                    return array_values($places);
                }
                $end = $hit->offset + $hit->length;
                // What stands before the break may have been found by another word already.
                $places["{$at} {$hit->offset} {$end}"] ??= [
                    'page' => $at,
                    'start' => $hit->offset,
                    'length' => $hit->length,
                    'part' => $part,
                    'before' => ltrim(mb_scrub(substr($in, max(0, $hit->offset - self::AROUND), min(self::AROUND, $hit->offset)))),
                    'exact' => substr($in, $hit->offset, $hit->length),
                    'after' => rtrim(mb_scrub(substr($in, $end, self::AROUND))),
                    'removed' => $removed
                        ->get($at)
                        ?->contains(static fn (Redaction $r): bool => $r->start <= $hit->offset && $r->start + $r->length >= $end) ??
                        false,
                ];
            }
            $last = [$number, $text];
        }

        return array_values($places);
    }

    /**
     * Removes places and areas, as one act.
     *
     * @param  list<array{page: int, start?: int|null, length?: int|null, areas?: list<list<float|int>>|null, words?: bool}>  $marks  with `words` the words under the areas are meant
     *
     * @throws Refused
     */
    public function add(Document $document, User $by, array $marks, string $reason, int $version): void
    {
        $this->guard($document);
        $reasons = $this->reasons();
        if ($reason === '' || ($reasons !== [] && ! isset($reasons[$reason]))) {
            throw new Refused('Choose the reason for which it is removed.');
        }
        DB::transaction(function () use ($document, $by, $marks, $reason, $version): void {
            $document->refresh();
            if ($document->version !== $version) {
                throw new Refused('A new version was made in the meantime. Look at it before you remove anything from it.');
            }
            $texts = DB::table('pages')
                ->where('document_id', $document->id)
                ->whereIn('number', array_column($marks, 'page'))
                ->pluck('text', 'number');
            foreach ($this->spelledOut($document, $marks) as $mark) {
                $text = (string) ($texts[$mark['page']] ?? throw new Refused("The document has no page {$mark['page']}."));
                $quote = null;
                if (isset($mark['start'], $mark['length'])) {
                    if (strlen($text) < $mark['start'] + $mark['length']) {
                        throw new Refused('This place is not on the page any more. Look for it again.');
                    }
                    $quote = Quote::in($text, $mark['start'], $mark['length']);
                }
                Redaction::query()->create([
                    'document_id' => $document->id,
                    'version' => $document->version,
                    'page' => $mark['page'],
                    'start' => $mark['start'] ?? null,
                    'length' => $mark['length'] ?? null,
                    'areas' => isset($mark['areas']) ? array_map(static fn (array $a): array => Box::of($a)->edges(), $mark['areas']) : null,
                    'exact' => $quote->exact ?? '',
                    'prefix' => $quote->prefix ?? '',
                    'suffix' => $quote->suffix ?? '',
                    'reason' => $reason,
                    'made_by' => $by->id,
                    'made_at' => now(),
                ]);
            }
            History::record(Act::Redacted, $by, $document, [
                'version' => $document->version,
                'places' => count($marks),
                'reason' => $reason,
            ]);
            $this->follow($document);
        });
    }

    /**
     * Marks whose areas mean words, as places in the text.
     *
     * @param  list<array{page: int, start?: int|null, length?: int|null, areas?: list<list<float|int>>|null, words?: bool}>  $marks
     * @return list<array{page: int, start?: int|null, length?: int|null, areas?: list<list<float|int>>|null}>
     */
    private function spelledOut(Document $document, array $marks): array
    {
        $out = [];
        foreach ($marks as $mark) {
            if (! ($mark['words'] ?? false)) {
                $out[] = $mark;

                continue;
            }
            $page = PageStore::page(Page::query()->where('document_id', $document->id)->where('number', $mark['page'])->firstOrFail());
            $areas = array_map(Box::of(...), $mark['areas'] ?? []);
            foreach (self::runs($page->words, $areas) as [$start, $end]) {
                $out[] = ['page' => $mark['page'], 'start' => $start, 'length' => $end - $start];
            }
        }
        if ($out === []) {
            throw new Refused('There is no word where you marked. Mark it as an area.');
        }

        return $out;
    }

    /**
     * Words under areas; those that follow one another are one place.
     *
     * @param  list<WordBox>  $words
     * @param  array<Box>  $areas
     * @return list<array{int, int}> where each begins, and where it ends
     */
    private static function runs(array $words, array $areas): array
    {
        $runs = [];
        $last = -2;
        foreach ($words as $i => $word) {
            if (array_filter($areas, static fn (Box $a): bool => $a->touches(Box::ofWord($word)->grown(-0.25))) === []) {
                continue;
            }
            $end = $word->offset + $word->length;
            if ($last === $i - 1 && $runs !== []) {
                $runs[] = [array_pop($runs)[0], $end];
            } else {
                $runs[] = [$word->offset, $end];
            }
            $last = $i;
        }

        return $runs;
    }

    /** @param  list<int>  $ids */
    public function takeBack(Document $document, User $by, array $ids): void
    {
        $this->guard($document);
        DB::transaction(function () use ($document, $by, $ids): void {
            $gone = Redaction::query()->where('document_id', $document->id)->whereIntegerInRaw('id', $ids)->delete();
            if ($gone > 0) {
                History::record(Act::RedactionTakenBack, $by, $document, ['places' => $gone]);
                $this->follow($document);
            }
        });
    }

    /** A second person has looked at what is removed. */
    public function check(Document $document, User $by): void
    {
        DB::transaction(function () use ($document, $by): void {
            if (Redaction::query()->where('document_id', $document->id)->where('is_lost', true)->exists()) {
                throw new Refused('Some of what was removed was not found in this version. Remove it again or undo it first.');
            }
            $open = Redaction::query()->where('document_id', $document->id)->whereNull('checked_at');
            if ((clone $open)->where('made_by', $by->id)->exists()) {
                throw new Refused('Someone other than the person who removed it must check it.');
            }
            $done = $open->update(['checked_by' => $by->id, 'checked_at' => now()]);
            if ($done > 0) {
                History::record(Act::RedactionChecked, $by, $document, ['places' => $done]);
            }
        });
    }

    /** @return array<string, string> code => label; empty where reasons are written freely */
    public function reasons(): array
    {
        $terms = $this->catalog->design()->one(VocabularyPart::class, self::REASONS)->terms ?? [];

        return array_column(array_filter($terms, static fn (array $t): bool => ($t['retired'] ?? false) !== true), 'label', 'code');
    }

    /** Why the redacted copy may not leave yet; null when it may. */
    public function openReason(Document $document): ?string
    {
        $all = Redaction::query()->where('document_id', $document->id);

        return match (true) {
            (clone $all)->where('is_lost', true)->exists() => 'What was removed from an earlier version was not found in this one, and nobody has looked at it yet.',
            config('brenvic.redaction_check') && (clone $all)->whereNull('checked_at')->exists() => 'Nobody has checked yet what is removed.',
            default => null,
        };
    }

    /** Finds what was removed again in the text of a new version. What is not found, and every area, has to be looked at. */
    public function carry(Document $document): void
    {
        $old = Redaction::query()->where('document_id', $document->id)->where('version', '<', $document->version)->get();
        if ($old->isEmpty()) {
            return;
        }
        $carrying = new Carrying($document, 'redaction');
        foreach ($old as $redaction) {
            $carrying->keep($redaction, self::PLACE);
            $before = $carrying->before($redaction);
            $places = $before !== null ? [$before] : self::along($carrying, $redaction);
            if ($places === null) {
                $found = $redaction->start === null ? null : $carrying->find($redaction->quote(), $redaction->page);
                $places = $found === null ? [] : [array_combine(['page', 'start', 'length'], $found)];
            }
            $unchecked = ['version' => $document->version, 'checked_by' => null, 'checked_at' => null];
            // A page that was put in twice has it removed twice.
            foreach (array_slice($places, 1) as $place) {
                $redaction
                    ->replicate()
                    ->fill([...$unchecked, 'is_lost' => false, ...$place])
                    ->save();
            }
            $redaction->fill([...$unchecked, 'is_lost' => $places === [], ...$places[0] ?? []])->save();
        }
        $this->follow($document);
    }

    /**
     * The places on pages that Brenvic itself moved or turned.
     *
     * @return list<array<string, mixed>>|null none when the page is gone or its words are not where they were; null when nothing is known of the pages
     */
    private static function along(Carrying $carrying, Redaction $redaction): ?array
    {
        $map = $redaction->is_lost ? null : $carrying->map($redaction->version);
        if ($map === null) {
            return null;
        }
        $then = $carrying->pageOf($redaction->version, $redaction->page);
        $places = [];
        foreach ($map->to($redaction->page) as [$number, $turn]) {
            $now = $carrying->page($number);
            $words =
                $now === null || $redaction->start === null
                    ? null
                    : $carrying->within($redaction->quote(), $redaction->start, (int) $redaction->length, $then, $now);
            if ($now === null || $then === null || ($redaction->start !== null && $words === null)) {
                // One of its places is not known: somebody has to look.
                return [];
            }
            $areas = $redaction->areas === null ? null : (new Turned($turn, $then, $now))->boxes($redaction->areas);
            $places[] = ['page' => $number, 'start' => $words[0] ?? null, 'length' => $words[1] ?? null, 'areas' => $areas];
        }

        return $places;
    }

    /** The redacted copy of the present version; null while it is being made. */
    public function copy(Document $document): ?Rendition
    {
        return $this->renditions->find($document, DeliveryForm::Redacted, $this->stamp($document));
    }

    /** What a copy is made of: the file, and everything that is removed from it. */
    public function stamp(Document $document): string
    {
        $marks = Redaction::query()
            ->where('document_id', $document->id)
            ->orderBy('id')
            ->get(['page', 'start', 'length', 'areas', 'reason', 'is_lost']);

        return hash('sha256', $document->sha256.$document->text_state.$marks->toJson());
    }

    /** Makes a copy anew that could not be made. */
    public function again(Document $document): void
    {
        if (RedactedTexts::has($document->id) && $this->copy($document)?->sha256 === null) {
            $this->renditions->clear($document);
            MakeRedacted::dispatch($document->id)->onQueue(Urgency::Awaited->value)->afterCommit();
        }
    }

    /** Keeps a copy that was made, unless the marks changed meanwhile. */
    public function keep(Document $document, string $stamp, ?string $file, string $name, string $fault): void
    {
        if ($this->stamp($document) === $stamp) {
            $this->renditions->keep($document, DeliveryForm::Redacted, $stamp, new MadeFile($file, $name, $fault));
        }
    }

    private function guard(Document $document): void
    {
        if ($document->state !== Document::FILED) {
            throw new Refused('File the document first.');
        }
        if ($document->text_state === Document::TEXT_PENDING) {
            throw new Refused('The text is still being read. Redact when it is finished, so that no word is missed.');
        }
        if ($document->page_count === 0) {
            throw new Refused("Nothing can be removed from this file: {$document->text_reason}");
        }
    }

    /** Lets the index and the copy follow. */
    private function follow(Document $document): void
    {
        $this->bound = [];
        $this->names->follow($document);
        $this->indexer->update([$document->id]);
        if (RedactedTexts::has($document->id)) {
            MakeRedacted::dispatch($document->id)->onQueue(Urgency::Awaited->value)->afterCommit();
        } else {
            $this->renditions->clear($document);
        }
    }
}
