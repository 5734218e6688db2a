<?php

declare(strict_types=1);

namespace App\Intake\Sources;

use App\Catalog\Catalog;
use App\Models\User;
use App\Notices\NoticeKind;
use App\Notices\Notices;
use App\Support\Refused;
use Brenvic\Core\Design\SourcePart;
use Illuminate\Support\Facades\DB;
use Throwable;

/** Looks at every source of the published design by turns. One that fails is asked again after growing waits, and holds no other up. */
final class Watch
{
    /** Seconds until a source that failed is asked again: doubled each time. */
    private const FIRST_WAIT = 5;

    private const LONGEST_WAIT = 600;

    /** Seconds between two notes that a source works: each is a write, and it is looked at every second. */
    private const NOTED = 30;

    /** @var array<string, array{string, SourceOf}> code => what it was made of, and the source with what it has seen */
    private array $sources = [];

    /** After so many tries in a row people are told: a line that was broken once says nothing. */
    private const TOLD = 3;

    /** @return int how many documents came in */
    public function look(Catalog $catalog, ArrivingFile $arriving): int
    {
        $count = 0;
        $states = DB::table('source_states')->get()->keyBy('source');
        $sources = $catalog->design()->parts(SourcePart::class);
        foreach ($sources as $code => $source) {
            // A scanner is told to, by whoever stands at it.
            if ($source->way === SourcePart::SCANNER) {
                continue;
            }
            $state = $states->get((string) $code);
            if ($state?->again_at !== null && now()->lt($state->again_at)) {
                continue;
            }
            try {
                $way = $this->way($source);
                if ($state === null) {
                    $way->make();
                }
                $count += $way->look($arriving);
                $isNoted = $state !== null && (int) $state->tries === 0 && now()->subSeconds(self::NOTED)->lt($state->looked_at);
                $isNoted || $this->fares($source, '', 0);
            } catch (Throwable $fault) {
                $says = $fault instanceof Refused ? $fault->getMessage() : 'It failed for a reason that is in the log of the server.';
                $fault instanceof Refused || report($fault);
                $tries = (int) ($state->tries ?? 0) + 1;
                $this->fares($source, $says, $tries);
                $tries === self::TOLD && self::tell($source, $says);
            }
        }
        $gone = array_diff($states->keys()->all(), array_map(strval(...), array_keys($sources)));
        if ($gone !== []) {
            DB::table('source_states')->whereIn('source', $gone)->delete();
        }

        return $count;
    }

    private function way(SourcePart $source): SourceOf
    {
        $made = serialize($source).config('brenvic.sources');
        if (($this->sources[$source->code][0] ?? '') !== $made) {
            $way = match ($source->way) {
                SourcePart::MAILBOX => self::mailbox($source),
                default => new WatchedFolder($source),
            };
            $this->sources[$source->code] = [$made, $way];
        }

        return $this->sources[$source->code][1];
    }

    private static function mailbox(SourcePart $source): SourceOf
    {
        $address = config("brenvic.mailboxes.{$source->mailbox}");

        return is_string($address) && str_starts_with($address, 'maildir:')
            ? new Maildir($source, rtrim(substr($address, strlen('maildir:')), '/'))
            : new Mailbox($source);
    }

    /** Tells those who see what arrives by a source that it cannot be reached. */
    private static function tell(SourcePart $source, string $says): void
    {
        Notices::tell(User::among([$source->group])->get(), NoticeKind::Source, ['text' => "“{$source->name}” cannot be reached. {$says}"], '/intake');
    }

    private function fares(SourcePart $source, string $says, int $tries): void
    {
        $wait = min(self::LONGEST_WAIT, self::FIRST_WAIT * 2 ** min(10, max(0, $tries - 1)));
        DB::table('source_states')->upsert(
            [[
                'source' => $source->code,
                'says' => mb_substr($says, 0, 500),
                'tries' => $tries,
                'again_at' => $tries === 0 ? null : now()->addSeconds($wait),
                'looked_at' => now(),
            ]],
            'source',
        );
    }
}
