<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Design\DesignFile;
use App\Design\Draft;
use App\Http\Requests\PartInput;
use App\Models\User;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Fields\InvalidDefinition;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Support\Facades\DB;

/** Changes parts of the design in the draft. */
final readonly class PartController
{
    public function __construct(private Draft $draft)
    {
    }

    /** A part whole, rows of tables too. */
    public function show(DesignKind $kind, string $code): JsonResponse
    {
        abort_if($this->draft->design()->part($kind, $code) === null, 404);

        return new JsonResponse($this->shape($kind, $code));
    }

    public function store(PartInput $request): JsonResponse
    {
        $code = (string) $request->validated('code');
        DB::transaction(function () use ($request, $code): void {
            if ($this->draft->design()->part($request->kind(), $code) !== null) {
                throw new InvalidDefinition('code', 'This code is already in use. Choose another.');
            }
            $this->draft->put(User::of($request), $request->kind(), $code, $request->part(), null);
        });

        return new JsonResponse($this->shape($request->kind(), $code), 201);
    }

    public function update(PartInput $request, DesignKind $kind, string $code): JsonResponse
    {
        abort_if($this->draft->design()->part($kind, $code) === null, 404);
        $this->draft->put(User::of($request), $kind, $code, $request->part(), $request->integer('lock_version'));

        return new JsonResponse($this->shape($kind, $code));
    }

    public function destroy(Request $request, DesignKind $kind, string $code): Response
    {
        abort_if($this->draft->design()->part($kind, $code) === null, 404);
        $this->draft->put(User::of($request), $kind, $code, null, null);

        return new Response(status: 204);
    }

    /** @return array<string, mixed> */
    private function shape(DesignKind $kind, string $code): array
    {
        return [
            'code' => $code,
            ...DesignFile::objects($this->draft->design()->part($kind, $code) ?? []),
            'lock_version' => $this->draft->locks()[$kind->value][$code] ?? 1,
        ];
    }
}
