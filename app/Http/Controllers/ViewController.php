<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Design\Catalog;
use App\Http\Requests\ViewInput;
use App\Http\Resources\DesignResource;
use App\Models\User;
use App\Models\View;
use App\Support\Versions;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\Criterion;
use Brenvic\Core\Search\SearchError;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;
use Illuminate\Validation\ValidationException;

final class ViewController
{
    private const BUILT_IN = ['title', 'path'];

    public function __construct(private readonly Catalog $catalog)
    {
    }

    public function store(ViewInput $request): JsonResponse
    {
        $view = new View(['code' => $request->validated('code'), 'position' => 1 + (int) View::query()->max('position'), 'lock_version' => 1]);
        $this->fill($view, $request);

        return new JsonResponse(DesignResource::view($view), 201);
    }

    public function update(ViewInput $request, View $view): JsonResponse
    {
        DB::transaction(function () use ($request, $view): void {
            Versions::advance($view, $request->integer('lock_version'), DesignResource::view(...));
            $this->fill($view, $request);
        });

        return new JsonResponse(DesignResource::view($view));
    }

    public function destroy(View $view): Response
    {
        $view->delete();

        return new Response(status: 204);
    }

    private function fill(View $view, ViewInput $request): void
    {
        /** @var User $user */
        $user = $request->user();
        $input = $request->validated();
        $sorted = array_map(static fn (array $key): array => ['field' => $key['field'], 'descending' => $key['descending'] ?? false], $input['sort'] ?? []);
        foreach (['columns' => $input['columns'], 'sort' => array_column($sorted, 'field')] as $property => $codes) {
            foreach ($codes as $code) {
                if (! in_array($code, self::BUILT_IN, true) && $this->catalog->field($code) === null) {
                    throw ValidationException::withMessages([$property => "There is no field “{$code}”."]);
                }
            }
        }
        $criterion = trim($input['criterion'] ?? '');
        try {
            $node = Parser::parse($criterion)->root;
            Criterion::describe($node, $this->catalog->schema($user));
            $criterion = $criterion === '' ? '' : Printer::node($node);
        } catch (SyntaxError|SearchError $fault) {
            throw ValidationException::withMessages(['criterion' => $fault->getMessage()]);
        }
        $view->fill(['name' => $input['name'], 'criterion' => $criterion, 'columns' => $input['columns'], 'sort' => $sorted])->save();
    }
}
