<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Brenvic\Core\Query\Node;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Asking\Reach;
use Brenvic\Core\Search\Asking\Relation;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Asking\WordCriterion;
use Brenvic\Core\Search\Asking\WordRelation;
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
            // Words are looked for in a part of the documents, by relations of their own.
            'relation' => ['required', 'string', Rule::in($this->relations())],
            'reach' => ['nullable', Rule::enum(Reach::class)],
            'draft' => 'boolean',
            'values' => 'array|max:200',
            'values.*' => 'nullable|string|max:1000',
        ];
    }

    public function isOfWords(): bool
    {
        return is_string($this->input('field')) && isset(WordCriterion::places()[$this->input('field')]);
    }

    /** @return list<string> */
    private function relations(): array
    {
        return array_column($this->isOfWords() ? WordRelation::cases() : Relation::cases(), 'value');
    }

    /** @throws \Brenvic\Core\Fields\InvalidValue */
    public function criterion(SearchSchema $schema, Reach $usual): Node
    {
        $input = $this->validated();
        $values = array_map(strval(...), array_values($input['values'] ?? []));

        return $this->isOfWords()
            ? WordCriterion::of(
                $input['field'],
                WordRelation::from($input['relation']),
                $values,
                Reach::tryFrom((string) ($input['reach'] ?? '')) ?? $usual,
            )
            : Criterion::of($schema->field($input['field']), Relation::from($input['relation']), $values);
    }
}
