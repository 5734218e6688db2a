<?php

declare(strict_types=1);

namespace App\Import;

use App\Jobs\BackgroundJob;
use App\Jobs\Urgency;
use App\Models\Bringing;
use App\Models\BringingRow;
use Carbon\CarbonInterface;

/** Looks at what would come in, and once that is begun, changes what a later register says otherwise. */
final class WorkOnBringing extends BackgroundJob
{
    public function __construct(public readonly int $bringing)
    {
    }

    public static function begin(Bringing $bringing): void
    {
        self::dispatch($bringing->id)->onQueue(Urgency::Awaited->value)->afterCommit();
    }

    public function handle(BringIn $bringIn): void
    {
        $bringing = Bringing::query()->find($this->bringing);
        match ($bringing?->state) {
            Bringing::LOOKING => $bringIn->look($bringing),
            Bringing::OPEN => $bringIn->change($bringing),
            default => null,
        };
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return self::ids(
            Bringing::query()
                ->where('updated_at', '<', $before)
                ->where(static fn ($query) => $query->where('state', Bringing::LOOKING)->orWhere(
                    static fn ($open) => $open->where('state', Bringing::OPEN)->whereIn(
                        'id',
                        BringingRow::query()->where('outcome', BringingRow::CHANGED)->select('bringing_id'),
                    ),
                ))
                ->toBase(),
        );
    }

    public function about(): int
    {
        return $this->bringing;
    }

    protected function givenUp(string $reason): void
    {
        Bringing::query()
            ->whereKey($this->bringing)
            ->where('state', Bringing::LOOKING)
            ->update(['state' => Bringing::FAILED, 'says' => mb_substr("{$reason} Nothing was brought in.", 0, 500)]);
        BringingRow::query()
            ->where('bringing_id', $this->bringing)
            ->where('outcome', BringingRow::CHANGED)
            ->update(['outcome' => BringingRow::REFUSED, 'note' => mb_substr($reason, 0, 500)]);
    }
}
