<?php

declare(strict_types=1);

namespace App\Http\Requests;

final class VocabularyInput extends DesignInput
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [...parent::rules(), 'terms' => 'array|max:20000', 'terms.*.code' => 'required|string|max:80|distinct', 'terms.*.label' => 'required|string|max:200', 'terms.*.parent' => 'nullable|string'];
    }

    protected function table(): string
    {
        return 'vocabularies';
    }

    protected function subject(): string
    {
        return 'vocabulary';
    }
}
