<?php

declare(strict_types=1);

namespace App\Sorting;

use App\Jobs\BackgroundJob;
use Carbon\CarbonInterface;
use Illuminate\Support\Facades\DB;

/** Looks at the pages of a file that somebody wants to put in order. */
final class LookAtPages extends BackgroundJob
{
    public function __construct(public readonly int $look)
    {
    }

    public function handle(PageSigns $signs): void
    {
        $look = DB::table('page_looks')->where('id', $this->look)->first();
        if ($look !== null) {
            $signs->look((string) $look->sha256, (int) $look->pages);
            DB::table('page_looks')->where('id', $this->look)->delete();
        }
    }

    public static function unfinished(CarbonInterface $before): array
    {
        return self::ids(DB::table('page_looks')->where('says', '')->where('asked_at', '<', $before));
    }

    public function about(): int
    {
        return $this->look;
    }

    protected function givenUp(string $reason): void
    {
        DB::table('page_looks')
            ->where('id', $this->look)
            ->update(['says' => "Blank pages and separator sheets could not be looked for: {$reason}."]);
    }
}
