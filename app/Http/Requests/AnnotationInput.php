<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Brenvic\Core\Pages\AnnotationKind;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;

/** An annotation, new or changed. */
final class AnnotationInput extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        $isNew = $this->isMethod('POST');

        return [
            'page' => [Rule::requiredIf($isNew), 'integer', 'min:1'],
            'kind' => [Rule::requiredIf($isNew), Rule::enum(AnnotationKind::class)],
            'lock_version' => [Rule::requiredIf(! $isNew), 'integer'],
            'boxes' => 'array|max:500',
            'boxes.*' => 'array|size:4',
            'boxes.*.*' => 'numeric|min:-100000|max:100000',
            'strokes' => 'array|max:200',
            'strokes.*' => 'array|min:1|max:4000',
            'strokes.*.*' => 'array|size:2',
            'strokes.*.*.*' => 'numeric|min:-100000|max:100000',
            'start' => 'nullable|integer|min:0',
            'length' => 'nullable|integer|min:1|required_with:start',
            'text' => 'nullable|string|max:4000',
            'words' => 'boolean',
            'folded' => 'boolean',
            'private' => 'boolean',
        ];
    }
}
