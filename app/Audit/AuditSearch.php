<?php

declare(strict_types=1);

namespace App\Audit;

use App\Access\Rights;
use App\Access\Withheld;
use App\Catalog\Catalog;
use App\History\Act;
use App\History\History;
use App\Models\Document;
use App\Models\User;
use App\Support\Column;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use stdClass;

/** Looks through the history: the latest first, of documents that a person may see. Looking is itself recorded. */
final readonly class AuditSearch
{
    private const PAGE = 60;

    /** Entries that are looked at for one page at most; then the next page goes on. */
    private const LOOKED = 50_000;

    /** What is told of an entry beside the values that it changed. */
    private const TOLD = [
        'reason', 'note', 'name', 'person', 'role', 'group', 'groups', 'rights', 'hold', 'list', 'disposal', 'decision', 'until', 'day', 'version',
        'places', 'borrower', 'outside', 'token', 'documents', 'receipt', 'title', 'what', 'record', 'months',
    ];

    public function __construct(private Rights $rights, private Catalog $catalog)
    {
    }

    /**
     * @param  int|null  $before  the entry before which it goes on; null for the latest
     * @return array{entries: list<array<string, mixed>>, next: int|null}
     */
    public function page(User $user, AuditFilter $filter, ?int $before): array
    {
        if ($before === null) {
            History::record(Act::HistorySearched, $user, null, ['criteria' => $filter->asked()]);
        }
        $rows = [];
        $looked = 0;
        $next = null;
        do {
            $chunk = $this->matching($filter)
                ->when($before !== null, static fn (Builder $q) => self::goOn($q, (int) $before))
                ->orderByDesc('at')
                ->orderByDesc('id')
                ->limit(self::PAGE * 4)
                ->get(['id', 'at', 'user_id', 'act', 'document_id', 'library_id', 'detail', 'hash']);
            $seen = $this->seen($user, $chunk->all());
            foreach ($chunk as $row) {
                $isSeen = isset($seen[(int) $row->id]);
                if ($isSeen && count($rows) === self::PAGE) {
                    // There is more only if there is more that the person may see.
                    $next = $before;
                    break 2;
                }
                $before = (int) $row->id;
                $isSeen && ($rows[] = $row);
            }
            $looked += $chunk->count();
            $next = $chunk->count() < self::PAGE * 4 ? null : $before;
        } while ($next !== null && $looked < self::LOOKED);

        return ['entries' => $this->told($user, $rows), 'next' => $next];
    }

    /**
     * Which entries a person may see: those of no document, of documents in their sight, and of what is gone from libraries that
     * they may enter, if no access rule kept it from them.
     *
     * @param  array<stdClass>  $rows  with id, document_id and library_id
     * @return array<int, true> by entry
     */
    public function seen(User $user, array $rows): array
    {
        $sight = $this->rights->sight($user);
        $hidden = [];
        foreach ($rows as $row) {
            if ($row->document_id !== null && ! $sight->has((int) $row->document_id)) {
                $hidden[] = (int) $row->document_id;
            }
        }
        $there = array_flip(
            Column::numbers(
                DB::table('documents')
                    ->whereIntegerInRaw('id', array_unique($hidden))
                    ->where('state', Document::FILED)
                    ->whereNull('deleted_at')
                    ->pluck('id'),
            ),
        );
        $libraries = $user->libraryRights();
        $hidden = array_flip($hidden);
        $withheld = Withheld::from($user, $this->rights)->among(array_keys(array_diff_key($hidden, $there)));
        $seen = [];
        foreach ($rows as $row) {
            $document = (int) $row->document_id;
            $isGone = ! isset($there[$document]) && ! isset($withheld[$document]) && isset($libraries[(int) $row->library_id]);
            if ($row->document_id === null || ! isset($hidden[$document]) || $isGone) {
                $seen[(int) $row->id] = true;
            }
        }

        return $seen;
    }

    /** Behind an entry, in the order of time. */
    private static function goOn(Builder $query, int $before): void
    {
        $query->whereRaw('(at, id) < (?, ?)', [(string) (DB::table('history')->where('id', $before)->value('at') ?? '9'), $before]);
    }

    private function matching(AuditFilter $filter): Builder
    {
        $query = DB::table('history');
        if ($filter->person !== null && $filter->person !== '') {
            $query->where('user_id', (int) User::query()->where('sign_in', $filter->person)->value('id'));
        }
        if ($filter->act !== null && $filter->act !== '') {
            $query->where('act', $filter->act);
        }
        if ($filter->document !== null && $filter->document !== '') {
            // A reference says the number, also of what is there no more.
            $query->where('document_id', preg_match('/^D-0*(\d+)-/i', trim($filter->document), $m) === 1 ? (int) $m[1] : 0);
        }
        if ($filter->library !== null && $filter->library !== '') {
            $query->where('library_id', $this->catalog->libraries()->firstWhere('code', $filter->library)->id ?? 0);
        }
        if ($filter->from !== null) {
            $query->where('at', '>=', $filter->from);
        }
        if ($filter->until !== null) {
            $query->where('at', '<', "{$filter->until}T24");
        }

        return $query;
    }

    /**
     * @param  list<stdClass>  $rows
     * @return list<array<string, mixed>>
     */
    private function told(User $user, array $rows): array
    {
        $people = User::query()->whereIntegerInRaw('id', array_unique(array_map(intval(...), array_column($rows, 'user_id'))))->get()->keyBy('id');
        $ids = array_unique(array_map(intval(...), array_column($rows, 'document_id')));
        $titles = DB::table('documents')->whereIntegerInRaw('id', $ids)->whereNull('deleted_at')->pluck('title', 'id')->all();
        $fields = $this->catalog->fieldsChangedFor($user);

        return array_map(fn (stdClass $row): array => [
            'id' => (int) $row->id,
            'at' => (string) $row->at,
            'by' => $row->user_id === null ? null : ($people->get((int) $row->user_id)->name ?? 'Somebody'),
            'act' => (string) $row->act,
            'says' => Act::from((string) $row->act)->words(),
            'document' => $row->document_id === null
                ? null
                : ['ref' => Document::refOf((int) $row->document_id), 'title' => $titles[(int) $row->document_id] ?? null],
            'library' => $this->catalog->libraries()->get((int) $row->library_id)?->name,
            'detail' => self::words((array) json_decode((string) $row->detail, true), $fields),
            'hash' => (string) $row->hash,
        ], $rows);
    }

    /**
     * @param  array<array-key, mixed>  $detail
     * @param  array<string, FieldDefinition>  $fields  that the person may know of
     */
    private static function words(array $detail, array $fields): string
    {
        $told = [];
        foreach ($detail as $code => $value) {
            $field = $fields[$code] ?? null;
            if ($field !== null && is_array($value) && is_array($value['before'] ?? null)) {
                $told[] = "{$field->label}: ".(Cover::text($field, $value['before']) ?: '–').' → '.(Cover::text($field, (array) ($value['after'] ?? [])) ?: '–');
            } elseif ($code === 'criteria' && is_array($value)) {
                $told[] = implode(', ', array_map(static fn (mixed $name, mixed $of): string => "{$name} {$of}", array_keys($value), $value));
            } elseif (in_array($code, self::TOLD, true) && ! is_array($value) && $value !== null && $value !== '') {
                $told[] = "{$code}: ".(is_bool($value) ? ($value ? 'yes' : 'no') : $value);
            } elseif (in_array($code, self::TOLD, true) && is_array($value) && array_is_list($value)) {
                $told[] = "{$code}: ".implode(', ', array_filter($value, is_scalar(...)));
            }
        }

        return implode('; ', array_filter($told));
    }
}
