<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Change;
use App\Access\Changing;
use App\Access\WaitingSight;
use App\Catalog\Catalog;
use App\Copies\Copies;
use App\Copies\Copy;
use App\Files\NewFile;
use App\Http\Resources\WaitingResource;
use App\Models\Document;
use App\Models\MadeHow;
use App\Models\User;
use App\Redaction\Redactions;
use App\Support\Refused;
use App\Versions\NewVersion;
use App\Versions\Versions;
use Brenvic\Core\Versions\DiffPiece;
use Brenvic\Core\Versions\TextDiff;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Gate;

/** Documents that are like one another. */
final class CopyController
{
    public function index(Request $request, Document $document, Copies $copies, Catalog $catalog, Changing $changing): JsonResponse
    {
        $user = User::of($request);
        $found = $copies->of($document, $user);
        $filed = array_filter($found, static fn (Copy $copy): bool => $copy->document->state === Document::FILED);
        $hindered = $changing->ofPerson($user, array_values(array_map(static fn (Copy $copy): int => $copy->document->id, $filed)), Change::Values);

        return new JsonResponse([
            'copies' => array_map(
                static fn (Copy $copy): array => [
                    'ref' => $copy->document->ref,
                    'title' => $copy->document->title,
                    'file_name' => $copy->document->file_name,
                    'state' => $copy->document->state,
                    'library' => $catalog->libraries()->get($copy->document->library_id)->name ?? '',
                    'how' => $copy->how,
                    'share' => round($copy->share, 3),
                    'may_version' => $copy->how !== Copy::FILE &&
                        $copy->document->state === Document::FILED &&
                        $copy->document->parent_id === null &&
                        ! isset($hindered[$copy->document->id]),
                ],
                $found,
            ),
        ]);
    }

    /** What a document says otherwise than one that is like it. */
    public function compare(Request $request, Document $document, string $other, Redactions $redactions, Versions $versions): JsonResponse
    {
        $user = User::of($request);
        $with = Document::query()->where('ref', $other)->first() ?? abort(404);
        Gate::authorize('view', $with);
        abort_if($redactions->binds($user, $document) || $redactions->binds($user, $with), 404);
        $pieces = TextDiff::of($versions->text($with, $with->version), $versions->text($document, $document->version));

        return new JsonResponse([
            'title' => $with->title,
            'pieces' => array_map(static fn (DiffPiece $p): array => [$p->kind->value, $p->text], $pieces),
        ]);
    }

    /** Files what waits as the next version of a document that is filed. */
    public function version(Request $request, Versions $versions, Catalog $catalog, WaitingResource $resource): JsonResponse
    {
        $input = $request->validate(['document' => 'required|string', 'of' => 'required|string', 'note' => 'nullable|string|max:500']);
        $user = User::of($request);
        $of = Document::query()->where('ref', $input['of'])->where('state', Document::FILED)->first() ?? abort(404);
        Gate::authorize('update', $of);
        $waiting = WaitingSight::of($user)->where('state', Document::WAITING)->where('ref', $input['document'])->first() ?? abort(404);
        Gate::authorize('file', $catalog->libraries()->get($waiting->library_id));
        DB::transaction(static function () use ($waiting, $of, $user, $versions, $input): void {
            if (Document::query()->where('parent_id', $waiting->id)->exists()) {
                throw new Refused('It has attachments, which a version cannot take along. File it beside the other.');
            }
            $made = new NewVersion(MadeHow::Arrived, (string) ($input['note'] ?? ''));
            $versions->add($of, $user, new NewFile($waiting->sha256, $waiting->bytes, $waiting->file_name), $made);
            $waiting->delete();
        });

        return new JsonResponse(['version' => $of->refresh()->version, ...$resource->of($user)]);
    }
}
