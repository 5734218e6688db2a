<?php

declare(strict_types=1);

namespace Demo;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Find\AskedSearches;
use App\Find\Finder;
use App\Find\FindRequest;
use App\History\Act;
use App\History\History;
use App\Models\Document;
use App\Models\User;
use Brenvic\Core\Search\Asking\Criteria;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/** Six weeks in which people looked for documents, read them and took them away; and what the disk had meanwhile. */
final class Usage
{
    private const DAYS = 42;

    /** Who searches, and how many times a day at most. */
    private const PEOPLE = ['reader' => 6, 'works' => 4, 'engineer' => 4, 'harbour' => 5, 'clerk' => 2, 'librarian' => 2];

    /** What is searched for; what follows it was tried when nothing was found. */
    private const SEARCHES = [
        ['dredging survey'], ['lock gate'], ['stoppage notice 2024'], ['mooring permit'], ['pilotage'], ['weed and silt'], ['tender'],
        ['towpath'], ['sluice'], ['wall inspection'], ['site diary'], ['byelaw'], ['photograph lock'], ['depth of the basin'],
        ['tow path subsidense', 'towpath'], ['stopage Tarn Sea', 'stoppage Tarn Sea'], ['asbestos register'], ['slipway winch certificate', 'winch'],
        ['heron nesting'], ['contractors insurence', 'insurance'], ['drone survey lower basin', 'survey lower basin'],
    ];

    private const GIGABYTE = 1_000_000_000;

    /** @return int how many searches there are */
    public static function make(): int
    {
        $chance = new Chance(42);
        $now = Carbon::now();
        try {
            for ($age = self::DAYS; $age > 0; $age--) {
                $day = $now->copy()->subDays($age);
                DB::table('disk_days')->insert([
                    'day' => $day->toDateString(),
                    'used' => intdiv(61 * self::GIGABYTE + (self::DAYS - $age) * 90_000_000 + $chance->int(0, 60_000_000), 100_000_000) * 100_000_000,
                    'all' => 240 * self::GIGABYTE,
                ]);
                if ($day->isWeekday()) {
                    self::day($day, $chance);
                }
            }
        } finally {
            Carbon::setTestNow();
        }

        return DB::table('asked_searches')->count();
    }

    private static function day(Carbon $day, Chance $chance): void
    {
        foreach (self::PEOPLE as $signIn => $most) {
            $person = User::query()->where('sign_in', $signIn)->firstOrFail();
            for ($i = $chance->int(0, $most); $i > 0; $i--) {
                // Most come in the morning, and after lunch.
                Carbon::setTestNow($day->copy()->setTime($chance->oneIn(3) ? $chance->int(13, 16) : $chance->int(8, 11), $chance->int(0, 50)));
                foreach ($chance->pick(self::SEARCHES) as $words) {
                    $found = self::search($person, $words, $chance);
                    if ($found !== []) {
                        self::read($person, $chance->pick($found), $chance);
                        break;
                    }
                    Carbon::setTestNow(Carbon::now()->addMinutes(1));
                }
            }
        }
    }

    /** @return list<int> the first of what it finds */
    private static function search(User $person, string $words, Chance $chance): array
    {
        $criteria = Criteria::of($words, [], app(Catalog::class)->schema($person));
        $found = app(Finder::class)->find($person, new FindRequest($criteria, limit: 8, allFacets: false))->found;
        AskedSearches::note($person, $criteria, [], false, $found->answer->total, $chance->oneIn(40) ? $chance->int(500, 900) : $chance->int(20, 140));

        return $found->answer->documents;
    }

    private static function read(User $person, int $id, Chance $chance): void
    {
        $document = Document::query()->find($id);
        if ($document === null || ! app(Rights::class)->sees($person, $document)) {
            return;
        }
        History::viewed($person, $document);
        if ($chance->oneIn(9)) {
            History::record(Act::Delivered, $person, $document, ['format' => 'download']);
        }
    }
}
