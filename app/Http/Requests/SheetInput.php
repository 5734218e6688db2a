<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Catalog\Catalog;
use App\Models\Document;
use App\Models\DocumentType;
use App\Models\User;
use Illuminate\Foundation\Http\FormRequest;

/** An index sheet as typed: a document type, and texts by field code. */
class SheetInput extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'type' => 'nullable|string',
            'values' => 'array|max:500',
            'values.*' => 'array|max:500',
            'values.*.*' => 'nullable|string|max:100000',
            'lock_version' => 'integer',
            'lifted' => 'array|max:200',
            'lifted.*' => 'array|max:20',
            'lifted.*.*.value' => 'required|string|max:2000',
            'lifted.*.*.page' => 'required|integer|min:1',
            'lifted.*.*.text' => 'required|string|max:2000',
        ];
    }

    public function type(Catalog $catalog): ?DocumentType
    {
        $code = (string) ($this->validated('type') ?? '');
        if ($code === '') {
            return null;
        }

        $document = $this->route('document');

        return $catalog->typeFor(User::of($this), $code, $document instanceof Document ? $document->document_type_id : null);
    }

    /** @return array<string, list<string>> */
    public function sheet(): array
    {
        $sheet = [];
        foreach ($this->validated('values') ?? [] as $code => $texts) {
            $sheet[(string) $code] = array_map(strval(...), array_values($texts));
        }

        return $sheet;
    }

    /** @return array<string, list<array{value: string, page: int, text: string}>> by field code, where values were lifted from */
    public function lifted(): array
    {
        $lifted = [];
        foreach ($this->validated('lifted') ?? [] as $code => $places) {
            foreach ($places as $place) {
                $lifted[(string) $code][] = ['value' => (string) $place['value'], 'page' => (int) $place['page'], 'text' => (string) $place['text']];
            }
        }

        return $lifted;
    }
}
