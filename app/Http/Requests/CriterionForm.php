<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Brenvic\Core\Search\Asking\Relation;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;

/** A field, a relation and values, of which a criterion is made. */
final class CriterionForm extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'field' => 'required|string',
            'relation' => ['required', Rule::enum(Relation::class)],
            'values' => 'array|max:200',
            'values.*' => 'nullable|string|max:1000',
        ];
    }
}
