<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Validator;

/** A table with the values of files, perhaps for some of what waits only. */
final class ValuesTableInput extends FormRequest
{
    use TakesFile;

    /** @return array<string, mixed> */
    public function rules(): array
    {
        // A line each: as fields of their own, a form might have more than PHP takes.
        return ['documents' => 'nullable|string|max:200000'];
    }

    /** @return list<string> references of those that it is for; none when it is for all that wait */
    public function documents(): array
    {
        return preg_split('/\s+/', (string) $this->validated('documents'), -1, PREG_SPLIT_NO_EMPTY) ?: [];
    }

    public function withValidator(Validator $validator): void
    {
        $validator->after(fn (Validator $validator) => $this->checkFile($validator));
    }
}
