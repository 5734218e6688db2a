<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Catalog\Catalog;
use App\Find\WordReach;
use App\Models\User;
use Brenvic\Core\Search\Asking\KeptSearch;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;

/** A search to be kept: its words, criteria and view, as the address of Find has them. */
final class SavedSearchInput extends FormRequest
{
    /** The rules for a search, and for what is in it, wherever one is sent. */
    public const SHAPE = 'array:words,any,view,criteria,where,outside,reach,once';

    public const PARTS = [
        'search.words' => 'nullable|string|max:60000',
        'search.any' => 'boolean',
        'search.view' => 'nullable|string|max:40',
        'search.criteria' => 'array|max:100',
        'search.criteria.*.cql' => 'required|string|max:60000',
        'search.criteria.*.negated' => 'boolean',
        'search.criteria.*.on' => 'boolean',
        'search.where' => 'array|max:8',
        'search.where.*' => 'in:title,values,text,comment,path,earlier',
        'search.outside' => 'nullable|array|max:50',
        'search.outside.*' => 'string|max:40',
        'search.once' => 'boolean',
        'search.reach' => 'nullable|in:as_written,same_stem,sounds_alike,misspelt',
    ];

    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'name' => 'sometimes|required|string|max:200',
            'groups' => 'array|max:100',
            'groups.*' => ['string', Rule::in(User::of($this)->groupNames())],
            'lock_version' => 'integer',
            'search' => 'required|'.self::SHAPE,
            ...self::PARTS,
            'total' => 'integer|min:0',
        ];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return ['groups.*.in' => 'A search is shared with groups that you are in.'];
    }

    /** The search, its queries read once so that none is kept that cannot be. */
    public function search(): KeptSearch
    {
        return self::searchOf(User::of($this), $this->validated('search') ?? []);
    }

    /**
     * What says nothing of how far words reach means it as the person does who keeps it.
     *
     * @param  array<string, mixed>  $given
     */
    public static function searchOf(User $user, array $given): KeptSearch
    {
        $search = KeptSearch::of(['reach' => app(WordReach::class)->of($user)->value, ...array_filter($given, static fn (mixed $of): bool => $of !== null)]);
        $search->read(app(Catalog::class)->schema($user))->ledger();

        return $search;
    }
}
