<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Access\WaitingSight;
use App\Catalog\Catalog;
use App\Catalog\OwnValues;
use App\Intake\AtWork;
use App\Models\Document;
use App\Models\User;
use Brenvic\Core\Design\IndexSheet;
use Brenvic\Core\Design\SourcePart;
use Brenvic\Core\Fields\FieldDefinition;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use stdClass;

/** Shapes what waits in intake; of thousands there are as many queries as of one. */
final readonly class WaitingResource
{
    /** Documents of a list. */
    private const MOST = 5_000;

    private const COLUMNS = [
        'id', 'ref', 'file_name', 'file_kind', 'path', 'bytes', 'page_count', 'drawn_pages', 'library_id', 'document_type_id', 'source',
        'intake_group', 'created_by', 'intake_note', 'intake_dossier', 'exchange', 'text_state', 'created_at', 'lock_version',
    ];

    public function __construct(private Catalog $catalog, private ExchangeResource $exchanges, private AtWork $atWork)
    {
    }

    /**
     * What a person has waiting, in the order of arrival.
     *
     * @param  string|null  $known  the stamp of the list that they have: if it is still the same, its documents are not told again
     * @return array<string, mixed>
     */
    public function of(User $user, ?string $known = null): array
    {
        $waiting = WaitingSight::of($user)->where('state', Document::WAITING)->toBase();
        $sources = SourceResource::troubled($this->catalog->design(), $user);
        $at = $this->atWork->others($user);
        $state = self::state($waiting);
        $stamp = md5(serialize([$state, $sources, $this->catalog->stamp(), $user->id, $at]));
        $answer = ['stamp' => $stamp, 'total' => (int) $state->documents, 'documents' => null, 'sources' => $sources];
        if ($stamp === $known) {
            return $answer;
        }
        $attached = 'SELECT count(*) FROM documents AS a WHERE a.parent_id = documents.id AND a.deleted_at IS NULL';
        // Rows, not models: of thousands these would take most of the time.
        $documents = $waiting
            ->whereNull('parent_id')
            ->select(self::COLUMNS)
            ->selectRaw("({$attached}) AS attachments")
            ->orderBy('id')
            ->limit(self::MOST)
            ->get();

        return [...$answer, 'documents' => $this->rows(array_values($documents->all()), $at, $user)];
    }

    /** What differs whenever something in the list does; `documents` is how many it has, without what is attached to them. */
    private static function state(Builder $waiting): stdClass
    {
        /** @var stdClass $state an aggregate has one row always */
        $state = $waiting
            ->clone()
            ->selectRaw('count(*) AS all_of_them, sum(id) AS ids, max(updated_at) AS latest, sum(lock_version) AS locks, sum(bytes) AS bytes')
            ->selectRaw("sum(text_state = 'pending') AS pending, sum(parent_id IS NULL) AS documents")
            ->first();

        return $state;
    }

    /**
     * @param  list<stdClass>  $documents
     * @param  array<int, string>  $at  who else is at work, by document
     * @return list<array<string, mixed>>
     */
    private function rows(array $documents, array $at, User $user): array
    {
        $present = OwnValues::of(array_map(static fn (stdClass $d): int => (int) $d->id, $documents));
        $dossiers = $this->exchanges->dossiers(array_values(array_unique(array_filter(array_column($documents, 'exchange')))), $user);
        $shown = $this->catalog->fieldsShownTo($user);
        $sources = $this->catalog->design()->parts(SourcePart::class);
        $names = DB::table('users')->whereIn('id', array_unique(array_filter(array_column($documents, 'created_by'))))->pluck('name', 'id');
        $rows = [];
        foreach ($documents as $document) {
            $id = (int) $document->id;
            $library = $this->catalog->libraries()->get((int) $document->library_id);
            $type = $this->catalog->types()->get((int) $document->document_type_id);
            $rows[] = [
                'ref' => $document->ref,
                'file_name' => $document->file_name,
                'file_kind' => $document->file_kind,
                'path' => $document->path,
                'bytes' => (int) $document->bytes,
                'page_count' => (int) $document->page_count,
                'drawn_pages' => (int) $document->drawn_pages,
                'library' => ['code' => $library->code ?? '', 'name' => $library->name ?? ''],
                'type' => $type === null ? null : ['code' => $type->code, 'name' => $type->name],
                'source' => $document->source === null ? null : $sources[$document->source]->name ?? null,
                'group' => $document->intake_group,
                'brought_in_by' => $names[$document->created_by] ?? null,
                'intake_note' => $document->intake_note,
                'proposed_dossier' => $document->intake_dossier ?? ($dossiers[$document->exchange ?? ''] ?? null),
                'text_state' => $document->text_state,
                'created_at' => str_replace(' ', 'T', (string) $document->created_at).'+00:00',
                'attachments' => (int) $document->attachments,
                'values' => (object) self::values($present[$id] ?? [], $shown),
                'lacks' => $type === null ? ['document type'] : self::lacks($this->catalog->sheet($type), $present[$id] ?? []),
                'lock_version' => (int) $document->lock_version,
                'at_it' => $at[$id] ?? null,
            ];
        }

        return $rows;
    }

    /**
     * @param  array<string, list<string>>  $present  normal forms by field code
     * @param  array<string, FieldDefinition>  $shown  the fields that the person may see
     * @return array<string, list<array{value: string, label: string}>>
     */
    private static function values(array $present, array $shown): array
    {
        $values = [];
        foreach (array_intersect_key($present, $shown) as $code => $list) {
            foreach ($list as $value) {
                $values[$code][] = ['value' => $value, 'label' => $shown[$code]->display($value)];
            }
        }

        return $values;
    }

    /**
     * @param  array<string, list<string>>  $values
     * @return list<string> the labels of required fields that have no value
     */
    private static function lacks(IndexSheet $sheet, array $values): array
    {
        $lacks = [];
        foreach ($sheet->fields as $field) {
            if (! isset($values[$field->code]) && in_array($field->code, $sheet->required, true)) {
                $lacks[] = $field->label;
            }
        }

        return $lacks;
    }
}
