<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Access\Rights;
use App\Alarms\Alarms;
use App\Catalog\Catalog;
use App\Models\Document;
use App\Models\ProcedureCase;
use App\Support\Column;
use App\Support\Refused;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Procedures\Plan\Procedure;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\Asking\SearchError;
use Illuminate\Support\Facades\DB;

/** Has procedures begin by themselves: when documents are filed, and when a criterion comes true of one. */
final readonly class Beginning
{
    private const PIECE = 100;

    /** More cases of one document within an hour are procedures that begin one another in a circle. */
    private const MOST_AN_HOUR = 30;

    public function __construct(
        private Catalog $catalog,
        private Cases $cases,
        private ProcedureVersions $versions,
        private Rights $rights,
    ) {
    }

    /**
     * Some documents changed: they are looked at soon, if a procedure could begin with them.
     *
     * @param  list<int>  $ids
     */
    public function changed(array $ids): void
    {
        $parts = $this->parts();
        if ($parts === []) {
            return;
        }
        $isForAll = array_filter($parts, static fn (ProcedurePart $part): bool => $part->types === []) !== [];
        $types = array_merge(...array_map(static fn (ProcedurePart $part): array => $part->types, array_values($parts)));
        foreach (array_chunk($ids, 1_000) as $chunk) {
            $query = DB::table('documents')
                ->whereIntegerInRaw('id', $chunk)
                ->where('state', Document::FILED)
                ->when(! $isForAll, fn ($q) => $q->whereIn('document_type_id', $this->catalog->types()->whereIn('code', $types)->keys()->all()));
            $rows = $query->pluck('id')->map(static fn (mixed $id): array => ['document_id' => (int) $id])->all();
            $isNew = $rows !== [] && ! DB::table('procedure_looks')->exists();
            DB::table('procedure_looks')->insertOrIgnore($rows);
            // Whoever looks goes on until nothing is left, so there is one at work while there is something.
            $isNew && LookForCases::begin();
        }
    }

    /** @param  list<DesignChange>  $changes */
    public function published(array $changes): void
    {
        foreach ($changes as $change) {
            if ($change->kind !== DesignKind::Procedure) {
                continue;
            }
            if ($change->after === null) {
                DB::table('procedure_truths')->where('procedure', $change->code)->delete();

                continue;
            }
            ProcedureVersions::keep($change->code, $change->after);
            $this->seed(ProcedurePart::of($change->code, $change->after));
        }
    }

    /** What is true already does not come true. */
    private function seed(ProcedurePart $part): void
    {
        DB::table('procedure_truths')->where('procedure', $part->code)->delete();
        if ($part->begins !== Procedure::WHEN) {
            return;
        }
        foreach (array_chunk($this->rights->allMatching($part->criterion)->documents(), 400) as $ids) {
            DB::table('procedure_truths')->insert(array_map(static fn (int $id): array => ['procedure' => $part->code, 'document_id' => $id], $ids));
        }
    }

    /** What comes true as time goes by, as “valid until” does: no document changes by it. */
    public function daily(): void
    {
        foreach ($this->parts() as $part) {
            if ($part->begins !== Procedure::WHEN) {
                continue;
            }
            try {
                $matching = $this->rights->allMatching($part->criterion);
            } catch (SyntaxError|SearchError) {
                // It is said when a document is looked at.
                continue;
            }
            $known = DocumentSet::of(
                Column::numbers(DB::table('procedure_truths')->where('procedure', $part->code)->orderBy('document_id')->pluck('document_id')),
            );
            $ids = $matching->minus($known)->or($known->minus($matching))->documents();
            foreach (array_chunk($ids, 400) as $chunk) {
                $this->changed($chunk);
            }
        }
    }

    /** Looks at some of the documents that changed. @return bool whether there may be more */
    public function look(): bool
    {
        return DB::transaction(function (): bool {
            $ids = Column::numbers(DB::table('procedure_looks')->orderBy('document_id')->limit(self::PIECE)->pluck('document_id'));
            if ($ids === []) {
                return false;
            }
            $documents = Document::query()->where('state', Document::FILED)->findMany($ids);
            foreach ($this->parts() as $part) {
                $this->lookWith($part, $documents->all());
            }
            DB::table('procedure_looks')->whereIntegerInRaw('document_id', $ids)->delete();

            return true;
        });
    }

    /** @param  array<Document>  $documents */
    private function lookWith(ProcedurePart $part, array $documents): void
    {
        $of = array_filter(
            $documents,
            fn (Document $document): bool => $part->isFor($this->catalog->types()->get((int) $document->document_type_id)?->code),
        );
        $ids = array_values(array_map(static fn (Document $document): int => $document->id, $of));
        if ($ids === []) {
            return;
        }
        try {
            $matching = $part->criterion === '' ? DocumentSet::of($ids) : $this->rights->allMatching($part->criterion);
        } catch (SyntaxError|SearchError $fault) {
            Alarms::raise('procedure', "“{$part->name}” does not begin: what it begins with cannot be asked any more. {$fault->getMessage()}");

            return;
        }
        $known = array_flip(
            Column::numbers(
                $part->begins === Procedure::WHEN
                    ? DB::table('procedure_truths')->where('procedure', $part->code)->whereIntegerInRaw('document_id', $ids)->pluck('document_id')
                    : ProcedureCase::query()->where('procedure', $part->code)->whereIntegerInRaw('document_id', $ids)->pluck('document_id'),
            ),
        );
        $since = ProcedureVersions::since($part->code);
        $this->versions->present($part->code);
        foreach ($of as $document) {
            $isTrue = $matching->has($document->id);
            if ($part->begins === Procedure::WHEN) {
                $isTrue && ! isset($known[$document->id])
                    ? DB::table('procedure_truths')->insertOrIgnore(['procedure' => $part->code, 'document_id' => $document->id])
                    : null;
                $isTrue || ! isset($known[$document->id])
                    ? null
                    : DB::table('procedure_truths')->where('procedure', $part->code)->where('document_id', $document->id)->delete();
            }
            $isLate = $part->begins === Procedure::FILING && ($since === null || $document->filed_at?->lessThan($since->startOfSecond()) !== false);
            if ($isTrue && ! isset($known[$document->id]) && ! $isLate) {
                $this->beginWith($part, $document);
            }
        }
    }

    private function beginWith(ProcedurePart $part, Document $document): void
    {
        $many = ProcedureCase::query()->where('document_id', $document->id)->where('begun_at', '>', now()->subHour())->count();
        if ($many >= self::MOST_AN_HOUR) {
            Alarms::raise('procedure', "“{$part->name}” began again and again with one document, and does not any more. Look at what begins it.");

            return;
        }
        if (Cases::open($part->code, $document)->exists()) {
            return;
        }
        try {
            $this->cases->begin($part, $document, null);
        } catch (Refused $why) {
            Alarms::raise('procedure', "“{$part->name}” did not begin with “{$document->ref}”: {$why->getMessage()}");
        }
    }

    /** @return array<string, ProcedurePart> those that begin by themselves */
    private function parts(): array
    {
        return array_filter(
            $this->catalog->design()->parts(ProcedurePart::class),
            static fn (ProcedurePart $part): bool => $part->begins !== Procedure::HAND,
        );
    }
}
