<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Design\Catalog;
use App\Design\Draft;
use App\Find\Criteria;
use App\Find\Finder;
use App\Find\FindRequest;
use App\Http\Requests\CriterionForm;
use App\Http\Requests\SearchInput;
use App\Models\User;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Search\Criterion;
use Brenvic\Core\Search\Relation;
use Illuminate\Http\JsonResponse;

final class SearchController
{
    public function search(SearchInput $input, Finder $finder, Catalog $catalog, Draft $draft): JsonResponse
    {
        /** @var User $user */
        $user = $input->user();
        if ($input->boolean('draft') && $user->role->mayDesign()) {
            $catalog->tryOut($draft->design());
        }
        $criteria = Criteria::of($input->words(), $input->criteria(), $input->boolean('any'));
        $toggle = $input->validated('toggle');
        if ($toggle !== null) {
            $criteria = $criteria->toggled($catalog->schema($user)->field($toggle['field']), $toggle['value'], $toggle['exclude'] ?? false);
        }

        return new JsonResponse($finder->find($user, new FindRequest(
            $criteria,
            array_map(static fn (array $key): SortKey => SortKey::of($key['field'], $key['descending'] ?? false), $input->validated('sort') ?? []),
            $input->validated('columns') ?? [],
            $input->facets(),
            ! $input->boolean('rows_only'),
            $input->validated('where') ?? [],
            $input->integer('offset'),
            $input->integer('limit', 50),
            formats: $input->formats(),
            as: $input->lookingAs(),
        )));
    }

    /** One level of a view: what a search finds, divided by a field. */
    public function groups(SearchInput $input, Finder $finder): JsonResponse
    {
        /** @var User $user */
        $user = $input->user();
        $request = new FindRequest(Criteria::of($input->words(), $input->criteria(), $input->boolean('any')), where: $input->validated('where') ?? [], as: $input->lookingAs());

        return new JsonResponse(['groups' => $finder->groups($user, $request, (string) $input->validated('level'), $input->validated('below'), $input->validated('total'))]);
    }

    /** Makes a criterion of a field, a relation and values, or says what is wrong with them. */
    public function criterion(CriterionForm $request, Catalog $catalog): JsonResponse
    {
        /** @var User $user */
        $user = $request->user();
        $input = $request->validated();
        $field = $catalog->schema($user)->field($input['field']);
        $node = Criterion::of($field, Relation::from($input['relation']), array_map(strval(...), array_values($input['values'] ?? [])));

        return new JsonResponse(['cql' => (new LedgerLine($node))->cql()]);
    }
}
