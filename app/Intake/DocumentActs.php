<?php

declare(strict_types=1);

namespace App\Intake;

use App\Access\Change;
use App\Access\Changing;
use App\Access\Rights;
use App\Catalog\Catalog;
use App\Catalog\OwnValues;
use App\Copies\TextPrints;
use App\History\Act;
use App\History\DocumentActKind;
use App\History\DocumentActLog;
use App\History\History;
use App\Index\Indexer;
use App\Models\Document;
use App\Models\DocumentType;
use App\Models\ImportFile;
use App\Models\Library;
use App\Models\User;
use App\Reading\ProposalRecord;
use App\Redaction\Redactions;
use App\Support\Refused;
use App\Tables\ReferenceTables;
use Brenvic\Core\Design\LibraryPart;
use Brenvic\Core\Fields\FieldDefinition;
use Illuminate\Support\Facades\DB;

/**
 * Whole documents done to together: copied or moved to another library, or given the sheets that were typed or pasted into
 * a table. Each act is planned and shown first, done in one transaction and taken back as a whole.
 */
final readonly class DocumentActs
{
    /** Documents an act takes at most. */
    public const MOST = 500;

    public function __construct(
        private Catalog $catalog,
        private Filing $filing,
        private Indexer $indexer,
        private Rights $rights,
        private Changing $changing,
        private References $references,
        private Redactions $redactions,
        private ReferenceTables $tables,
    ) {
    }

    /**
     * What copying or moving would do to each document.
     *
     * @param  list<int>  $ids  those the person may see
     * @return array{go: array<int, array{type: DocumentType|null, values: array<string, list<string>>, lost: list<string>, title: string}>, refused: array<string, list<int>>}
     */
    public function planTransfer(User $user, array $ids, Transfer $transfer): array
    {
        [$to, $type, $copies] = [$transfer->to, $transfer->type, $transfer->copies];
        self::few($ids);
        $takes = $this->catalog->design()->one(LibraryPart::class, $to->code)->types ?? [];
        $hindrances = $copies ? [] : $this->changing->hindrances($user, $ids, Change::Place);
        $bound = array_flip($this->redactions->bound($user));
        $present = OwnValues::of($ids);
        $handedDown = Filing::handedDownTo($ids);
        $go = $refused = [];
        foreach (Document::query()->whereIntegerInRaw('id', $ids)->orderBy('id')->get() as $document) {
            $own = $type ?? $this->catalog->types()->get((int) $document->document_type_id);
            ['values' => $values, 'lost' => $lost] = $this->mapped($own, $present[$document->id] ?? [], $transfer->mapping);
            $why = match (true) {
                isset($hindrances[$document->id]) => $hindrances[$document->id]->words,
                ! $copies && $document->library_id === $to->id && ($type === null || $type->id === $document->document_type_id) => 'It is there already.',
                $copies && isset($bound[$document->id]) => 'You may see only its redacted copy.',
                $document->parent_id !== null && ! $copies => 'It moves with the mail it is attached to.',
                $own !== null && ! in_array($own->code, $takes, true) => "{$to->name} does not take documents of the type “{$own->name}”.",
                default => $this->fault($own, $values, $values),
            };
            if ($why !== null) {
                $refused[$why][] = $document->id;
            } else {
                $go[$document->id] = [
                    'type' => $own,
                    'values' => $values,
                    'lost' => $lost,
                    'title' => $this->filing->titleOf($document, $own, $values + ($handedDown[$document->id] ?? [])),
                ];
            }
        }

        return ['go' => $go, 'refused' => $refused];
    }

    /**
     * Does what was planned.
     *
     * @param  array<int, array{type: DocumentType|null, values: array<string, list<string>>, lost: list<string>, title: string}>  $go
     * @return int the act
     */
    public function transfer(User $user, array $go, Library $to, bool $copies): int
    {
        return DB::transaction(function () use ($user, $go, $to, $copies): int {
            $items = [];
            $changed = [];
            foreach (Document::query()->findMany(array_keys($go)) as $document) {
                $before = $this->state($document);
                $target = $copies ? $this->copied($document, $to, $user) : $document;
                $this->filing->put($target, $go[$document->id]['type'], $go[$document->id]['values'], [
                    'library_id' => $to->id,
                    'lock_version' => $target->lock_version + 1,
                ]);
                $below = $copies ? [] : $this->filing->below($document->id);
                foreach ($below as $attachment) {
                    $attachment->update(['library_id' => $to->id]);
                }
                array_push($changed, $target->id, ...array_map(static fn (Document $d): int => $d->id, $below));
                if ($copies) {
                    array_push($changed, ...$this->copyBelow($document, $target, $to, $user));
                }
                $items[] = ['id' => $target->id, 'lock' => $target->lock_version, 'before' => $copies ? null : $before];
                History::record(
                    $copies ? Act::Copied : Act::Moved,
                    $user,
                    $target,
                    $copies ? ['of' => $document->ref, 'to' => $to->code] : ['from' => $before['library'], 'to' => $to->code],
                );
            }
            $this->seal($user, $changed);

            $kind = $copies ? DocumentActKind::Copy : DocumentActKind::Move;

            return DocumentActLog::keep($user, $kind, ($copies ? 'Copied to ' : 'Moved to ').$to->name, $items);
        });
    }

    /**
     * What sheets typed or pasted into a table would do.
     *
     * @param  array<int, array<string, list<string>>>  $sheets  texts as typed, by document and field code; fields that are not named stay
     * @param  array<int, int>  $locks  the lock versions they were typed on
     * @return array{go: array<int, array{before: array<string, list<string>>, after: array<string, list<string>>}>, same: int, faults: array<int, array<string, string>>}
     */
    public function planSheets(User $user, array $sheets, array $locks): array
    {
        self::few(array_keys($sheets));
        $hindrances = $this->changing->hindrances($user, array_keys($sheets), Change::Values);
        $present = OwnValues::of(array_keys($sheets));
        $go = $faults = [];
        $same = 0;
        foreach (Document::query()->findMany(array_keys($sheets)) as $document) {
            $before = $present[$document->id] ?? [];
            $why = match (true) {
                isset($hindrances[$document->id]) => $hindrances[$document->id]->words,
                ($locks[$document->id] ?? 0) !== $document->lock_version => 'Somebody else changed it in the meantime. Load the table again.',
                default => null,
            };
            $sheet = $this->catalog->sheet($this->catalog->types()->get((int) $document->document_type_id));
            $codes = array_column($sheet->fields, 'code');
            foreach (array_keys($sheets[$document->id]) as $code) {
                if (
                    $why === null &&
                    ! in_array($code, $codes, true) &&
                    array_filter($sheets[$document->id][$code], static fn (string $t): bool => trim($t) !== '') !== []
                ) {
                    $faults[$document->id][$code] = 'Its document type has no such field.';
                }
            }
            if ($why !== null) {
                $faults[$document->id][''] = $why;

                continue;
            }
            $read = $sheet->read([...$before, ...array_intersect_key($sheets[$document->id], array_flip($codes))], $before);
            $wrong = array_intersect_key(
                [...$this->references->faults($sheet, $read['values'], $user, $before), ...$read['faults']],
                $sheets[$document->id],
            );
            if ($wrong !== []) {
                $faults[$document->id] = [...$faults[$document->id] ?? [], ...$wrong];
            } elseif (! isset($faults[$document->id])) {
                $after = $this->tables->followed(
                    $before,
                    $read['values'],
                    array_column($sheet->fields, null, 'code'),
                    array_keys($sheets[$document->id]),
                );
                $after = array_filter($after, static fn (array $v): bool => $v !== []);
                if ($after == $before) {
                    $same++;
                } else {
                    $go[$document->id] = ['before' => $before, 'after' => $after];
                }
            }
        }

        return ['go' => $go, 'same' => $same, 'faults' => $faults];
    }

    /**
     * @param  array<int, array{before: array<string, list<string>>, after: array<string, list<string>>}>  $go
     * @return int the act
     */
    public function giveSheets(User $user, array $go): int
    {
        return DB::transaction(function () use ($user, $go): int {
            $items = [];
            foreach (Document::query()->findMany(array_keys($go)) as $document) {
                $before = $this->state($document);
                $this->filing->put(
                    $document,
                    $this->catalog->types()->get((int) $document->document_type_id),
                    $go[$document->id]['after'],
                    ['lock_version' => $document->lock_version + 1],
                );
                $items[] = ['id' => $document->id, 'lock' => $document->lock_version, 'before' => $before];
                History::record(
                    Act::Changed,
                    $user,
                    $document,
                    self::difference($go[$document->id]['before'], $go[$document->id]['after']),
                );
            }
            $this->seal($user, array_keys($go));

            return DocumentActLog::keep($user, DocumentActKind::Sheets, 'Values typed into a table', $items);
        });
    }

    /**
     * Takes an act back; documents that somebody changed since are left as they are.
     *
     * @return array{undone: int, left: int}
     */
    public function undo(User $user, int $act): array
    {
        return DB::transaction(function () use ($user, $act): array {
            $row = DB::table('document_acts')->where('id', $act)->where('user_id', $user->id)->first() ?? abort(404);
            if (
                DB::table('document_acts')
                    ->where('id', $act)
                    ->where('is_undone', false)
                    ->update(['is_undone' => true]) === 0
            ) {
                throw new Refused('It has already been undone.');
            }
            $items = array_column(json_decode((string) $row->items, true), null, 'id');
            $kind = DocumentActKind::from((string) $row->kind);
            $change = $kind->isOfValues() ? Change::Values : Change::Place;
            $hindrances = $this->changing->hindrances($user, array_keys($items), $change);
            $undone = $left = [];
            foreach ($items as $item) {
                $document = Document::query()->find((int) $item['id']);
                $why = match (true) {
                    $document === null => 'It was removed in the meantime.',
                    isset($hindrances[$document->id]) => $hindrances[$document->id]->words,
                    $document->lock_version !== $item['lock'] => 'It was changed in the meantime.',
                    default => null,
                };
                if ($document === null || $why !== null) {
                    $left[$item['id']] = $why;

                    continue;
                }
                $below = $this->filing->below($document->id);
                if ($kind === DocumentActKind::File) {
                    $this->backToIntake($user, $document, $below);
                } elseif ($item['before'] === null) {
                    foreach ([...$below, $document] as $copy) {
                        $copy->delete();
                        History::record(Act::Removed, $user, $copy, ['reason' => $kind->undone()]);
                    }
                } else {
                    $library = Library::query()->where('code', $item['before']['library'])->value('id');
                    $this->filing->put(
                        $document,
                        $this->catalog->types()->firstWhere('code', $item['before']['type']),
                        $item['before']['values'],
                        ['library_id' => $library, 'lock_version' => $document->lock_version + 1, 'title' => $item['before']['title']],
                    );
                    foreach ($below as $attachment) {
                        $attachment->update(['library_id' => $library]);
                    }
                    History::record($kind === DocumentActKind::Move ? Act::Moved : Act::Changed, $user, $document, ['taken_back' => $act]);
                }
                array_push($undone, $document->id, ...array_map(static fn (Document $d): int => $d->id, $below));
            }
            if ($kind === DocumentActKind::Bring) {
                self::forgetRows(array_diff_key($items, $left));
            }
            DB::table('document_acts')
                ->where('id', $act)
                ->update(['left_alone' => json_encode((object) $left, JSON_THROW_ON_ERROR)]);
            $this->indexer->update($undone);

            return ['undone' => count($items) - count($left), 'left' => count($left)];
        });
    }

    /**
     * Filed documents wait again, with the sheet that they were filed with.
     *
     * @param  list<Document>  $below
     */
    private function backToIntake(User $user, Document $document, array $below): void
    {
        DB::table('document_dossier')->where('document_id', $document->id)->delete();
        foreach ([$document, ...$below] as $one) {
            $one->update(['state' => Document::WAITING, 'filed_at' => null, 'lock_version' => $one->lock_version + 1]);
        }
        ProposalRecord::reopen([$document->id]);
        History::record(Act::Unfiled, $user, $document);
    }

    /**
     * What was brought in and undone can come in again, and rows are held against what they said before.
     *
     * @param  array<int, array<string, mixed>>  $items  by document
     */
    private static function forgetRows(array $items): void
    {
        foreach ($items as $document => $item) {
            $file = ImportFile::query()->where('document_id', $document);
            if ($item['before'] === null) {
                $file->delete();
            } else {
                $given = $item['before']['given'] ?? null;
                $file->update(['given' => $given === null ? null : json_encode($given, JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR)]);
            }
        }
    }

    /**
     * @param  array<string, list<string>>  $values
     * @param  array<string, string>  $mapping
     * @return array{values: array<string, list<string>>, lost: list<string>}
     */
    private function mapped(?DocumentType $type, array $values, array $mapping): array
    {
        $fields = array_column($this->catalog->sheet($type)->fields, null, 'code');
        $into = $lost = [];
        foreach ($values as $code => $list) {
            $target = $mapping[$code] ?? $code;
            /** @var FieldDefinition|null $field */
            $field = $fields[$target] ?? null;
            if ($field === null) {
                $lost[] = $code;
            } else {
                $into[$target] = $field->multiple
                    ? array_values(array_unique([...$into[$target] ?? [], ...$list]))
                    : $into[$target] ?? array_slice($list, 0, 1);
            }
        }

        return ['values' => $into, 'lost' => $lost];
    }

    /**
     * @param  array<string, list<string>>  $values  normal forms
     * @param  array<string, list<string>>  $present
     */
    private function fault(?DocumentType $type, array $values, array $present): ?string
    {
        $sheet = $this->catalog->sheet($type);
        $faults = [...$this->references->faults($sheet, $values, null), ...$sheet->read($values, $present)['faults']];
        if ($faults === []) {
            return null;
        }
        $code = array_key_first($faults);

        return ($this->catalog->fields()[$code]->label ?? $code).': '.$faults[$code];
    }

    /** @return array{library: string, type: string|null, title: string, values: array<string, list<string>>} */
    private function state(Document $document): array
    {
        return [
            'library' => (string) $this->catalog->libraries()->get($document->library_id)?->code,
            'type' => $this->catalog->types()->get((int) $document->document_type_id)?->code,
            'title' => $document->title,
            'values' => $this->filing->present($document),
        ];
    }

    private function copied(Document $document, Library $to, User $by, ?int $parent = null): Document
    {
        $copy = Document::query()->create([
            ...$document->only([
                'document_type_id',
                'title',
                'file_name',
                'path',
                'file_kind',
                'sha256',
                'bytes',
                'state',
                'text_state',
                'text_reason',
                'page_count',
                'drawn_pages',
                'ocr_confidence',
                'exchange',
            ]),
            'library_id' => $to->id,
            'parent_id' => $parent,
            'created_by' => $by->id,
            'filed_at' => now(),
        ]);
        DB::insert(
            'INSERT INTO pages (document_id, number, width, height, text, boxes) SELECT ?, number, width, height, text, boxes FROM pages WHERE document_id = ?',
            [$copy->id, $document->id],
        );
        TextPrints::note($copy->id);

        return $copy;
    }

    /** @return list<int> what is attached to the copy, its own attachments too */
    private function copyBelow(Document $document, Document $copy, Library $to, User $by): array
    {
        $made = [];
        foreach ($document->attachments()->get() as $attachment) {
            if ($this->rights->sees($by, $attachment) && ! $this->redactions->binds($by, $attachment)) {
                $below = $this->copied($attachment, $to, $by, $copy->id);
                Filing::copyValues($attachment->id, $below->id);
                array_push($made, $below->id, ...$this->copyBelow($attachment, $below, $to, $by));
            }
        }

        return $made;
    }

    /** @param  list<int>  $ids */
    private function seal(User $user, array $ids): void
    {
        $this->indexer->update($ids);
        $kept = $this->rights->keptFrom($user, 'file')->or($this->rights->keptFrom($user, 'change'));
        foreach ($ids as $id) {
            if ($kept->has($id)) {
                throw new Refused(
                    'An access rule does not let you give one of the documents these values or this place. Nothing was done.',
                );
            }
        }
    }

    /**
     * @param  array<string, list<string>>  $before
     * @param  array<string, list<string>>  $after
     * @return array<string, array{before: list<string>, after: list<string>}> by field code
     */
    public static function difference(array $before, array $after): array
    {
        $changed = [];
        foreach (array_keys($before + $after) as $code) {
            if (($before[$code] ?? []) !== ($after[$code] ?? [])) {
                $changed[$code] = ['before' => $before[$code] ?? [], 'after' => $after[$code] ?? []];
            }
        }

        return $changed;
    }

    /** @param  list<int>  $ids */
    private static function few(array $ids): void
    {
        if (count($ids) > self::MOST) {
            throw new Refused('This takes '.self::MOST.' documents at most at once.');
        }
    }
}
