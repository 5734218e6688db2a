<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Some documents, by reference. */
final class ChosenInput extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['documents' => 'required|array|min:1|max:500', 'documents.*' => 'string|distinct'];
    }
}
