<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Design\Draft;
use App\Http\Resources\ReadingResource;
use App\Models\Document;
use App\Models\User;
use App\Reading\Proposals;
use App\Reading\Trials;
use App\Redaction\Redactions;
use App\Support\Refused;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\ReadingPart;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\InvalidDefinition;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** What the machine reads out of texts. */
final class ReadingController
{
    /** Tries a rule that need not be published, nor kept. */
    public function trial(Request $request, Draft $draft, Trials $trials): JsonResponse
    {
        $input = $request->validate(['rule' => 'required|array', 'criterion' => 'present|nullable|string|max:60000']);
        $user = User::of($request);
        $content = $input['rule'];
        $code = is_string($content['code'] ?? null) && $content['code'] !== '' ? $content['code'] : 'tried';
        $part = ReadingPart::of($code, $content);
        $design = $draft->design()->with(DesignKind::Reading, $code, $content);
        $part->check($draft->check($design));
        $field = $design->field($part->field) ?? throw new InvalidDefinition('field', 'Choose the field that the rule reads.');
        if (Cover::hides($field)) {
            throw new Refused("{$field->label} is sensitive: its values are revealed one at a time, so rules cannot be tried on it.");
        }

        $trial = $trials->of($user, $part, $design, $field, trim((string) ($input['criterion'] ?? '')));

        return new JsonResponse(ReadingResource::trial($trial, $field));
    }

    /** What a document is proposed to be filed as. */
    public function proposals(Request $request, Document $document, Proposals $proposals, Rights $rights, Redactions $redactions): JsonResponse
    {
        $user = User::of($request);
        abort_unless($rights->sees($user, $document) && ! $redactions->binds($user, $document), 404);
        $type = $request->validate(['type' => 'nullable|string|max:40'])['type'] ?? null;

        return new JsonResponse(ReadingResource::proposed($proposals->of($document, $user, $type)));
    }
}
