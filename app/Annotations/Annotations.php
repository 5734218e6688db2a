<?php

declare(strict_types=1);

namespace App\Annotations;

use App\Files\FileStore;
use App\Files\PageStore;
use App\History\Act;
use App\History\History;
use App\Index\RedactedTexts;
use App\Marks\Carrying;
use App\Marks\Turned;
use App\Models\Annotation;
use App\Models\Document;
use App\Models\Page;
use App\Models\User;
use App\Redaction\Redactions;
use App\Support\ExternalProgram;
use App\Support\Refused;
use App\Support\StaleWrite;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\UnreadableFile;
use Brenvic\Core\Capture\WordBox;
use Brenvic\Core\Pages\AnnotationKind;
use Brenvic\Core\Pages\Box;
use Brenvic\Core\Pages\Overlay;
use Brenvic\Core\Versions\Quote;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/** What people lay over the pages of documents. One’s own can be changed and taken back; those of others are read. */
final readonly class Annotations
{
    /** Annotations of one document that are shown. */
    private const MOST = 2_000;

    /** The columns that say where an annotation is. */
    private const PLACE = ['page', 'boxes', 'strokes', 'start', 'length', 'is_lost'];

    /** What stands for words that were removed. */
    private const REMOVED = '████';

    public function __construct(private Redactions $redactions, private FileStore $files)
    {
    }

    /**
     * Those a person may see: their own, and what others did not keep to themselves. Whoever may see the redacted copy only
     * sees their own: those of others may say what was removed.
     *
     * @return list<Annotation>
     */
    public function of(User $user, Document $document): array
    {
        return array_values($this->seenBy($user, $document)->orderBy('page')->orderBy('id')->limit(self::MOST)->get()->all());
    }

    /** One that a person sees, or one of their own that was taken back. */
    public function find(User $user, Document $document, int $id): Annotation
    {
        return $this->seenBy($user, $document)
            ->withTrashed()
            ->where(static fn (Builder $q) => $q->whereNull('deleted_at')->orWhere('user_id', $user->id))
            ->findOrFail($id);
    }

    /** @return Builder<Annotation> one's own, and those of others that are not private */
    private function seenBy(User $user, Document $document): Builder
    {
        $isBound = $this->redactions->binds($user, $document);

        /** @var Builder<Annotation> */
        return Annotation::query()
            ->with('user')
            ->where('document_id', $document->id)
            ->where(
                static fn (Builder $q) => $q
                    ->where('user_id', $user->id)
                    ->when(! $isBound, static fn (Builder $any) => $any->orWhere('is_private', false)),
            );
    }

    /**
     * @param  array<string, mixed>  $given  page, kind, boxes, strokes, start, length, text, private, folded, words
     */
    public function add(Document $document, User $by, array $given): Annotation
    {
        return DB::transaction(function () use ($document, $by, $given): Annotation {
            $row =
                Page::query()->where('document_id', $document->id)->where('number', $given['page'])->first() ??
                throw new Refused("The document has no page {$given['page']}.");
            $annotation = new Annotation([
                'document_id' => $document->id,
                'version' => $document->version,
                'user_id' => $by->id,
                'page' => $given['page'],
                'kind' => AnnotationKind::from($given['kind']),
            ]);
            $this->fill($annotation, $given, PageStore::page($row));
            $annotation->save();
            $annotation->is_private || self::note($annotation, $by, $document);

            return $annotation->load('user');
        });
    }

    /** @param  array<string, mixed>  $given  as for `add`, and the lock_version it was changed from */
    public function change(Annotation $annotation, User $by, array $given): Annotation
    {
        return DB::transaction(function () use ($annotation, $by, $given): Annotation {
            $annotation->refresh();
            $this->guard($annotation, $by);
            if ((int) $given['lock_version'] !== $annotation->lock_version) {
                throw new StaleWrite($this->shaped($annotation->load('user'), $by));
            }
            // One whose place was lost may be put on another page.
            $wasPrivate = $annotation->is_private;
            $annotation->page = isset($given['page']) && $annotation->is_lost ? (int) $given['page'] : $annotation->page;
            $page =
                Page::query()->where('document_id', $annotation->document_id)->where('number', $annotation->page)->first() ??
                throw new Refused("The document has no page {$annotation->page}.");
            $this->fill(
                $annotation,
                array_intersect_key($given, array_flip(['boxes', 'strokes', 'start', 'length', 'text', 'folded', 'private'])),
                PageStore::page($page),
            );
            if (array_intersect_key($given, array_flip(['boxes', 'strokes', 'start'])) !== []) {
                Carrying::forget('annotation', $annotation->id);
            }
            $annotation
                ->fill([
                    'lock_version' => $annotation->lock_version + 1,
                    'is_lost' => $annotation->is_lost && ! isset($given['boxes']) && ! isset($given['strokes']),
                ])
                ->save();
            if ($wasPrivate && ! $annotation->is_private) {
                self::note($annotation, $by, $annotation->document()->firstOrFail());
            }

            return $annotation->load('user');
        });
    }

    public function takeBack(Annotation $annotation, User $by): void
    {
        $this->guard($annotation, $by);
        $annotation->delete();
    }

    public function restore(Annotation $annotation, User $by): Annotation
    {
        $this->guard($annotation, $by);
        $annotation->restore();

        return $annotation->load('user');
    }

    /**
     * Takes the annotations that a PDF itself has in; those taken in before are left out.
     *
     * @return int how many
     */
    public function takeIn(Document $document, User $by): int
    {
        if (FileKind::from($document->file_kind) !== FileKind::Pdf || $this->redactions->binds($by, $document)) {
            throw new Refused('Only a PDF has annotations of its own.');
        }
        try {
            $found = ExternalProgram::inFolder(
                fn (string $folder): array => AnnotatedPdf::read($this->files->path($document->sha256), $folder),
            );
        } catch (UnreadableFile $fault) {
            throw new Refused($fault->getMessage());
        }

        return DB::transaction(function () use ($document, $by, $found): int {
            $taken = 0;
            $pages = Page::query()->where('document_id', $document->id)->whereIn('number', array_keys($found))->get()->keyBy('number')->all();
            foreach ($found as $number => $overlays) {
                foreach (isset($pages[$number]) ? $overlays : [] as $overlay) {
                    $text =
                        $overlay->author === '' || $overlay->author === $by->name
                            ? $overlay->text
                            : trim("{$overlay->text}\n({$overlay->author})");
                    $boxes = array_map(static fn (Box $b): array => $b->edges(), $overlay->boxes);
                    $isKnown = Annotation::query()
                        ->where('document_id', $document->id)
                        ->where('page', $number)
                        ->where('kind', $overlay->kind)
                        ->where('text', $text)
                        ->get()
                        ->contains(
                            static fn (Annotation $a): bool => self::near($a->boxes, $boxes) &&
                                count($a->strokes) === count($overlay->strokes),
                        );
                    if (! $isKnown) {
                        $annotation = new Annotation([
                            'document_id' => $document->id,
                            'version' => $document->version,
                            'user_id' => $by->id,
                            'page' => $number,
                            'kind' => $overlay->kind,
                        ]);
                        $this->fill(
                            $annotation,
                            ['boxes' => $boxes, 'strokes' => $overlay->strokes, 'text' => $text, 'folded' => $overlay->isFolded],
                            PageStore::page($pages[$number]),
                        );
                        $annotation->save();
                        $taken++;
                    }
                }
            }
            if ($taken > 0) {
                History::record(Act::Annotated, $by, $document, ['taken_in' => $taken]);
            }

            return $taken;
        });
    }

    /**
     * @param  list<list<float>>  $a
     * @param  list<list<float>>  $b
     */
    private static function near(array $a, array $b): bool
    {
        foreach ($a as $i => $box) {
            foreach ($box as $j => $edge) {
                if (! isset($b[$i][$j]) || abs($b[$i][$j] - $edge) > 1) {
                    return false;
                }
            }
        }

        return count($a) === count($b);
    }

    /** @return array<string, mixed> */
    public function shaped(Annotation $a, User $user): array
    {
        $exact = $this->isRemovedFrom($user, $a) ? self::REMOVED : $a->exact;

        return [
            'id' => $a->id,
            'page' => $a->page,
            'kind' => $a->kind->value,
            'boxes' => $a->boxes,
            'strokes' => $a->strokes,
            'start' => $a->start,
            'length' => $a->length,
            'exact' => $exact,
            'text' => $a->text,
            'folded' => $a->is_folded,
            'private' => $a->is_private,
            'lost' => $a->is_lost,
            'by' => $a->user->name,
            'own' => $a->user_id === $user->id,
            'at' => $a->updated_at->toIso8601String(),
            'lock_version' => $a->lock_version,
        ];
    }

    /** Whether the words that a mark stands on were removed for this person. */
    private function isRemovedFrom(User $user, Annotation $a): bool
    {
        if (
            $a->start === null ||
            ! RedactedTexts::has($a->document_id) ||
            ! in_array($a->document_id, $this->redactions->bound($user), true)
        ) {
            return false;
        }

        return DB::table('redactions')
            ->where('document_id', $a->document_id)
            ->where('page', $a->page)
            ->whereRaw('start < ? AND start + length > ?', [$a->start + (int) $a->length, $a->start])
            ->exists();
    }

    /** Puts what earlier versions have where it belongs in the present one; says of the rest that its place is not known. */
    public function carry(Document $document): void
    {
        // Those that were taken back too: they may be brought back.
        $old = Annotation::query()->withTrashed()->where('document_id', $document->id)->where('version', '<', $document->version)->get();
        $carrying = new Carrying($document, 'annotation');
        foreach ($old as $annotation) {
            $carrying->keep($annotation, self::PLACE);
            $place = $carrying->before($annotation) ?? (self::along($carrying, $annotation) ?? self::byWords($carrying, $annotation));
            $annotation->fill(['version' => $document->version, 'is_lost' => $place === null, ...$place ?? []]);
            $annotation->timestamps = false;
            $annotation->save();
        }
    }

    /**
     * The place on a page that Brenvic itself moved or turned, exactly as it was on it.
     *
     * @return array<string, mixed>|null
     */
    private static function along(Carrying $carrying, Annotation $annotation): ?array
    {
        $map = $annotation->is_lost ? null : $carrying->map($annotation->version);
        if ($map === null) {
            return null;
        }
        [$number, $turn] = $map->to($annotation->page)[0] ?? [0, 0];
        $now = $carrying->page($number);
        if ($now === null) {
            return ['is_lost' => true];
        }
        $then = $carrying->pageOf($annotation->version, $annotation->page);
        $words =
            $annotation->start === null
                ? null
                : $carrying->within($annotation->quote(), $annotation->start, (int) $annotation->length, $then, $now);
        $turned = $then === null ? null : new Turned($turn, $then, $now);

        return [
            'page' => $number,
            'start' => $words[0] ?? null,
            'length' => $words[1] ?? null,
            'boxes' => $turned?->boxes($annotation->boxes) ?? $annotation->boxes,
            'strokes' => $turned?->strokes($annotation->strokes) ?? $annotation->strokes,
        ];
    }

    /**
     * The place where the words are that an annotation stands on or by.
     *
     * @return array<string, mixed>|null
     */
    private static function byWords(Carrying $carrying, Annotation $annotation): ?array
    {
        $found = $carrying->find($annotation->quote(), $annotation->page);
        if ($found === null) {
            return null;
        }
        [$number, $start, $length] = $found;
        $boxes = self::boxesOf($carrying->page($number) ?? new TextPage(0, 0, ''), $start, $length);
        $then = $annotation->start === null ? null : $carrying->pageOf($annotation->version, $annotation->page);
        $before = $then === null ? [] : self::boxesOf($then, (int) $annotation->start, (int) $annotation->length);
        // A highlight of words is as large as they are; an area, a note or a pen stroke keeps its distance from them.
        $isOnWords = $annotation->kind === AnnotationKind::Highlight && ($before === [] || self::near($annotation->boxes, $before));

        return [
            'page' => $number,
            'start' => $start,
            'length' => $length,
            ...$isOnWords ? ['boxes' => $boxes] : self::moved($annotation, $before, $boxes),
        ];
    }

    /** @param  array<string, mixed>  $given */
    private function fill(Annotation $annotation, array $given, TextPage $page): void
    {
        $kind = $annotation->kind;
        if (isset($given['boxes'])) {
            $annotation->boxes = array_values(array_map(static fn (array $b): array => Box::of(array_values($b))->edges(), $given['boxes']));
        }
        if (isset($given['strokes'])) {
            $annotation->strokes = array_values(
                array_map(
                    static fn (array $s): array => array_values(
                        array_map(static fn (array $p): array => [(float) $p[0], (float) $p[1]], $s),
                    ),
                    $given['strokes'],
                ),
            );
        }
        $annotation->text = isset($given['text']) ? trim((string) $given['text']) : $annotation->text;
        $annotation->is_folded = (bool) ($given['folded'] ?? $annotation->is_folded);
        $annotation->is_private = (bool) ($given['private'] ?? $annotation->is_private);
        // The words it stands on, or the nearest ones: what it is found by in another version.
        [$start, $length] = match (true) {
            isset($given['start'], $given['length']) => [(int) $given['start'], (int) $given['length']],
            // On a page without places, boxes and strokes are counted from the beginning of the words.
            $page->words !== [] && (isset($given['boxes']) || isset($given['strokes'])) => self::anchor(
                $annotation,
                $page,
                (bool) ($given['words'] ?? false),
            ),
            default => [$annotation->start, $annotation->length],
        };
        if ($start !== null && $start + $length > strlen($page->text)) {
            throw new Refused('This place is not on the page.');
        }
        $quote = $start === null ? null : Quote::in($page->text, $start, (int) $length);
        $annotation->fill([
            'start' => $start,
            'length' => $length,
            'exact' => $quote->exact ?? '',
            'prefix' => $quote->prefix ?? '',
            'suffix' => $quote->suffix ?? '',
        ]);
        if ($kind === AnnotationKind::Highlight && (($given['words'] ?? false) || isset($given['start']))) {
            $annotation->boxes =
                $start === null
                    ? throw new Refused('There is no word where you marked. Mark it as an area.')
                    : self::boxesOf($page, $start, (int) $length);
        }
        if ($start === null && ($page->width <= 0 || ($annotation->boxes === [] && $annotation->strokes === []))) {
            throw new Refused(
                $page->width <= 0
                    ? 'In a text, a mark belongs to a word. Choose the word.'
                    : 'Say where on the page it belongs.',
            );
        }
    }

    /**
     * The words under an annotation, or where there are none, and these are not meant alone, the one nearest to it.
     *
     * @return array{int|null, int|null} offset and length in bytes
     */
    private static function anchor(Annotation $annotation, TextPage $page, bool $onlyUnder): array
    {
        $around = $annotation->kind === AnnotationKind::Pen ? (new Overlay(AnnotationKind::Pen, [], $annotation->strokes))->around() : null;
        $boxes = $around === null ? array_map(Box::of(...), $annotation->boxes) : [$around];
        $under = array_values(
            array_filter(
                $page->words,
                static fn (WordBox $w): bool => array_filter(
                    $boxes,
                    static fn (Box $b): bool => $b->touches(Box::ofWord($w)->grown(-0.25)),
                ) !== [],
            ),
        );
        if ($under !== [] && $annotation->kind !== AnnotationKind::Note) {
            $last = end($under);

            return [$under[0]->offset, $last->offset + $last->length - $under[0]->offset];
        }
        $nearest = null;
        $least = INF;
        foreach ($boxes === [] || $onlyUnder ? [] : $page->words as $word) {
            $far = ($word->left - $boxes[0]->left) ** 2 + ($word->top - $boxes[0]->top) ** 2;
            if ($far < $least) {
                [$nearest, $least] = [$word, $far];
            }
        }

        return $nearest === null ? [null, null] : [$nearest->offset, $nearest->length];
    }

    /** @return list<array{float, float, float, float}> the boxes of words, those of one line joined */
    private static function boxesOf(TextPage $page, int $start, int $length): array
    {
        $boxes = [];
        foreach ($page->words as $word) {
            if ($word->offset < $start + $length && $start < $word->offset + $word->length) {
                $last = array_key_last($boxes);
                $isSameLine =
                    $last !== null &&
                    abs($boxes[$last][1] - $word->top) < ($word->bottom - $word->top) / 2 &&
                    $word->left >= $boxes[$last][0];
                if ($isSameLine) {
                    $boxes[$last] = [
                        $boxes[$last][0],
                        min($boxes[$last][1], $word->top),
                        max($boxes[$last][2], $word->right),
                        max($boxes[$last][3], $word->bottom),
                    ];
                } else {
                    $boxes[] = [$word->left, $word->top, $word->right, $word->bottom];
                }
            }
        }

        return $boxes;
    }

    /**
     * @param  list<array{float, float, float, float}>  $then  where the words were
     * @param  list<array{float, float, float, float}>  $anchor  where they are now
     * @return array<string, mixed> boxes and strokes moved with the words, or as they were when nothing is known of where those were
     */
    private static function moved(Annotation $annotation, array $then, array $anchor): array
    {
        if ($anchor === [] || $then === []) {
            return ['boxes' => $annotation->boxes, 'strokes' => $annotation->strokes];
        }
        [$x, $y] = [$anchor[0][0] - $then[0][0], $anchor[0][1] - $then[0][1]];

        return [
            'boxes' => array_map(static fn (array $b): array => [$b[0] + $x, $b[1] + $y, $b[2] + $x, $b[3] + $y], $annotation->boxes),
            'strokes' => array_map(
                static fn (array $s): array => array_map(static fn (array $p): array => [$p[0] + $x, $p[1] + $y], $s),
                $annotation->strokes,
            ),
        ];
    }

    /** What is private is nobody else's, so the history of the document has it only when it is so no more. */
    private static function note(Annotation $annotation, User $by, Document $document): void
    {
        History::record(Act::Annotated, $by, $document, ['kind' => $annotation->kind->value, 'page' => $annotation->page]);
    }

    private function guard(Annotation $annotation, User $by): void
    {
        if ($annotation->user_id !== $by->id) {
            throw new Refused('Only who made it changes it.');
        }
    }
}
