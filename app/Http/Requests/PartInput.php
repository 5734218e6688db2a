<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Search\SearchSchema;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;

/** One part of the design as an editor sends it: its shape. Whether it works and fits the rest is checked by the core. */
final class PartInput extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        $isNew = $this->isMethod('POST');

        return [
            'code' => [Rule::requiredIf($isNew), 'string', 'max:40', 'regex:/^[a-z0-9][a-z0-9_-]*$/'],
            'lock_version' => [Rule::requiredIf(! $isNew), 'integer'],
            ...self::content($this->kind()),
        ];
    }

    /** @return array<string, mixed> */
    public static function content(DesignKind $kind): array
    {
        $name = ['name' => 'required|string|max:200'];

        return match ($kind) {
            DesignKind::Repository => $name,
            DesignKind::Vocabulary => [...$name, 'terms' => 'array|max:20000', 'terms.*.code' => 'required|string|max:80|distinct', 'terms.*.label' => 'required|string|max:200', 'terms.*.parent' => 'nullable|string', 'terms.*.synonyms' => 'array|max:50', 'terms.*.synonyms.*' => 'string|max:200'],
            DesignKind::Field => [
                'label' => 'required|string|max:200', 'kind' => ['required', Rule::enum(FieldKind::class)], 'help' => 'nullable|string|max:1000',
                'multiple' => 'boolean', 'faceted' => 'boolean', 'sensitive' => 'boolean', 'vocabulary' => 'nullable|string',
                'unit' => 'nullable|string|max:20', 'pattern' => 'nullable|string|max:60', 'dublin_core' => ['nullable', Rule::in(SearchSchema::DUBLIN_CORE)],
                'minimum' => 'nullable|numeric', 'maximum' => 'nullable|numeric',
            ],
            DesignKind::Type => [...$name, 'title_pattern' => 'nullable|string|max:400', 'fields' => 'array', 'fields.*.code' => 'required|string|distinct', 'fields.*.required' => 'boolean'],
            DesignKind::Library => [...$name, 'repository' => 'required|string', 'note' => 'nullable|string|max:1000', 'types' => 'array', 'types.*' => 'string|distinct'],
            DesignKind::View => [
                ...$name, 'criterion' => 'nullable|string|max:60000', 'columns' => 'required|array|min:1|max:60', 'columns.*' => 'string|distinct',
                'sort' => 'array|max:8', 'sort.*.field' => 'required|string', 'sort.*.descending' => 'boolean',
                'levels' => 'array|max:20', 'levels.*.field' => 'required|string|distinct', 'total' => 'nullable|string', 'total_as' => 'in:sum,range',
            ],
        };
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return [
            'code.required' => 'Give it a code.',
            'code.regex' => 'A code holds small letters, digits, - and _, and starts with a letter or digit.',
            'name.required' => 'Give it a name.',
            'label.required' => 'Give the field a label.',
        ];
    }

    public function kind(): DesignKind
    {
        /** @var DesignKind|string $kind */
        $kind = $this->route('kind');

        return $kind instanceof DesignKind ? $kind : DesignKind::from($kind);
    }

    /** @return array<string, mixed> the content as it is kept, every property there */
    public function part(): array
    {
        $input = $this->validated();
        $text = static fn (string $property): string => (string) ($input[$property] ?? '');
        $flag = static fn (string $property): bool => (bool) ($input[$property] ?? false);

        return match ($this->kind()) {
            DesignKind::Repository => ['name' => $text('name')],
            DesignKind::Vocabulary => ['name' => $text('name'), 'terms' => array_map(static fn (array $t): array => ['code' => (string) $t['code'], 'label' => (string) $t['label'], 'parent' => $t['parent'] ?? null, 'synonyms' => array_values($t['synonyms'] ?? [])], array_values($input['terms'] ?? []))],
            DesignKind::Field => [
                'label' => $text('label'), 'kind' => $text('kind'), 'help' => $text('help'), 'multiple' => $flag('multiple'), 'faceted' => $flag('faceted'), 'sensitive' => $flag('sensitive'),
                'vocabulary' => $text('vocabulary') === '' ? null : $text('vocabulary'), 'unit' => $text('unit'), 'pattern' => $text('pattern'), 'dublin_core' => $input['dublin_core'] ?? null,
                'minimum' => isset($input['minimum']) ? (float) $input['minimum'] : null, 'maximum' => isset($input['maximum']) ? (float) $input['maximum'] : null,
            ],
            DesignKind::Type => ['name' => $text('name'), 'title_pattern' => $text('title_pattern'), 'fields' => array_map(static fn (array $f): array => ['code' => (string) $f['code'], 'required' => (bool) ($f['required'] ?? false)], array_values($input['fields'] ?? []))],
            DesignKind::Library => ['name' => $text('name'), 'note' => $text('note'), 'repository' => $text('repository'), 'types' => array_values($input['types'] ?? [])],
            DesignKind::View => ['name' => $text('name'), 'criterion' => trim($text('criterion')), 'columns' => array_values($input['columns']), 'sort' => array_map(static fn (array $s): array => ['field' => (string) $s['field'], 'descending' => (bool) ($s['descending'] ?? false)], array_values($input['sort'] ?? [])),
                'levels' => array_map(static fn (array $l): array => ['field' => (string) $l['field']], array_values($input['levels'] ?? [])), 'total' => $text('total') === '' ? null : $text('total'), 'total_as' => $text('total_as') ?: 'sum'],
        };
    }
}
