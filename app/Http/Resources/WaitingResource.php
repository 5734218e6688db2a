<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Access\WaitingSight;
use App\Catalog\Catalog;
use App\Intake\AtWork;
use App\Intake\Filing;
use App\Models\Document;
use App\Models\User;
use App\Support\Column;
use Brenvic\Core\Design\IndexSheet;
use Brenvic\Core\Design\SourcePart;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;

/** Shapes what waits in intake; of thousands there are as many queries as of one. */
final readonly class WaitingResource
{
    /** Documents of a list. */
    private const MOST = 5_000;

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
        $query = WaitingSight::of($user)->where('state', Document::WAITING)->whereNull('parent_id');
        $sources = SourceResource::troubled($this->catalog->design(), $user);
        $stamp = $this->stamp($user, $sources);
        if ($stamp === $known) {
            return ['stamp' => $stamp, 'total' => $query->count(), 'documents' => null, 'sources' => $sources];
        }
        $documents = $query->clone()->withCount('attachments')->orderBy('id')->limit(self::MOST)->get();

        return [
            'stamp' => $stamp,
            'total' => count($documents) < self::MOST ? count($documents) : $query->count(),
            'documents' => $this->rows($documents, $user),
            'sources' => $sources,
        ];
    }

    /** @param  list<array{code: string, name: string, says: string}>  $sources */
    private function stamp(User $user, array $sources): string
    {
        $state = WaitingSight::of($user)
            ->where('state', Document::WAITING)
            ->toBase()
            ->selectRaw('count(*) AS all_of_them, sum(id) AS ids, max(updated_at) AS latest, sum(lock_version) AS locks, sum(bytes) AS bytes')
            ->selectRaw("sum(text_state = 'pending') AS pending")
            ->first();

        return md5(serialize([$state, $sources, $this->catalog->stamp(), $user->id, $this->atWork->others($user)]));
    }

    /**
     * @param  Collection<int, Document>  $documents
     * @return list<array<string, mixed>>
     */
    private function rows(Collection $documents, User $user): array
    {
        $ids = Column::numbers($documents->modelKeys());
        $present = Filing::presentOf($ids);
        $dossiers = $this->exchanges->dossiers($documents, $user);
        $at = $this->atWork->others($user);
        $shown = $this->catalog->fieldsShownTo($user);
        $design = $this->catalog->design();
        $names = DB::table('users')->whereIn('id', $documents->pluck('created_by')->unique()->filter())->pluck('name', 'id');
        $rows = [];
        foreach ($documents as $document) {
            $library = $this->catalog->libraries()->get($document->library_id);
            $type = $this->catalog->types()->get((int) $document->document_type_id);
            $values = [];
            foreach ($present[$document->id] ?? [] as $code => $list) {
                $field = $shown[$code] ?? null;
                if ($field !== null) {
                    $values[$code] = array_map(
                        static fn (string $value): array => ['value' => $value, 'label' => $field->display($value)],
                        $list,
                    );
                }
            }
            $rows[] = [
                'ref' => $document->ref,
                'file_name' => $document->file_name,
                'file_kind' => $document->file_kind,
                'path' => $document->path,
                'bytes' => $document->bytes,
                'page_count' => $document->page_count,
                'library' => ['code' => $library->code ?? '', 'name' => $library->name ?? ''],
                'type' => $type === null ? null : ['code' => $type->code, 'name' => $type->name],
                'source' => $document->source === null ? null : $design->one(SourcePart::class, $document->source)?->name,
                'group' => $document->intake_group,
                'brought_in_by' => $names[$document->created_by] ?? null,
                'intake_note' => $document->intake_note,
                'proposed_dossier' => $document->intake_dossier ?? ($dossiers[$document->exchange ?? ''] ?? null),
                'text_state' => $document->text_state,
                'created_at' => $document->created_at->toIso8601String(),
                'attachments' => (int) $document->getAttribute('attachments_count'),
                'values' => (object) $values,
                'lacks' => $type === null ? ['document type'] : self::lacks($this->catalog->sheet($type), $present[$document->id] ?? []),
                'lock_version' => $document->lock_version,
                'at_it' => $at[$document->id] ?? null,
            ];
        }

        return $rows;
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
