<?php

declare(strict_types=1);

namespace App\Http\Requests;

final class TypeInput extends DesignInput
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [...parent::rules(), 'title_pattern' => 'nullable|string|max:400', 'fields' => 'array', 'fields.*.code' => 'required|string|distinct|exists:fields,code', 'fields.*.required' => 'boolean'];
    }

    protected function table(): string
    {
        return 'document_types';
    }

    protected function subject(): string
    {
        return 'type';
    }
}
