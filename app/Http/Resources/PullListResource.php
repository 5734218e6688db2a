<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Catalog\Catalog;
use App\Models\Delivery;
use App\Models\DeliveryForm;
use App\Models\Document;
use App\Models\PullList;
use App\Models\SecureLink;
use App\Models\User;
use App\Retrieve\DeliveryFormat;
use App\Retrieve\DeliveryFormats;
use App\Retrieve\PullLists;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;

/** Shapes pull lists, deliveries and secure links for the API. */
final readonly class PullListResource
{
    /** Items shown at once; a longer list is worked on through Find. */
    private const SHOWN = 1_000;

    public function __construct(private PullLists $lists, private Catalog $catalog)
    {
    }

    /**
     * @param  Collection<int, PullList>  $lists
     * @return list<array<string, mixed>>
     */
    public function rows(Collection $lists, User $user): array
    {
        $counts = $this->lists->counts($user, $lists->loadMissing(['owner', 'people', 'hold']));

        return array_values($lists->map(fn (PullList $list): array => $this->row($list, $user, $counts[$list->id]))->all());
    }

    /**
     * @param  int|null  $documents  how many the person may see, where that is known
     * @return array<string, mixed>
     */
    public function row(PullList $list, User $user, ?int $documents = null): array
    {
        return [
            'id' => $list->id,
            'name' => $list->name,
            'note' => $list->note,
            'documents' => $documents ?? count($this->lists->seen($user, $list)),
            'own' => $list->user_id === $user->id,
            'by' => $list->owner->name,
            'may_change' => $this->lists->mayChange($user, $list) && $list->frozen_at === null,
            'hold' => $list->hold === null ? null : ['reason' => $list->hold->reason, 'at' => $list->hold->created_at->toIso8601String()],
            'frozen_at' => $list->frozen_at?->toIso8601String(),
            'search' => $this->lists->searchFor($user, $list),
            'updated_at' => $list->updated_at->toIso8601String(),
            'lock_version' => $list->lock_version,
        ];
    }

    /** @return array<string, mixed> */
    public function of(PullList $list, User $user): array
    {
        $list->loadMissing(['owner', 'people', 'hold']);
        $seen = $this->lists->seen($user, $list);
        $ids = array_slice($seen, 0, self::SHOWN);
        $documents = Document::query()->findMany($ids)->keyBy('id');
        $notes = DB::table('pull_list_items')->where('pull_list_id', $list->id)->pluck('note', 'document_id');
        $items = [];
        foreach ($ids as $id) {
            $document = $documents->get($id);
            if ($document !== null) {
                $items[] = [
                    'ref' => $document->ref,
                    'title' => $document->title,
                    'type' => $this->catalog->types()->get((int) $document->document_type_id)->name ?? '',
                    'library' => $this->catalog->libraries()->get($document->library_id)->name ?? '',
                    'file_kind' => $document->file_kind,
                    'bytes' => $document->bytes,
                    'note' => (string) ($notes[$id] ?? ''),
                ];
            }
        }

        return [
            ...$this->row($list, $user, count($seen)),
            'items' => $items,
            'bytes' => array_sum(array_column($items, 'bytes')),
            'people' => $list->people
                ->map(
                    static fn (User $p): array => [
                        'sign_in' => $p->sign_in,
                        'name' => $p->name,
                        'may_change' => (bool) $p->getRelationValue('pivot')->may_change,
                    ],
                )
                ->all(),
            // A delivery holds what its maker saw of the list: its numbers would tell others of what they may not see.
            'deliveries' => Delivery::query()
                ->where('pull_list_id', $list->id)
                ->where('user_id', $user->id)
                ->with('user')
                ->orderByDesc('id')
                ->limit(20)
                ->get()
                ->map(self::delivery(...))
                ->all(),
            'formats' => array_map(self::format(...), array_values(DeliveryFormats::all())),
        ];
    }

    /** @return array<string, mixed> */
    private static function format(DeliveryFormat $format): array
    {
        return [
            'value' => $format->value,
            'label' => $format->label,
            'what' => $format->what,
            'has_files' => $format->hasFiles(),
            'has_table' => $format->hasTable(),
            'has_names' => $format->hasNames(),
            'levels' => $format->levels(),
            'is_sent' => $format->isSent(),
            'is_shown' => $format->isShown(),
        ];
    }

    /** @return array<string, mixed> */
    public static function delivery(Delivery $delivery): array
    {
        $isGone = $delivery->state === Delivery::DONE && $delivery->expires_at?->isPast();

        return [
            'id' => $delivery->id,
            'list' => $delivery->pull_list_id,
            'name' => $delivery->name,
            'format' => $delivery->format,
            'state' => $isGone ? Delivery::EXPIRED : $delivery->state,
            'done' => $delivery->done,
            'total' => $delivery->total,
            'message' => $delivery->message,
            'bytes' => $delivery->bytes,
            'sha256' => $delivery->sha256,
            'form' => (DeliveryForm::tryFrom((string) ($delivery->settings['form'] ?? '')) ?? DeliveryForm::AsItIs)->words(),
            'by' => $delivery->user->name,
            'at' => $delivery->created_at->toIso8601String(),
            'expires_at' => $delivery->expires_at?->toIso8601String(),
            'documents' => $delivery->state === Delivery::DONE ? $delivery->total : 0,
        ];
    }

    /** @return array<string, mixed> */
    public static function link(SecureLink $link): array
    {
        return [
            'id' => $link->id,
            'note' => $link->note,
            'of' => $link->delivery !== null ? $link->delivery->name : $link->document->title ?? '',
            'uses' => $link->uses,
            'most_uses' => $link->most_uses,
            'expires_at' => $link->expires_at->toIso8601String(),
            'form' => $link->form->words(),
            'has_password' => $link->password !== null,
            'revoked' => $link->revoked_at !== null,
            'open' => $link->isOpen(),
            'log' => DB::table('secure_link_uses')
                ->where('secure_link_id', $link->id)
                ->orderByDesc('id')
                ->limit(20)
                ->get(['at', 'outcome', 'from'])
                ->map(static fn (object $u): array => ['at' => $u->at, 'outcome' => $u->outcome, 'from' => $u->from])
                ->all(),
        ];
    }
}
