<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** A search as the interface sends it. */
final class SearchInput extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'words' => 'nullable|string|max:60000',
            'any' => 'boolean',
            'criteria' => 'array|max:100',
            'criteria.*.cql' => 'required|string|max:60000',
            'criteria.*.negated' => 'boolean',
            'criteria.*.on' => 'boolean',
            'toggle' => 'nullable|array',
            'toggle.field' => 'required_with:toggle|string',
            'toggle.value' => 'required_with:toggle|string|max:1000',
            'toggle.exclude' => 'boolean',
            'sort' => 'array|max:8',
            'sort.*.field' => 'required|string',
            'sort.*.descending' => 'boolean',
            'columns' => 'array|max:60',
            'columns.*' => 'string',
            'where' => 'array|max:8',
            'where.*' => 'string|in:title,values,text,comment,path',
            'offset' => 'integer|min:0',
            'limit' => 'integer|min:0|max:500',
            'rows_only' => 'boolean',
        ];
    }

    public function words(): string
    {
        return (string) ($this->validated('words') ?? '');
    }

    /** @return list<array{cql: string, negated: bool, on: bool}> */
    public function criteria(): array
    {
        // In an address, yes and no are 1 and 0.
        return array_map(static fn (array $given): array => [
            'cql' => (string) $given['cql'], 'negated' => (bool) ($given['negated'] ?? false), 'on' => (bool) ($given['on'] ?? true),
        ], array_values($this->validated('criteria') ?? []));
    }
}
