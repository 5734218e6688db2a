<?php

declare(strict_types=1);

namespace App\Http\Requests;

/** Which documents to file, and their index sheet. */
final class FilingInput extends SheetInput
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            ...parent::rules(),
            'documents' => 'required|array|min:1|max:500',
            'documents.*' => 'string|distinct',
            'name' => 'nullable|string|max:200',
            'dossier' => 'nullable|string|max:60',
            'section' => 'nullable|integer',
        ];
    }
}
