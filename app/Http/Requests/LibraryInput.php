<?php

declare(strict_types=1);

namespace App\Http\Requests;

final class LibraryInput extends DesignInput
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [...parent::rules(), 'repository' => 'required|string|exists:repositories,code', 'note' => 'nullable|string|max:1000', 'types' => 'array', 'types.*' => 'string|distinct|exists:document_types,code'];
    }

    protected function table(): string
    {
        return 'libraries';
    }

    protected function subject(): string
    {
        return 'library';
    }
}
