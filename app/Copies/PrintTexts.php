<?php

declare(strict_types=1);

namespace App\Copies;

use App\Index\Indexer;
use App\Jobs\BackgroundJob;
use App\Jobs\Urgency;
use App\Models\Document;
use Carbon\CarbonInterface;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;

/** Notes of documents whose text was there before by what nearly alike ones are found, some at a time. */
final class PrintTexts extends BackgroundJob
{
    private const AT_ONCE = 500;

    /** @param  int  $from  the first document that is to be looked at */
    public function __construct(public readonly int $from)
    {
        $this->onQueue(Urgency::Idle->value);
    }

    public function handle(Indexer $indexer): void
    {
        $ids = self::left()->where('id', '>=', $this->from)->orderBy('id')->limit(self::AT_ONCE)->pluck('id');
        foreach ($ids as $id) {
            DB::transaction(static function () use ($id, $indexer): void {
                TextPrints::note((int) $id);
                $document = Document::query()->find((int) $id);
                if ($document?->state === Document::FILED && $document->told_language !== null) {
                    $indexer->update([$document->id]);
                }
            });
        }
        if ($ids->count() === self::AT_ONCE) {
            self::dispatch((int) $ids->last() + 1);
        }
    }

    public static function unfinished(CarbonInterface $before): array
    {
        $first = self::left()->where('updated_at', '<', $before)->min('id');

        return $first === null ? [] : [(int) $first];
    }

    public function about(): int
    {
        return $this->from;
    }

    protected function givenUp(string $reason): void
    {
        // The one that it broke on is like no other; the rest is taken up again.
        $document = self::left()->where('id', '>=', $this->from)->orderBy('id')->first();
        $document?->update([
            'text_print' => '',
            'text_reason' => trim("{$document->text_reason} It is not compared with others: {$reason}."),
        ]);
    }

    /** @return Builder<Document> */
    private static function left(): Builder
    {
        return Document::query()->withTrashed()->whereNull('text_print')->where('text_state', Document::TEXT_READ);
    }
}
