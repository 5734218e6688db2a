<?php

declare(strict_types=1);

namespace App\Faults;

use App\Access\Rights;
use App\Capture\DrawOffice;
use App\Capture\ReadText;
use App\Loans\ReturnLoan;
use App\Models\Document;
use App\Models\User;
use App\Redaction\Redactions;
use App\Support\Refused;
use Brenvic\Core\Procedures\Record\Status;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use stdClass;

/** What was to be done with documents lately and failed, of those that a person sees; and how it is tried again. */
final readonly class FailedWork
{
    public const TEXT = 'text';

    public const PAGES = 'pages';

    public const REDACTED = 'redacted';

    public const LOAN = 'loan';

    public const CASE = 'case';

    /** What can be tried again from here. */
    public const AGAIN = [self::TEXT, self::PAGES, self::REDACTED, self::LOAN];

    /** How many are told of each, and how long ago, in days. */
    private const MOST = 50;

    private const DAYS = 60;

    public function __construct(private Rights $rights, private Redactions $redactions)
    {
    }

    /** @return list<array{what: string, says: string, at: string|null, document: array{ref: string, title: string}, again: bool}> the latest first */
    public function of(User $user): array
    {
        $sight = $this->rights->sight($user);
        $told = [];
        foreach ([self::TEXT, self::PAGES, self::REDACTED, self::LOAN, self::CASE] as $what) {
            $count = 0;
            foreach ($this->rows($what)->cursor() as $row) {
                if ($sight->has((int) $row->id) && $count++ < self::MOST) {
                    $told[] = self::shaped($what, $row);
                }
            }
        }
        usort($told, static fn (array $a, array $b): int => strcmp((string) $b['at'], (string) $a['at']));

        return $told;
    }

    /**
     * Has it done once more.
     *
     * @throws Refused when it has not failed, or does not need to be done any more
     */
    public function again(Document $document, string $what): void
    {
        $failed = $this->rows($what)->where('documents.id', $document->id)->first();
        if ($failed === null) {
            throw new Refused('It has been done meanwhile, or is being done.');
        }
        DB::transaction(function () use ($document, $what, $failed): void {
            match ($what) {
                self::TEXT => self::readAgain($document),
                self::PAGES => self::drawAgain($document),
                self::REDACTED => $this->redactions->again($document),
                default => ReturnLoan::dispatch((int) $failed->about)->afterCommit(),
            };
        });
    }

    private static function readAgain(Document $document): void
    {
        $document->update(['text_state' => Document::TEXT_PENDING, 'text_reason' => '']);
        ReadText::soon($document);
    }

    private static function drawAgain(Document $document): void
    {
        $document->update([
            'drawn_pages' => null,
            'text_reason' => trim((string) preg_replace('/Its pages could not be drawn[^.]*\./', '', $document->text_reason)),
        ]);
        DrawOffice::soon($document);
    }

    /** Documents with what failed of them: id, ref, title, says, at, about. */
    private function rows(string $what): Builder
    {
        $filed = DB::table('documents')->where('documents.state', Document::FILED)->whereNull('documents.deleted_at');
        $since = Carbon::now()->subDays(self::DAYS);

        return match ($what) {
            self::TEXT => $filed
                ->where('text_state', Document::TEXT_NONE)
                ->where('documents.updated_at', '>', $since)
                ->where(
                    static fn (Builder $of) => $of
                        ->where('text_reason', 'like', 'The text could not be read:%')
                        ->orWhere('text_reason', 'like', 'Reading the text took longer%'),
                )
                ->orderByDesc('documents.updated_at')
                ->selectRaw('documents.id, ref, title, text_reason AS says, documents.updated_at AS at, documents.id AS about'),
            self::PAGES => $filed
                ->where('drawn_pages', 0)
                ->where('documents.updated_at', '>', $since)
                ->where('text_reason', 'like', '%Its pages could not be drawn%')
                ->orderByDesc('documents.updated_at')
                ->selectRaw('documents.id, ref, title, text_reason AS says, documents.updated_at AS at, documents.id AS about'),
            self::REDACTED => $filed
                ->join('renditions', 'renditions.document_id', '=', 'documents.id')
                ->where('fault', '!=', '')
                ->orderByDesc('made_at')
                ->selectRaw('documents.id, ref, title, fault AS says, made_at AS at, renditions.id AS about'),
            self::LOAN => $filed
                ->join('loans', 'loans.document_id', '=', 'documents.id')
                ->whereNull('ended_at')
                ->where('says', '!=', '')
                ->orderByDesc('due_on')
                ->selectRaw('documents.id, ref, title, says, due_on AS at, loans.id AS about'),
            default => $filed
                ->join('cases', 'cases.document_id', '=', 'documents.id')
                ->where('status', Status::Stopped->value)
                ->orderByDesc('since')
                ->selectRaw('documents.id, ref, title, fault AS says, since AS at, cases.id AS about'),
        };
    }

    /** @return array{what: string, says: string, at: string|null, document: array{ref: string, title: string}, again: bool} */
    private static function shaped(string $what, stdClass $row): array
    {
        return [
            'what' => $what,
            'says' => (string) $row->says,
            'at' => $row->at === null ? null : Carbon::parse((string) $row->at)->toIso8601String(),
            'document' => ['ref' => (string) $row->ref, 'title' => (string) $row->title],
            'again' => in_array($what, self::AGAIN, true),
        ];
    }
}
