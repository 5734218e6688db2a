<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Catalog\Catalog;
use App\Design\PartShape;
use App\Find\WordReach;
use App\Models\PersonalView;
use App\Models\User;
use Brenvic\Core\Design\DesignCheck;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Fields\DateForm;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\NumberForm;
use Brenvic\Core\Search\Asking\Reach;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use Illuminate\Validation\Rule;

/** What a person keeps for themselves: views, and the one they begin with. */
final class PersonalController
{
    public function putView(Request $request, Catalog $catalog, string $code): JsonResponse
    {
        $user = User::of($request);
        abort_unless(preg_match('/^my-[a-z0-9_-]{1,37}$/', $code) === 1, 404);
        $content = PartShape::complete(DesignKind::View, $request->json()->all());
        $fault = PartShape::faultOfPart(DesignKind::View, $content);
        if ($fault !== null) {
            throw new InvalidDefinition(explode('/', trim($fault[0], '/'))[0], $fault[1]);
        }
        $design = $catalog->design()->with(DesignKind::View, $code, $content);
        foreach (array_keys(array_diff_key($catalog->fields(), $catalog->fieldsFor($user))) as $hidden) {
            $design = $design->with(DesignKind::Field, (string) $hidden, null);
        }
        (new DesignCheck($design, $catalog->systemFieldsFor($user)))->part(DesignKind::View, $code);
        PersonalView::query()->updateOrCreate(['user_id' => $user->id, 'code' => $code], ['content' => $content]);

        return new JsonResponse(['code' => $code]);
    }

    public function removeView(Request $request, string $code): Response
    {
        PersonalView::query()
            ->where('user_id', $request->user()?->getAuthIdentifier())
            ->where('code', $code)
            ->delete();

        return new Response(status: 204);
    }

    /** What holds for everybody in the office who has not chosen otherwise. */
    public function office(Request $request, WordReach $reach): JsonResponse
    {
        $given = $request->validate(['reach' => ['required', Rule::enum(Reach::class)]]);
        $reach->setForOffice(Reach::from($given['reach']));

        return new JsonResponse(['reach' => $reach->ofOffice()->value]);
    }

    public function preferences(Request $request): JsonResponse
    {
        $user = User::of($request);
        $given = $request->validate([
            'default_view' => 'sometimes|nullable|string|max:40',
            'reach' => ['sometimes', 'nullable', Rule::enum(Reach::class)],
            'default_search' => 'sometimes|nullable|integer',
            'notices' => 'sometimes|in:short,long,stay',
            'notices_mailed' => 'sometimes|in:at_once,daily,none',
            'dates' => ['sometimes', 'nullable', Rule::enum(DateForm::class)],
            'numbers' => ['sometimes', 'nullable', Rule::enum(NumberForm::class)],
            'reader_hidden' => 'sometimes|array|max:20',
            'reader_hidden.*' => 'string|max:20',
            'columns' => 'sometimes|array|max:200',
            'columns.*' => 'array|max:60',
            'columns.*.*.code' => 'required|string|max:40',
            'columns.*.*.width' => 'nullable|integer|min:30|max:1000',
            'margins' => 'sometimes|array',
            'margins.order' => 'array|max:200',
            'margins.order.*' => 'string|max:40',
            'margins.hidden' => 'array|max:200',
            'margins.hidden.*' => 'string|max:40',
            'desk' => 'sometimes|array',
            'desk.order' => 'array|max:20',
            'desk.order.*' => 'string|max:40',
            'desk.hidden' => 'array|max:20',
            'desk.hidden.*' => 'string|max:40',
        ]);
        // In one statement: settings made one after the other are saved side by side.
        $settings = [];
        foreach ($given as $name => $value) {
            $settings["preferences->{$name}"] = $value;
        }
        if ($settings !== []) {
            User::query()->whereKey($user->id)->update($settings);
        }

        return new JsonResponse(['preferences' => $user->refresh()->preferences]);
    }
}
