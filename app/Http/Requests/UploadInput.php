<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Validator;

/** One file for a library. */
final class UploadInput extends FormRequest
{
    use TakesFile;

    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['library' => 'required|string', 'path' => 'nullable|string|max:1000'];
    }

    public function withValidator(Validator $validator): void
    {
        $validator->after(fn (Validator $validator) => $this->checkFile($validator));
    }
}
