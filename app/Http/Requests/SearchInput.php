<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Catalog\Catalog;
use App\Find\Cursor;
use App\Find\FindRequest;
use App\Find\WordReach;
use App\Models\User;
use Brenvic\Core\Facets\FacetOrder;
use Brenvic\Core\Facets\FacetRequest;
use Brenvic\Core\Fields\ColumnFormat;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Search\Asking\Criteria;
use Brenvic\Core\Search\Asking\Reach;
use Closure;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Support\Facades\Gate;
use Illuminate\Validation\Rule;

/** A search as the interface sends it. */
final class SearchInput extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'words' => 'nullable|string|max:60000',
            'any' => 'boolean',
            'reach' => ['nullable', Rule::enum(Reach::class)],
            'criteria' => 'array|max:100',
            'criteria.*.cql' => 'required|string|max:60000',
            'criteria.*.negated' => 'boolean',
            'criteria.*.on' => 'boolean',
            'criteria.*.origin' => 'string|max:40',
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
            'where.*' => 'string|in:title,values,text,comment,path,earlier',
            'offset' => 'integer|min:0|prohibits:cursor',
            'cursor' => ['string', 'max:60', 'prohibits:sort', self::isCursor(...)],
            'limit' => 'integer|min:0|max:500',
            'rows_only' => 'boolean',
            'draft' => 'boolean',
            'again' => 'boolean',
            'snippets' => 'boolean',
            'once' => 'boolean',
            'as' => 'nullable|string|max:100',
            'formats' => 'array|max:60',
            'formats.*.format' => 'nullable|string|max:20',
            'formats.*.mask' => 'nullable|string|max:20',
            'level' => 'string',
            'below' => 'nullable|string|max:200',
            'total' => 'nullable|string',
            'facets' => 'array|max:60',
            'facets.*.field' => 'required|string',
            'facets.*.order' => ['string', Rule::enum(FacetOrder::class)],
            'facets.*.most' => 'integer|min:1|max:5000',
            'facets.*.search' => 'nullable|string|max:200',
            'facets.*.opened' => 'array|max:200',
            'facets.*.opened.*' => 'string|max:4000',
        ];
    }

    private static function isCursor(string $attribute, mixed $value, Closure $fail): void
    {
        is_string($value) && Cursor::read($value) === null && $fail('That is no cursor that was given out; “start” begins.');
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return [
            'cursor.prohibits' => 'With a cursor the newest come first: leave out “sort”.',
            'offset.prohibits' => 'Go on by “cursor” or by “offset”, and not by both.',
        ];
    }

    /** @param  Criteria|null  $criteria  in place of what was sent */
    public function asked(?Criteria $criteria = null): FindRequest
    {
        return new FindRequest(
            $criteria ?? $this->searched(),
            array_map(
                static fn (array $key): SortKey => SortKey::of($key['field'], $key['descending'] ?? false),
                array_values($this->validated('sort') ?? []),
            ),
            $this->validated('columns') ?? [],
            $this->facets(),
            ! $this->boolean('rows_only'),
            $this->validated('where') ?? [],
            $this->integer('offset'),
            $this->integer('limit', 50),
            formats: $this->formats(),
            as: $this->lookingAs(),
            snippets: $this->boolean('snippets', true),
            once: $this->boolean('once'),
            below: $this->has('cursor') ? Cursor::read((string) $this->validated('cursor')) : null,
        );
    }

    /** The words and criteria, as the person may mean them. */
    public function searched(): Criteria
    {
        $user = User::of($this);
        $words = $this->words();
        // What nobody typed reaches nowhere, and need not be asked for.
        $reach = $words === '' ? Reach::AsWritten : Reach::tryFrom((string) $this->validated('reach')) ?? app(WordReach::class)->of($user);

        return Criteria::of($words, $this->criteria(), app(Catalog::class)->schema($user), $this->boolean('any'), $reach);
    }

    /** @return array<string, FacetRequest> by field code */
    public function facets(): array
    {
        $facets = [];
        foreach ($this->validated('facets') ?? [] as $of) {
            $facets[$of['field']] = new FacetRequest(
                $of['field'],
                (int) ($of['most'] ?? 12),
                FacetOrder::from($of['order'] ?? FacetOrder::Count->value),
                (string) ($of['search'] ?? ''),
                array_values($of['opened'] ?? []),
            );
        }

        return $facets;
    }

    /** @return array<string, ColumnFormat> by field code */
    public function formats(): array
    {
        return array_map(
            static fn (array $format): ColumnFormat => new ColumnFormat(
                (string) ($format['format'] ?? 'plain'),
                (string) ($format['mask'] ?? 'none'),
            ),
            $this->validated('formats') ?? [],
        );
    }

    /** Somebody whose place a librarian looks at. */
    public function lookingAs(): ?User
    {
        $as = (string) ($this->validated('as') ?? '');
        if ($as === '') {
            return null;
        }
        Gate::authorize('design');

        return User::query()->where('sign_in', $as)->firstOrFail();
    }

    public function words(): string
    {
        return (string) ($this->validated('words') ?? '');
    }

    /** @return list<array{cql: string, negated: bool, on: bool, origin: string}> */
    public function criteria(): array
    {
        // In an address, yes and no are 1 and 0.
        return array_map(
            static fn (array $given): array => [
                'cql' => (string) $given['cql'],
                'negated' => (bool) ($given['negated'] ?? false),
                'on' => (bool) ($given['on'] ?? true),
                'origin' => (string) ($given['origin'] ?? ''),
            ],
            array_values($this->validated('criteria') ?? []),
        );
    }
}
