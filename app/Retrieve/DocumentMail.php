<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Jobs\Urgency;
use App\Models\Delivery;
use App\Models\DeliveryForm;
use App\Models\Document;
use App\Models\PullList;
use App\Models\User;
use App\Support\Outbox;
use Illuminate\Support\Facades\DB;

/** Mails a few documents in one step, as copies or as links by which they are fetched. */
final readonly class DocumentMail
{
    /** Documents of one message. */
    public const MOST = 40;

    /** How long the links of a message hold, in days, and how often each is good. */
    public const DAYS = 14;

    private const USES = 5;

    public function __construct(private PullLists $lists)
    {
    }

    /**
     * @param  non-empty-list<Document>  $documents  which the person may see
     * @param  string  $to  addresses with commas between
     */
    public function copies(User $user, array $documents, DeliveryForm $form, string $to, string $subject, string $text): Delivery
    {
        $delivery = DB::transaction(function () use ($user, $documents, $form, $to, $subject, $text): Delivery {
            // The list says what is in the delivery and is among nobody's lists.
            $list = PullList::query()->create(['user_id' => $user->id, 'name' => $subject]);
            $this->lists->add($user, $list, array_map(static fn (Document $document): int => $document->id, $documents));
            $list->delete();

            return Delivery::query()->create([
                'pull_list_id' => $list->id,
                'user_id' => $user->id,
                'name' => $subject,
                'format' => 'mail',
                'settings' => [
                    'names' => '{title} {reference}',
                    'levels' => [],
                    'form' => $form->value,
                    'labels' => false,
                    'spreadsheet' => false,
                    'to' => $to,
                    'subject' => $subject,
                    'text' => $text,
                ],
            ]);
        });
        Deliver::dispatch($delivery->id)->onQueue(Urgency::of(count($documents))->value);

        return $delivery;
    }

    /**
     * @param  non-empty-list<Document>  $documents  which the person may see
     * @param  string  $to  addresses with commas between
     */
    public function links(User $user, array $documents, DeliveryForm $form, string $to, string $subject, string $text): void
    {
        DB::transaction(function () use ($user, $documents, $form, $to, $subject, $text): void {
            $lines = [];
            foreach ($documents as $document) {
                $made = SecureLinks::make(
                    $user,
                    ['document_id' => $document->id],
                    ['note' => $to, 'form' => $form->value, 'most_uses' => self::USES, 'days' => self::DAYS],
                );
                $lines[] = "{$document->title}\n{$made['address']}";
            }
            $until = 'The '.(count($lines) === 1 ? 'link holds' : 'links hold').' until '.now()->addDays(self::DAYS)->format('j M Y').'.';
            Outbox::put($user->id, $to, $subject, trim($text)."\n\n".implode("\n\n", $lines)."\n\n{$until}");
        });
    }
}
