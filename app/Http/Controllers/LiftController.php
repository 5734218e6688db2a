<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Rights;
use App\Capture\AreaText;
use App\Catalog\Catalog;
use App\Catalog\OwnValues;
use App\Intake\LiftedValues;
use App\Intake\LiftFrom;
use App\Models\Document;
use App\Models\User;
use App\Redaction\Redactions;
use App\Support\Refused;
use Brenvic\Core\Capture\UnreadableFile;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Lift\Lift;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;

/** Values of a sheet from the pages of its document: what is typed on them need not be typed again. */
final readonly class LiftController
{
    public function __construct(private Catalog $catalog, private Rights $rights, private Redactions $redactions)
    {
    }

    /** The places of the pages that fit a field. */
    public function places(Request $request, Document $document): JsonResponse
    {
        $field = $this->field($request);
        $user = User::of($request);
        abort_unless($this->rights->sees($user, $document) && ! $this->redactions->binds($user, $document), 404);

        return new JsonResponse(['places' => LiftFrom::places($document, $field)]);
    }

    /** Words of a page as the value of a field. */
    public function value(Request $request): JsonResponse
    {
        $input = $request->validate(['field' => 'required|string|max:40', 'text' => 'required|string|max:2000']);
        $field = $this->field($request);
        try {
            $value = Lift::value($field, (string) $input['text']);
        } catch (InvalidValue $fault) {
            return new JsonResponse(['value' => null, 'label' => '', 'fault' => $fault->getMessage()]);
        }

        return new JsonResponse(['value' => $value, 'label' => $field->display($value), 'fault' => '']);
    }

    /** The words of a part of a page that nobody has read yet. */
    public function area(Request $request, Document $document, AreaText $areas): JsonResponse
    {
        $user = User::of($request);
        abort_unless($this->rights->sees($user, $document) && ! $this->redactions->binds($user, $document), 404);
        $input = $request->validate([
            'page' => 'required|integer|min:1|max:5000',
            'left' => 'required|numeric|between:0,1',
            'top' => 'required|numeric|between:0,1',
            'right' => 'required|numeric|between:0,1|gt:left',
            'bottom' => 'required|numeric|between:0,1|gt:top',
        ]);
        try {
            $text = $areas->of(
                $document,
                (int) $input['page'],
                (float) $input['left'],
                (float) $input['top'],
                (float) $input['right'],
                (float) $input['bottom'],
            );
        } catch (UnreadableFile $fault) {
            throw new Refused($fault->getMessage());
        }

        return new JsonResponse(['text' => $text]);
    }

    /** Where on the pages the values of a document were lifted from. */
    public function lifted(Request $request, Document $document): JsonResponse
    {
        $user = User::of($request);
        abort_unless($this->rights->sees($user, $document) && ! $this->redactions->binds($user, $document), 404);
        $shown = array_filter($this->catalog->fieldsShownTo($user), static fn (FieldDefinition $field): bool => ! Cover::hides($field));
        $present = array_intersect_key(OwnValues::of([$document->id])[$document->id] ?? [], $shown);

        return new JsonResponse(['lifted' => (object) LiftedValues::of($document, $present)]);
    }

    private function field(Request $request): FieldDefinition
    {
        return $this->catalog->fieldsShownTo(User::of($request))[(string) $request->input('field')] ?? abort(404);
    }
}
