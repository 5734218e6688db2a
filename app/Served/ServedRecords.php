<?php

declare(strict_types=1);

namespace App\Served;

use App\Catalog\Catalog;
use App\Models\Document;
use App\Models\User;
use App\Support\Address;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Exchange\DublinCore;
use Brenvic\Core\Exchange\Records\ServedRecord;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/** Documents as another program is told of them: a fixed number of queries, however many there are. */
final readonly class ServedRecords
{
    private const PICTURES = [
        'png' => 'image/png',
        'gif' => 'image/gif',
        'webp' => 'image/webp',
        'tif' => 'image/tiff',
        'tiff' => 'image/tiff',
        'heic' => 'image/heic',
    ];

    public function __construct(private Catalog $catalog)
    {
    }

    /**
     * @param  list<int>  $ids  of filed documents that the person sees
     * @return array<int, ServedRecord> by id, in no particular order; without those that are gone
     */
    public function of(User $user, array $ids): array
    {
        $fields = Cover::open($this->catalog->fieldsFor($user));
        $values = self::values($ids);
        $records = [];
        foreach (Document::query()->whereIntegerInRaw('id', $ids)->where('state', Document::FILED)->get() as $document) {
            $records[$document->id] = $this->record($document, $fields, array_intersect_key($values[$document->id] ?? [], $fields));
        }

        return $records;
    }

    /**
     * @param  array<string, FieldDefinition>  $fields
     * @param  array<string, list<string>>  $values  normal forms by code
     */
    private function record(Document $document, array $fields, array $values): ServedRecord
    {
        $library = $this->catalog->libraries()->get($document->library_id);
        $type = $this->catalog->types()->get((int) $document->document_type_id);
        $address = Address::of("/documents/{$document->ref}");
        $media = self::mediaType($document);
        $shown = [];
        foreach ($values as $code => $normals) {
            $field = $fields[$code];
            $shown[(string) $code] = [
                'label' => $field->label,
                'values' => array_map(static fn (string $normal): array => [$normal, $field->display($normal)], $normals),
            ];
        }
        $own = [
            'title' => [$document->title],
            'identifier' => [$document->ref, $address],
            'type' => [$type->name ?? ''],
            'source' => [$document->file_name],
            'format' => [$media],
            'publisher' => [$library->name ?? ''],
            'language' => [$document->language() ?? ''],
        ];

        return new ServedRecord(
            $document->id,
            $document->ref,
            $document->title,
            $library->code ?? '',
            $library->name ?? '',
            $type->code ?? '',
            $type->name ?? '',
            $media,
            $document->file_name,
            $document->page_count,
            $document->filed_at?->format('Y-m-d') ?? '',
            Changes::moment(Carbon::parse($document->updated_at ?? $document->created_at)),
            $address,
            $shown,
            array_filter(DublinCore::of($fields, $values, $own)),
        );
    }

    private static function mediaType(Document $document): string
    {
        $kind = FileKind::from($document->file_kind);
        $ending = strtolower(pathinfo($document->file_name, PATHINFO_EXTENSION));

        return $kind === FileKind::Image ? self::PICTURES[$ending] ?? $kind->mediaType('') : explode(';', $kind->mediaType(''))[0];
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, array<string, list<string>>> document => field code => normal forms
     */
    private static function values(array $ids): array
    {
        $values = [];
        $rows = DB::table('effective_values')
            ->join('fields', 'fields.id', '=', 'field_id')
            ->whereIntegerInRaw('document_id', $ids)
            ->orderBy('fields.id')
            ->orderBy('position')
            ->get(['document_id', 'code', 'value']);
        foreach ($rows as $row) {
            $values[(int) $row->document_id][(string) $row->code][] = (string) $row->value;
        }

        return $values;
    }
}
