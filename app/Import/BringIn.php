<?php

declare(strict_types=1);

namespace App\Import;

use App\Catalog\Catalog;
use App\Design\Proposals;
use App\History\DocumentActKind;
use App\History\DocumentActLog;
use App\Intake\DocumentActs;
use App\Intake\InvalidSheet;
use App\Models\Bringing;
use App\Models\BringingRow;
use App\Models\Document;
use App\Models\ImportFile;
use App\Models\Library;
use App\Models\Proposal;
use App\Models\User;
use App\Support\Refused;
use Brenvic\Core\Design\Proposal\Mapping;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;

/**
 * Brings in the files of a register or a folder tree from the browser, by the proposal that was accepted: first it is looked at what
 * would become of each file and each row, then the files come a few at a time, each wholly in or not at all, in any number of
 * sittings; what a later version of the register says otherwise is changed. All of it is undone as one act.
 */
final readonly class BringIn
{
    /** Files whose paths are taken at most. */
    private const MOST = 200_000;

    private const CHUNK = 200;

    /** Paths told at once of those that are still wanted. */
    private const WANTED = 500;

    private const EXAMPLES = 12;

    public function __construct(
        private Catalog $catalog,
        private Import $import,
        private RowReading $reading,
        private RowChanges $changes,
        private DocumentActs $acts,
    ) {
    }

    public static function of(User $user): ?Bringing
    {
        return Bringing::query()->where('user_id', $user->id)->latest('id')->first();
    }

    /**
     * Looks at what would become of each file and row; nothing comes in yet.
     *
     * @param  UploadedFile  $paths  a line for each file: its path within the folder
     *
     * @throws Refused when no proposal was accepted and published
     */
    public function begin(User $user, Library $library, UploadedFile $paths): Bringing
    {
        $proposal = Proposal::query()->where('user_id', $user->id)->latest('id')->first();
        $mapping = $proposal === null ? throw new Refused('There is no proposal.') : Proposals::mapping($user, $proposal->what);
        Proposals::guardPublished($mapping, $this->catalog);
        $this->forget($user);
        $bringing = Bringing::query()->create([
            'user_id' => $user->id,
            'library_id' => $library->id,
            'what' => $proposal->what,
            'file_name' => $proposal->file_name,
            'mapping' => serialize($mapping),
        ]);
        is_dir(self::folder()) || mkdir(self::folder(), 0775, true);
        $paths->move(self::folder(), "{$bringing->id}.paths");
        if ($proposal->what === Proposal::TABLE) {
            copy(Proposals::path($proposal->id), self::folder()."/{$bringing->id}.table");
        }
        WorkOnBringing::begin($bringing);

        return $bringing;
    }

    /** Done anew when it was stopped in the middle. */
    public function look(Bringing $bringing): void
    {
        $given = self::paths(self::folder()."/{$bringing->id}.paths");
        $mapping = unserialize($bringing->mapping);
        if (! $mapping instanceof Mapping) {
            throw new Refused('What was accepted cannot be read any more. Add the proposal to the draft again.');
        }
        // What came in by a register before need not be given again for its rows to be looked at.
        $files = $bringing->what === Proposal::TABLE ? $given + self::broughtBefore($bringing) : $given;
        $sheets = $bringing->what === Proposal::TABLE
            ? RegisterSheets::ofTable(self::folder()."/{$bringing->id}.table", $mapping, $files)
            : RegisterSheets::ofFolders($mapping, $files);
        $user = User::query()->findOrFail($bringing->user_id);
        BringingRow::query()->where('bringing_id', $bringing->id)->delete();
        foreach (array_chunk(array_keys($files), self::CHUNK) as $sources) {
            $this->lookAt($bringing, array_map(strval(...), $sources), $sheets, $user);
        }
        foreach (array_chunk(array_keys(array_diff_key($sheets, $files)), self::CHUNK) as $names) {
            BringingRow::query()->insert(array_map(static fn (int|string $name): array => [
                'bringing_id' => $bringing->id,
                'source' => mb_substr((string) $name, 0, 500),
                'outcome' => BringingRow::MISSING,
                'note' => '',
                'sheet' => null,
            ], $names));
        }
        $bringing->update(['state' => Bringing::READY]);
    }

    /**
     * @param  list<string>  $sources
     * @param  array<string, RowSheet>  $sheets
     */
    private function lookAt(Bringing $bringing, array $sources, array $sheets, User $user): void
    {
        $known = ImportFile::query()
            ->where('library_id', $bringing->library_id)
            ->whereIn('source', $sources)
            ->orderBy('id')
            ->get()
            ->keyBy('source');
        $rows = [];
        foreach ($sources as $source) {
            $sheet = $sheets[$source] ?? null;
            $note = '';
            try {
                $read = $sheet === null ? null : $this->reading->of($sheet, null, $user);
                $there = $known->get($source);
                $note = $read?->note() ?? ($there?->given === null ? '' : 'Its row is not in the table any more.');
                $outcome = match (true) {
                    $there !== null => $read !== null && RowChanges::isNew($there, $read) ? BringingRow::CHANGED : BringingRow::KNOWN,
                    $read === null => BringingRow::REST,
                    default => BringingRow::NEW,
                };
            } catch (InvalidSheet $fault) {
                $outcome = BringingRow::REFUSED;
                $note = $this->inWords($fault);
            }
            $rows[] = [
                'bringing_id' => $bringing->id,
                'source' => $source,
                'outcome' => $outcome,
                'note' => mb_substr($note, 0, 500),
                'sheet' => $sheet === null ? null : json_encode($sheet->kept(), JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR),
            ];
        }
        BringingRow::query()->insert($rows);
    }

    /** @return array<string, string> path => path */
    private static function broughtBefore(Bringing $bringing): array
    {
        $sources = ImportFile::query()->where('library_id', $bringing->library_id)->whereNotNull('given')->orderBy('id')->pluck('source');

        return $sources->mapWithKeys(static fn (string $source): array => [$source => $source])->all();
    }

    private function inWords(InvalidSheet $fault): string
    {
        $fields = $this->catalog->fields();

        return implode(' ', array_map(
            static fn (string $code, string $why): string => ($fields[$code]->label ?? 'Document type').": {$why}",
            array_keys($fault->faults),
            $fault->faults,
        ));
    }

    /**
     * Begins what was looked at, or goes on with it.
     *
     * @param  bool  $withRest  whether files without a row come in too, without index values
     */
    public function open(Bringing $bringing, bool $withRest): void
    {
        if ($bringing->state !== Bringing::READY && $bringing->state !== Bringing::OPEN) {
            throw new Refused('It is not looked at yet.');
        }
        $bringing->update(['state' => Bringing::OPEN, 'with_rest' => $withRest]);
        if (self::rows($bringing)->where('outcome', BringingRow::CHANGED)->exists()) {
            WorkOnBringing::begin($bringing);
        }
    }

    /** Changes what a later version of the register says otherwise, some documents a transaction. */
    public function change(Bringing $bringing): void
    {
        $user = User::query()->findOrFail($bringing->user_id);
        do {
            $isMore = DB::transaction(function () use ($bringing, $user): bool {
                $rows = self::rows($bringing)->where('outcome', BringingRow::CHANGED)->orderBy('id')->limit(self::CHUNK)->get();
                $files = ImportFile::query()
                    ->where('library_id', $bringing->library_id)
                    ->whereIn('source', $rows->pluck('source'))
                    ->orderBy('id')
                    ->get()
                    ->keyBy('source');
                foreach ($rows as $row) {
                    $this->changeOne($row, $files->get($row->source), $user);
                }

                return $rows->count() === self::CHUNK;
            });
        } while ($isMore);
        $bringing->touch();
    }

    private function changeOne(BringingRow $row, ?ImportFile $file, User $user): void
    {
        try {
            $read = $row->sheet === null ? null : $this->reading->of(RowSheet::ofKept($row->sheet), null, $user);
        } catch (InvalidSheet $fault) {
            $row->update(['outcome' => BringingRow::REFUSED, 'note' => mb_substr($this->inWords($fault), 0, 500)]);

            return;
        }
        $changed = $file === null || $read === null ? null : $this->changes->apply($file, $read, $user);
        $row->update([
            'outcome' => $changed?->isChanged === true ? BringingRow::ALTERED : BringingRow::KNOWN,
            'note' => mb_substr($changed->note ?? '', 0, 500),
            'document_id' => $file?->document_id,
            'before' => $changed?->before,
            'lock_version' => $changed?->lock,
        ]);
    }

    /** @return list<string> paths of files that are to come, the next of them */
    public function wanted(Bringing $bringing, string $after = ''): array
    {
        if ($bringing->state !== Bringing::OPEN) {
            return [];
        }
        $from = $after === '' ? 0 : (int) self::rows($bringing)->where('source', $after)->value('id');

        return array_values(array_map(
            strval(...),
            self::rows($bringing)
                ->whereIn('outcome', self::comes($bringing))
                ->where('id', '>', $from)
                ->orderBy('id')
                ->limit(self::WANTED)
                ->pluck('source')
                ->all(),
        ));
    }

    /**
     * Takes in files that are wanted; others are passed over.
     *
     * @param  array<string, string>  $files  path within the folder => where it lies
     */
    public function take(Bringing $bringing, array $files): void
    {
        if ($bringing->state !== Bringing::OPEN) {
            throw new Refused('It was not begun, or is finished.');
        }
        $rows = self::rows($bringing)
            ->whereIn('source', array_map(strval(...), array_keys($files)))
            ->whereIn('outcome', self::comes($bringing))
            ->get()
            ->keyBy('source');
        $sheets = [];
        foreach ($rows as $row) {
            if ($row->sheet !== null) {
                $sheets[$row->source] = RowSheet::ofKept($row->sheet);
            }
        }
        $library = Library::query()->findOrFail($bringing->library_id);
        $by = User::query()->findOrFail($bringing->user_id);
        $results = [];
        $this->import->run(
            array_intersect_key($files, $rows->all()),
            new ImportInto($library, null, $by),
            $sheets,
            static function (ImportResult $result) use (&$results): void {
                $results[] = $result;
            },
        );
        // Noted together: on a disk that is slow to be sure, each statement of its own would wait for it.
        DB::transaction(static function () use ($results, $rows, $bringing): void {
            foreach ($results as $result) {
                $rows->get($result->name)?->update(self::noted($bringing, $result));
            }
        });
    }

    /** @return array<string, mixed> what became of a file, for its row */
    private static function noted(Bringing $bringing, ImportResult $result): array
    {
        $isOurs = $result->outcome === 'known' && self::isOurs($bringing, $result->document);

        return [
            'outcome' => match (true) {
                $result->outcome === 'refused' => BringingRow::REFUSED,
                $result->outcome === 'known' && ! $isOurs => BringingRow::KNOWN,
                $result->outcome === 'changed' => BringingRow::ALTERED,
                default => BringingRow::IN,
            },
            'note' => $isOurs ? '' : mb_substr($result->note, 0, 500),
            'document_id' => $result->document,
            'lock_version' => $result->lock,
            'before' => $result->before,
        ];
    }

    /** Whether a file that is in already came in by this, in a request that was cut off before it was noted. */
    private static function isOurs(Bringing $bringing, ?int $document): bool
    {
        return Document::query()
            ->whereKey($document)
            ->where('created_by', $bringing->user_id)
            ->where('created_at', '>=', $bringing->created_at)
            ->exists();
    }

    /** Keeps what was done as an act that can be undone; what comes in later is added to it. */
    public function finish(User $user, Bringing $bringing): void
    {
        DB::transaction(function () use ($user, $bringing): void {
            $rows = self::rows($bringing)
                ->whereIn('outcome', [BringingRow::IN, BringingRow::ALTERED])
                ->whereNotNull('document_id')
                ->orderBy('id');
            $items = [];
            foreach ($rows->get(['document_id', 'lock_version', 'before']) as $row) {
                $items[] = ['id' => (int) $row->document_id, 'lock' => (int) $row->lock_version, 'before' => $row->before];
            }
            $isMore = $this->wanted($bringing) !== [];
            if ($items !== []) {
                DB::table('document_acts')->where('id', $bringing->act_id)->where('is_undone', false)->delete();
                $bringing->act_id = DocumentActLog::keep($user, DocumentActKind::Bring, "Brought in by {$bringing->file_name}", $items);
            }
            $bringing->fill(['state' => $isMore ? Bringing::OPEN : Bringing::DONE])->save();
        });
    }

    /**
     * Takes back what came in and what was changed by it.
     *
     * @return array{undone: int, left: int}
     *
     * @throws Refused
     */
    public function undo(User $user, Bringing $bringing): array
    {
        $this->finish($user, $bringing);
        $done = $this->acts->undo($user, (int) $bringing->act_id);
        $this->drop($bringing);

        return $done;
    }

    public function forget(User $user): void
    {
        Bringing::query()->where('user_id', $user->id)->get()->each(function (Bringing $bringing) use ($user): void {
            if ($bringing->state === Bringing::OPEN) {
                // What is in so far can still be undone, under Last acts.
                $this->finish($user, $bringing);
            }
            $this->drop($bringing);
        });
    }

    private function drop(Bringing $bringing): void
    {
        array_map(unlink(...), array_filter(
            [self::folder()."/{$bringing->id}.paths", self::folder()."/{$bringing->id}.table"],
            is_file(...),
        ));
        $bringing->delete();
    }

    /**
     * @return list<array{outcome: string, count: int, noted: int, examples: list<array{source: string, note: string}>}>
     */
    public static function counts(Bringing $bringing): array
    {
        $counts = [];
        foreach (
            DB::table('bringing_rows')
                ->where('bringing_id', $bringing->id)
                ->selectRaw("outcome, COUNT(*) AS n, SUM(CASE WHEN note <> '' THEN 1 ELSE 0 END) AS noted")
                ->groupBy('outcome')
                ->orderBy('outcome')
                ->get() as $row
        ) {
            $examples = self::rows($bringing)
                ->where('outcome', $row->outcome)
                ->orderByRaw("note = ''")
                ->orderBy('id')
                ->limit(self::EXAMPLES)
                ->get(['source', 'note']);
            $counts[] = [
                'outcome' => (string) $row->outcome,
                'count' => (int) $row->n,
                'noted' => (int) $row->noted,
                'examples' => array_values(
                    $examples->map(static fn (BringingRow $r): array => ['source' => $r->source, 'note' => $r->note])->all(),
                ),
            ];
        }

        return $counts;
    }

    /** @return list<string> the outcomes of files that come in */
    private static function comes(Bringing $bringing): array
    {
        return $bringing->with_rest ? [BringingRow::NEW, BringingRow::REST] : [BringingRow::NEW];
    }

    /** @return Builder<BringingRow> */
    private static function rows(Bringing $bringing): Builder
    {
        return BringingRow::query()->where('bringing_id', $bringing->id);
    }

    /**
     * @return array<string, string> path => path
     *
     * @throws Refused
     */
    private static function paths(string $list): array
    {
        $paths = [];
        $stream = fopen($list, 'rb') ?: throw new Refused('The list of files cannot be opened.');
        while (($line = fgets($stream)) !== false) {
            $path = mb_scrub(rtrim($line, "\r\n"));
            if ($path !== '') {
                $paths[$path] = $path;
            }
            if (count($paths) > self::MOST) {
                $most = number_format(self::MOST, 0, '.', ' ');
                throw new Refused("These are more than {$most} files. Bring in a folder of them at a time.");
            }
        }
        fclose($stream);

        return $paths;
    }

    private static function folder(): string
    {
        return config('brenvic.data').'/bringings';
    }
}
