<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Search\SearchSchema;
use Illuminate\Validation\Rule;

/** An index field as the librarian describes it. What makes it work is checked by the core's FieldDefinition. */
final class FieldInput extends DesignInput
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            ...array_diff_key(parent::rules(), ['name' => true]),
            'label' => 'required|string|max:200',
            'kind' => ['required', Rule::enum(FieldKind::class)],
            'help' => 'nullable|string|max:1000',
            'multiple' => 'boolean', 'faceted' => 'boolean', 'sensitive' => 'boolean',
            'vocabulary' => 'nullable|string|exists:vocabularies,code',
            'unit' => 'nullable|string|max:20', 'pattern' => 'nullable|string|max:60',
            'dublin_core' => ['nullable', Rule::in(SearchSchema::DUBLIN_CORE)],
            'minimum' => 'nullable|numeric', 'maximum' => 'nullable|numeric',
        ];
    }

    protected function table(): string
    {
        return 'fields';
    }

    protected function subject(): string
    {
        return 'field';
    }
}
