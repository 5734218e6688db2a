<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Catalog\Catalog;
use App\Http\Requests\SheetInput;
use App\Http\Resources\WaitingResource;
use App\Models\Document;
use App\Models\User;
use App\Support\Refused;
use App\Templates\TemplateFile;
use App\Templates\Templates;
use Brenvic\Core\Capture\FileKind;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** New documents without a file: from templates. */
final readonly class TemplateController
{
    public function __construct(private Templates $templates)
    {
    }

    public function index(Request $request, Catalog $catalog): JsonResponse
    {
        $rows = array_map(static fn (Document $d): array => [
            'ref' => $d->ref,
            'title' => $d->title,
            'file_name' => $d->file_name,
            'library' => (string) $catalog->libraries()->get($d->library_id)?->name,
            'type' => $catalog->types()->get((int) $d->document_type_id)?->code,
            'filled' => TemplateFile::takes(FileKind::from($d->file_kind)),
        ], $this->templates->of(User::of($request)));

        return new JsonResponse(['templates' => $rows]);
    }

    /** One sheet, and a document of each template. */
    public function store(SheetInput $request, WaitingResource $resource): JsonResponse
    {
        $refs = $request->validate(['templates' => 'required|array|min:1|max:20', 'templates.*' => 'string|distinct'])['templates'];
        $user = User::of($request);
        $known = collect($this->templates->of($user))->keyBy('ref');
        $chosen = [];
        foreach ($refs as $ref) {
            $chosen[] = $known->get($ref) ??
                throw new Refused('One of these templates does not exist, or you may not see it. Nothing was created.');
        }
        $made = $this->templates->make($user, $chosen, $request->sheet());

        return new JsonResponse(['made' => array_map(static fn (Document $d): string => $d->ref, $made), ...$resource->of($user)], 201);
    }
}
