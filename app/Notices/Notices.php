<?php

declare(strict_types=1);

namespace App\Notices;

use App\Models\Document;
use App\Models\User;
use App\Support\Address;
use App\Support\OfficeSetting;
use App\Support\Outbox;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/**
 * What people are told of, here at once, and by mail as each has chosen: at once, once a day, or not. Whoever may not see a
 * document is not told of it: who tells has made sure of that.
 */
final class Notices
{
    public const AT_ONCE = 'at_once';

    public const DAILY = 'daily';

    public const NONE = 'none';

    private const TEXTS = 'notice_texts';

    /** How many are kept to be looked at. */
    private const MOST = 100;

    /**
     * Within the transaction that brings it about.
     *
     * @param  iterable<User>  $people
     * @param  array<string, string>  $fields  by the names of NoticeKind::names
     * @param  string  $link  a path here
     * @param  array{string, string}|null  $file  name and contents of a file that goes with a mail at once
     */
    public static function tell(
        iterable $people,
        NoticeKind $kind,
        array $fields,
        string $link,
        ?Document $document = null,
        ?array $file = null,
    ): void {
        $says = self::says($kind, $fields);
        foreach ($people as $person) {
            $how = self::chosen($person);
            DB::table('notices')->insert([
                'user_id' => $person->id,
                'kind' => $kind->value,
                'says' => $says,
                'link' => $link,
                'document_id' => $document?->id,
                'at' => now(),
                'mailed_at' => $how === self::DAILY && $person->mail !== null ? null : now(),
            ]);
            if ($how === self::AT_ONCE && $person->mail !== null) {
                self::mail($person, $says, "{$says}\n\n".Address::of($link), $file);
            }
        }
    }

    /** How a person has notices mailed. */
    public static function chosen(User $person): string
    {
        $chosen = $person->preferences['notices_mailed'] ?? self::AT_ONCE;

        return in_array($chosen, [self::AT_ONCE, self::DAILY, self::NONE], true) ? $chosen : self::AT_ONCE;
    }

    /** Mails what is due once a day: one message a person. */
    public static function mailDaily(): int
    {
        $mailed = 0;
        foreach (User::query()->whereNull('out_of_use_at')->whereIn('id', DB::table('notices')->whereNull('mailed_at')->select('user_id'))->get() as $person) {
            DB::transaction(static function () use ($person, &$mailed): void {
                $rows = DB::table('notices')->where('user_id', $person->id)->whereNull('mailed_at')->orderBy('id')->get(['id', 'says', 'link']);
                if ($rows->isEmpty()) {
                    return;
                }
                $lines = $rows->map(static fn (\stdClass $row): string => "{$row->says}\n".Address::of((string) $row->link))->all();
                self::mail($person, 'Brenvic: '.count($lines).(count($lines) === 1 ? ' notice' : ' notices'), implode("\n\n", $lines));
                DB::table('notices')->whereIntegerInRaw('id', $rows->pluck('id')->all())->update(['mailed_at' => now()]);
                $mailed++;
            });
        }

        return $mailed;
    }

    /** @return list<array{id: int, kind: string, says: string, link: string, at: string, seen: bool}> the latest first */
    public static function of(User $person): array
    {
        return array_values(
            DB::table('notices')
                ->where('user_id', $person->id)
                ->orderByDesc('id')
                ->limit(self::MOST)
                ->get()
                ->map(static fn (\stdClass $row): array => [
                    'id' => (int) $row->id,
                    'kind' => (string) $row->kind,
                    'says' => (string) $row->says,
                    'link' => (string) $row->link,
                    'at' => Carbon::parse((string) $row->at)->toIso8601String(),
                    'seen' => $row->seen_at !== null,
                ])
                ->all(),
        );
    }

    public static function unseen(User $person): int
    {
        return DB::table('notices')->where('user_id', $person->id)->whereNull('seen_at')->count();
    }

    /** @param  int|null  $upTo  the latest that they have looked at; null for all */
    public static function seen(User $person, ?int $upTo): void
    {
        DB::table('notices')
            ->where('user_id', $person->id)
            ->whereNull('seen_at')
            ->when($upTo !== null, static fn ($q) => $q->where('id', '<=', $upTo))
            ->update(['seen_at' => now()]);
    }

    /** @return array<string, string> the office’s own words by kind, where it has some */
    public static function texts(): array
    {
        $texts = OfficeSetting::get(self::TEXTS);

        return is_array($texts) ? array_map(strval(...), $texts) : [];
    }

    /** @param  array<string, string>  $texts  by kind; an empty one is as it was */
    public static function setTexts(array $texts): void
    {
        $known = array_column(NoticeKind::cases(), 'value');
        OfficeSetting::put(
            self::TEXTS,
            array_filter(array_map(trim(...), array_intersect_key($texts, array_flip($known))), static fn (string $text): bool => $text !== ''),
        );
    }

    /** @param  array<string, string>  $fields */
    private static function says(NoticeKind $kind, array $fields): string
    {
        $words = self::texts()[$kind->value] ?? $kind->words();
        $names = array_map(static fn (string $name): string => "{{$name}}", NoticeKind::names());
        $given = array_map(static fn (string $name): string => $fields[$name] ?? '', NoticeKind::names());

        return trim((string) preg_replace('/[ \t]+/u', ' ', strtr($words, array_combine($names, $given))));
    }

    /** @param  array{string, string}|null  $file */
    private static function mail(User $person, string $subject, string $text, ?array $file = null): void
    {
        Outbox::put($person->id, (string) $person->mail, Outbox::line($subject), $text, file: $file);
    }
}
