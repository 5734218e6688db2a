<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Design\Draft;
use App\Models\DesignChangeModel;
use App\Models\DesignVersion;
use App\Models\Document;
use App\Models\Group;
use App\Models\Reindexing;
use App\Models\User;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\DesignRight;
use Brenvic\Core\Design\EffectCount;
use Brenvic\Core\Design\SystemFields;

/** Shapes the draft, its effects and versions for the API. */
final readonly class DraftResource
{
    private const LISTED = 12;

    public function __construct(private DesignResource $design)
    {
    }

    /** @return array<string, mixed> */
    public function of(User $user, Draft $draft): array
    {
        $shape = $this->design->of($user);
        $locks = $draft->locks();
        $right = $draft->right($user);
        $published = new DesignRight($draft->published(), $user->groupNames());
        foreach (DesignKind::cases() as $kind) {
            $rights = array_column($kind === DesignKind::Library ? $shape['libraries'] : [], 'may_change', 'code');
            $own = array_values(array_filter($shape[$kind->value], static fn (array $part): bool => ($part['own'] ?? false) === true));
            $shape[$kind->value] = [];
            foreach ($draft->design()->all($kind) as $code => $content) {
                $shape[$kind->value][] = [
                    ...DesignResource::part($kind, (string) $code, $content, $locks[$kind->value][$code] ?? 1),
                    'kept_by' => $right->keepers($kind, (string) $code),
                    ...isset($rights[$code]) ? ['may_change' => $rights[$code]] : [],
                ];
            }
            array_push($shape[$kind->value], ...$own);
        }
        $edits = DesignChangeModel::query()
            ->with('editor')
            ->get()
            ->keyBy(static fn (DesignChangeModel $c): string => "{$c->kind}/{$c->code}");

        // What the draft adds can be asked for in criteria before it is published.
        $shape['system_fields'] = array_map(DesignResource::definition(...), array_values(SystemFields::of($draft->design())));

        return [
            'design' => [...$shape, ...DesignResource::inOrder($shape)],
            'groups' => Group::query()->orderBy('name')->pluck('name')->all(),
            'designing' => Group::designing(),
            'work' => Reindexing::query()->orderByDesc('id')->limit(5)->get()->map(self::work(...))->all(),
            'restores' => $edits->max('restores'),
            'changes' => array_map(static function (DesignChange $change) use ($edits, $user, $published): array {
                $edit = $edits->get("{$change->kind->value}/{$change->code}");

                return [
                    ...self::change($change),
                    'kept_by' => $published->keepers($change->kind, $change->code),
                    'by' => $edit === null || $edit->changed_by === $user->id ? null : $edit->editor->name,
                    'at' => $edit?->updated_at->toIso8601String(),
                ];
            }, $draft->changes()),
        ];
    }

    /** @return array<string, mixed> */
    public static function work(Reindexing $work): array
    {
        return [
            'id' => $work->id,
            'name' => $work->name,
            // A number of documents would count those that who designs may not see.
            'percent' => $work->state === Reindexing::DONE ? 100 : intdiv(100 * $work->done, max(1, $work->total, $work->done)),
            'state' => $work->state,
            'says' => $work->says,
        ];
    }

    /** @return array<string, mixed> */
    public static function change(DesignChange $change): array
    {
        return [
            'kind' => $change->kind->value,
            'one' => $change->kind->one(),
            'code' => $change->code,
            'name' => $change->name(),
            'act' => $change->act(),
            'properties' => $change->before === null || $change->after === null ? [] : $change->properties(),
        ];
    }

    /** @return array<string, mixed> */
    public static function effect(EffectCount $effect): array
    {
        $rows =
            $effect->set === null
                ? []
                : Document::query()
                    ->whereIntegerInRaw('id', $effect->set->newest(0, self::LISTED))
                    ->orderByDesc('id')
                    ->get(['ref', 'title'])
                    ->map(static fn (Document $d): array => ['ref' => $d->ref, 'title' => $d->title])
                    ->all();

        return [
            'effect' => $effect->kind->value,
            'stops' => $effect->kind->stops(),
            'kind' => $effect->change->kind->value,
            'code' => $effect->change->code,
            'name' => $effect->change->name(),
            'documents' => $effect->documents,
            'what' => $effect->what,
            'cql' => $effect->cql,
            'examples' => $effect->examples,
            'rows' => $rows,
        ];
    }

    /** @return array<string, mixed> */
    public static function version(DesignVersion $version): array
    {
        return [
            'number' => $version->id,
            'note' => $version->note,
            'by' => $version->publisher?->name,
            'at' => $version->published_at->toIso8601String(),
            'effects' => $version->effects,
        ];
    }
}
