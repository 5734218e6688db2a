<?php

declare(strict_types=1);

namespace App\Find;

use App\Catalog\Catalog;
use App\Models\Document;
use App\Models\User;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Pages\HitFinder;
use Brenvic\Core\Pages\SheetMarks;
use Brenvic\Core\Query\Ledger;
use Illuminate\Support\Facades\DB;

/** What a search marks around the text of a document: in its title, its index sheet, its path and its comments. */
final readonly class SheetHits
{
    public function __construct(private Catalog $catalog)
    {
    }

    /**
     * Pieces of text, each with whether it is a hit; of what has none, nothing. Values go by field code and by place
     * among the field’s values, comments by number.
     *
     * @return array{title: list<array{string, bool}>|null, path: list<array{string, bool}>|null, values: object, comments: object}
     */
    public function of(User $user, Document $document, Ledger $ledger): array
    {
        $schema = $this->catalog->schema($user);
        $marks = new SheetMarks($ledger, $schema);
        $values = $places = [];
        foreach (
            DB::table('effective_values')
                ->where('document_id', $document->id)
                ->orderBy('position')
                ->get(['field_id', 'value']) as $row
        ) {
            $field = $this->catalog->fieldOfId((int) $row->field_id);
            // Where a covered value stands is as much as the value.
            if ($field === null || Cover::hides($field) || ! isset($schema->fields[$field->code])) {
                continue;
            }
            $place = $places[$field->code] = ($places[$field->code] ?? -1) + 1;
            $pieces = self::marked($marks->pieces($field, (string) $row->value));
            if ($pieces !== null) {
                $values[$field->code][$place] = $pieces;
            }
        }
        $comments = [];
        $inComments = HitFinder::forPart($ledger, Part::Comments, $schema->everywhere);
        foreach (
            $inComments->findsNothing()
                ? []
                : DB::table('comments')
                    ->where('document_id', $document->id)
                    ->whereNull('deleted_at')
                    ->orderBy('id')
                    ->get(['id', 'text']) as $comment
        ) {
            $pieces = self::marked($inComments->pieces((string) $comment->text));
            if ($pieces !== null) {
                $comments[(int) $comment->id] = $pieces;
            }
        }

        return [
            'title' => self::marked(HitFinder::forPart($ledger, Part::Names, $schema->everywhere)->pieces($document->title)),
            'path' => self::marked(HitFinder::forPart($ledger, Part::Paths, $schema->everywhere)->pieces($document->path)),
            'values' => (object) array_map(static fn (array $of): object => (object) $of, $values),
            'comments' => (object) $comments,
        ];
    }

    /**
     * @param  list<array{string, bool}>  $pieces
     * @return list<array{string, bool}>|null
     */
    private static function marked(array $pieces): ?array
    {
        return in_array(true, array_column($pieces, 1), true) ? $pieces : null;
    }
}
