<?php

declare(strict_types=1);

namespace App\Reading;

use App\Catalog\Catalog;
use App\Copies\Layouts;
use App\Models\Document;
use App\Models\User;
use Brenvic\Core\Design\LibraryPart;
use Brenvic\Core\Design\TypePart;
use Brenvic\Core\Learning\Likeliest;
use Brenvic\Core\Learning\PlaceLearner;
use Illuminate\Support\Facades\DB;

/** Proposes the type of documents that look like one. */
final readonly class TypeByForm
{
    /** Types that are compared, and documents of each. */
    private const TYPES = 6;

    private const OF_TYPE = 80;

    /** How likely a type must be. */
    private const LIKELY = 0.6;

    /** Documents that are named. */
    private const NAMED = 10;

    public function __construct(private Catalog $catalog, private ProposalRecord $record)
    {
    }

    /**
     * @param  list<array{float, list<int>}>  $sharers  who has the marks of its form
     * @return ProposedAs<TypePart>|null
     */
    public function of(Document $document, User $user, Learnable $learnable, array $sharers): ?ProposedAs
    {
        $types = self::typesOf(array_values(array_unique(array_merge(...array_column($sharers, 1)))));
        $weights = $from = [];
        foreach ($sharers as [$weight, $ids]) {
            foreach (array_intersect_key($types, array_flip($ids)) as $id => $type) {
                $weights[$type] = ($weights[$type] ?? 0.0) + $weight / count($ids);
                $from[$type][$id] = ($from[$type][$id] ?? 0.0) + $weight;
            }
        }
        arsort($weights);
        $classes = [];
        foreach (array_slice(array_keys($weights), 0, self::TYPES) as $type) {
            $classes[(string) $type] = array_values(Layouts::marksOf($learnable->latest($type, self::OF_TYPE)));
        }
        [$likely, $isLikely] = Likeliest::of(Layouts::marks($document->id), $classes) ?? ['0', 0.0];
        $named = $this->catalog->types()->get((int) $likely);
        $part = $this->catalog->type($named);
        if ($named === null || $part === null || $isLikely < self::LIKELY || count($classes[$likely]) < PlaceLearner::LEAST) {
            return null;
        }
        if (! $this->mayFile($document, $user, $named->code, $part)) {
            return null;
        }
        arsort($from[(int) $likely]);
        $likest = array_slice(array_keys($from[(int) $likely]), 0, self::NAMED);

        return new ProposedAs($part, $named->code, $likest, $this->record->of(Proposals::FORM, ProposalRecord::TYPE, $user));
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, int> id of the type by document; attachments go with what they are attached to
     */
    public static function typesOf(array $ids): array
    {
        $types = DB::table('documents')
            ->whereIntegerInRaw('id', $ids)
            ->whereNull('parent_id')
            ->whereNotNull('document_type_id')
            ->pluck('document_type_id', 'id');

        return array_map(intval(...), $types->all());
    }

    /** Whether the library of a document has a type, and its person may file it. */
    private function mayFile(Document $document, User $user, string $code, TypePart $part): bool
    {
        $library = $this->catalog->libraries()->get($document->library_id)->code ?? '';
        $there = $this->catalog->design()->parts(LibraryPart::class)[$library]->types ?? [];

        return in_array($code, $there, true) && ($part->filers === [] || array_intersect($part->filers, $user->groupNames()) !== []);
    }
}
