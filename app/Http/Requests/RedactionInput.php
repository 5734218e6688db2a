<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Places in the text of pages, areas of pages, or areas whose words are meant; and why they are removed. */
final class RedactionInput extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'version' => 'required|integer|min:1',
            'reason' => 'required|string|max:200',
            'marks' => 'required|array|min:1|max:2000',
            'marks.*.page' => 'required|integer|min:1',
            'marks.*.start' => 'nullable|integer|min:0|required_without:marks.*.areas',
            'marks.*.length' => 'nullable|integer|min:1|required_with:marks.*.start',
            'marks.*.areas' => 'nullable|array|max:50',
            'marks.*.areas.*' => 'array|size:4',
            'marks.*.areas.*.*' => 'numeric|min:-10|max:100000',
            'marks.*.words' => 'boolean',
        ];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return ['reason.required' => 'Say why it is removed.', 'marks.required' => 'Choose what is removed.'];
    }
}
