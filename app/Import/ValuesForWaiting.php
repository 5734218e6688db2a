<?php

declare(strict_types=1);

namespace App\Import;

use App\Access\WaitingSight;
use App\Catalog\Catalog;
use App\Catalog\OwnValues;
use App\Intake\Filing;
use App\Models\Document;
use App\Models\User;
use App\Support\Refused;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Support\Facades\DB;
use Normalizer;

/** Puts what a table says of files onto the sheets of the waiting documents that they have become. */
final readonly class ValuesForWaiting
{
    /** Rows that are taken at once; a register of more is brought in by a proposal. */
    private const MOST = 2_000;

    public const FILLED = 'filled';

    public const PARTLY = 'partly';

    public const REFUSED = 'refused';

    public const NO_FILE = 'no_file';

    public const SEVERAL = 'several';

    public function __construct(private Catalog $catalog, private Filing $filing)
    {
    }

    /**
     * @param  string  $path  where the table lies
     * @param  list<string>  $only  references of the documents that it is for; none when it is for all that wait
     * @return array{rows: list<array{file: string, outcome: string, note: string, ref: string|null}>, without: int} what became of each
     *     row, and how many waiting documents no row named
     *
     * @throws Refused when it is no such table
     */
    public function put(User $user, string $path, array $only = []): array
    {
        $sheets = ValuesTable::read($path, $this->catalog->fieldsShownTo($user));
        if (count($sheets) > self::MOST) {
            throw new Refused(
                'The table has more than '.number_format(self::MOST, 0, '.', "\u{202F}").' rows. Give it in parts, or bring it in under Propose a design.',
            );
        }

        return DB::transaction(function () use ($user, $sheets, $only): array {
            $waiting = $this->waiting($user, $only);
            $byEnd = self::byEnd($waiting);
            $present = OwnValues::of(array_keys($waiting));
            $named = $rows = [];
            foreach ($sheets as $file => $sheet) {
                $key = self::key((string) $file);
                $found = $byEnd["/{$key}"] ?? $byEnd[$key] ?? [];
                if (count($found) !== 1) {
                    $rows[] = [
                        'file' => (string) $file,
                        'outcome' => $found === [] ? self::NO_FILE : self::SEVERAL,
                        'note' => $found === [] ? '' : 'Several waiting files are called so. Name their folders too.',
                        'ref' => null,
                    ];

                    continue;
                }
                $document = $waiting[$found[0]];
                $named[$document->id] = true;
                [$outcome, $note] = $this->fill($document, $sheet, $present[$document->id] ?? [], $user);
                $rows[] = ['file' => (string) $file, 'outcome' => $outcome, 'note' => $note, 'ref' => $document->ref];
            }

            return ['rows' => $rows, 'without' => count($waiting) - count($named)];
        });
    }

    /**
     * @param  array<string, list<string>>  $present  normal forms that its sheet has
     * @return array{string, string} what became of it, and why not more
     */
    private function fill(Document $document, RowSheet $row, array $present, User $user): array
    {
        $type = $row->type === '' ? $document->type : $this->catalog->typeNamed($user, $row->type);
        if ($type === null && $row->type !== '') {
            return [self::REFUSED, "There is no document type “{$row->type}”."];
        }
        $labels = $this->catalog->fieldsShownTo($user);
        $sheet = array_column($this->catalog->sheet($type)->fields, null, 'code');
        $faults = array_map(static fn (): string => 'its type has no such field', array_diff_key($row->values, $sheet));
        $faults += $this->filing->keepSheet($document, $type, [...$present, ...array_intersect_key($row->values, $sheet)], $user);
        $faults = array_intersect_key($faults, $row->values);
        $why = implode(', ', array_map(
            static fn (string $code, string $fault): string => ($labels[$code]->label ?? $code).' ('.rtrim($fault, '.').')',
            array_keys($faults),
            $faults,
        ));

        return $faults === [] ? [self::FILLED, ''] : [self::PARTLY, "Without {$why}."];
    }

    /**
     * @param  list<string>  $only
     * @return array<int, Document> by id, what waits for this person to file
     */
    private function waiting(User $user, array $only): array
    {
        return WaitingSight::of($user)
            ->where('state', Document::WAITING)
            ->whereNull('parent_id')
            ->whereIntegerInRaw('library_id', array_keys(array_filter($user->libraryRights())))
            ->when($only !== [], static fn (Builder $all) => $all->whereIn('ref', $only))
            ->with('type')
            ->get()
            ->keyBy('id')
            ->all();
    }

    /**
     * @param  array<int, Document>  $waiting
     * @return array<string, list<int>> ids by what a path may end with; by the whole of it with `/` before
     */
    private static function byEnd(array $waiting): array
    {
        $ends = [];
        foreach ($waiting as $id => $document) {
            $path = self::key($document->path === '' ? $document->file_name : $document->path);
            $ends["/{$path}"][] = $id;
            $parts = explode('/', $path);
            while ($parts !== []) {
                $ends[implode('/', $parts)][] = $id;
                array_shift($parts);
            }
        }

        return $ends;
    }

    /** A path as it is compared: letters in one form, folders by `/`. */
    private static function key(string $path): string
    {
        $path = Normalizer::normalize(trim(str_replace('\\', '/', mb_scrub($path))), Normalizer::FORM_C);

        return trim((string) preg_replace('#^\./#', '', (string) $path), '/');
    }
}
