<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Validator;

/** The file of a new version, or of a copy to be put by, with a note. */
final class VersionInput extends FormRequest
{
    use TakesFile;

    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['note' => 'nullable|string|max:500'];
    }

    public function withValidator(Validator $validator): void
    {
        // A check-in without a file takes the copy that was put by.
        $validator->after(
            fn (Validator $validator) => $this->has('file') || ! $this->routeIs('check-in') ? $this->checkFile($validator) : null,
        );
    }
}
