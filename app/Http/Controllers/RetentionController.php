<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Catalog\Catalog;
use App\Destroying\Stub;
use App\Http\Resources\RetentionResource;
use App\Models\Document;
use App\Models\User;
use App\Oversight\Decisions;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Validation\Rule;

/** How long documents are kept, and what is left of them. */
final readonly class RetentionController
{
    public function __construct(private RetentionResource $resource)
    {
    }

    public function show(Request $request, Document $document): JsonResponse
    {
        return new JsonResponse($this->resource->of($document, User::of($request)));
    }

    public function decide(Request $request, Document $document, Decisions $decisions): JsonResponse
    {
        $input = $request->validate([
            'decision' => ['required', Rule::in(Decisions::ALL)],
            'day' => 'nullable|date_format:Y-m-d',
            'reason' => 'required|string|max:1000',
        ], ['reason.required' => 'Give a reason. It stands in the history.']);
        $decisions->decide(User::of($request), $document, (string) $input['decision'], $input['day'] ?? null, (string) $input['reason']);

        return new JsonResponse($this->resource->of($document->refresh(), User::of($request)));
    }

    public function stub(Request $request, Catalog $catalog): JsonResponse
    {
        $stub = Stub::now()->knownTo(User::of($request), $catalog);

        return new JsonResponse(['title' => $stub->title, 'fields' => $stub->fields]);
    }

    public function keepStub(Request $request, Catalog $catalog): JsonResponse
    {
        $input = $request->validate(['title' => 'required|boolean', 'fields' => 'present|array|max:50', 'fields.*' => 'string|max:40']);
        $stub = new Stub((bool) $input['title'], array_values(array_map(strval(...), (array) $input['fields'])));
        $stub->keep(User::of($request), $catalog);

        return $this->stub($request, $catalog);
    }
}
