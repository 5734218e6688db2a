<?php

declare(strict_types=1);

namespace App\Reports;

use App\Models\KeptReport;
use App\Models\Right;
use App\Models\User;
use App\Notices\NoticeKind;
use App\Notices\Notices;
use Brenvic\Core\Reports\Span;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;

/** Reports that are sent every month, about the month before: to each person what that person may see. */
final readonly class KeptReports
{
    public function __construct(private Reports $reports)
    {
    }

    /** Has those made that are due and were not begun today. */
    public static function begin(): void
    {
        foreach (self::due()->get() as $kept) {
            SendReport::soon($kept);
        }
    }

    /** @return Builder<KeptReport> */
    private static function due(): Builder
    {
        return KeptReport::query()->where('sent_for', '<', self::lastMonth());
    }

    /** The month that reports are sent about now, as 2026-11. */
    public static function lastMonth(): string
    {
        return self::month(self::span());
    }

    public function send(KeptReport $kept): void
    {
        $span = self::span();
        $report = $this->reports->find($kept->report);
        $people = $report === null || $kept->user->out_of_use_at !== null ? [] : self::getting($kept)->all();
        $made = [];
        foreach ($people as $person) {
            $made[] = [$person, $this->made($report, $person, new Asked($span, $kept->library, $kept->type))];
        }
        DB::transaction(static function () use ($kept, $span, $report, $made): void {
            // Another may have sent it, or it may be sent no more.
            if (self::due()->whereKey($kept->id)->update(['sent_for' => self::month($span)]) === 0) {
                return;
            }
            foreach ($made as [$person, $ods]) {
                self::post($kept, $report->name(), $span, $person, $ods);
            }
        });
    }

    /** @return Collection<int, User> who may still oversee */
    private static function getting(KeptReport $kept): Collection
    {
        return User::query()
            ->whereIntegerInRaw('id', $kept->people)
            ->whereNull('out_of_use_at')
            ->get()
            ->filter(static fn (User $person): bool => $person->may(Right::Oversee));
    }

    private function made(Report $report, User $person, Asked $asked): string
    {
        $file = $this->reports->knows($person, $asked->library) ? $this->reports->ods($report->tables($person, $asked)) : null;
        $ods = $file === null ? '' : (string) file_get_contents($file);
        $file === null || File::delete($file);

        return $ods;
    }

    private static function post(KeptReport $kept, string $name, Span $span, User $person, string $ods): void
    {
        if ($ods === '') {
            return;
        }
        $month = $span->from->format('F Y');
        $only = array_filter(['library' => $kept->library, 'type' => $kept->type, 'from' => $span->first(), 'until' => $span->last()]);
        $link = "/oversight/reports/{$kept->report}?".http_build_query($only);
        $file = ["{$kept->report}-{$span->from->format('Y-m')}.ods", $ods];
        Notices::tell([$person], NoticeKind::Report, ['text' => "The report “{$name}, {$month}” is ready."], $link, file: $file);
    }

    private static function span(): Span
    {
        return Span::monthBefore(now()->toDateTimeImmutable());
    }

    private static function month(Span $span): string
    {
        return $span->from->format('Y-m');
    }
}
