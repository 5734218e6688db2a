<?php

declare(strict_types=1);

namespace App\Disposal;

use App\Catalog\Catalog;
use App\Destroying\Destroyer;
use App\Destroying\Stub;
use App\History\Act;
use App\History\History;
use App\Index\Indexer;
use App\Models\Disposal;
use App\Models\Document;
use App\Retention\KeptFacts;
use Brenvic\Core\Retention\Disposal\Certificate;
use Brenvic\Core\Retention\Disposal\Decision;
use Brenvic\Core\Retention\Disposal\DisposalState;
use Brenvic\Core\Retention\RetentionAction;
use Illuminate\Support\Facades\DB;
use stdClass;

/**
 * Carries a disposal out: a document a transaction, which also notes that it is done, so that whoever goes on after a stop does
 * nothing twice and the certificate says what happened.
 */
final readonly class Carrying
{
    public function __construct(
        private Obstacles $obstacles,
        private Destroyer $destroyer,
        private Indexer $indexer,
        private Catalog $catalog,
    ) {
    }

    public function out(Disposal $disposal): void
    {
        $disposal->update(['says' => '']);
        $stub = Stub::now();
        while (($item = $disposal->items()->where('state', Disposal::IN)->orderBy('id')->first()) !== null) {
            DB::transaction(fn () => $this->carry($disposal, $item, $stub));
            $this->destroyer->clear();
            $disposal->touch();
        }
        Destroyer::emptyJournal();
        $this->certify($disposal);
    }

    private function carry(Disposal $disposal, stdClass $item, Stub $stub): void
    {
        $id = (int) $item->document_id;
        $document = Document::query()->find($id);
        [$keepings, $obstacles] = $this->obstacles->of([$id], KeptFacts::today(), $disposal->id, $disposal->pull_list_id);
        $decision = Decision::from((string) $item->decision);
        $why = $document === null || $document->destroyed_at !== null ? 'No longer there' : $obstacles[$id] ?? null;
        $action = ($keepings[$id] ?? null)?->action();
        if ($why === null && $action !== $disposal->action) {
            $why = 'Its rule says otherwise by now: '.($action?->label() ?? 'nothing');
        }
        // What is kept longer by decision may be so whatever it stands in.
        if ($document === null || ($why !== null && $decision === Decision::Release)) {
            $disposal->items()->where('id', $item->id)->update(['state' => Disposal::OUT, 'says' => $why ?? 'No longer there']);

            return;
        }
        $decision === Decision::Release ? $this->destroy($disposal, $document, $item, $stub) : $this->spare($disposal, $document, $item, $decision);
    }

    private function destroy(Disposal $disposal, Document $document, stdClass $item, Stub $stub): void
    {
        $why = ['disposal' => $disposal->id, 'rule' => (string) $item->rule_says];
        $handedOver = $disposal->action === RetentionAction::HandOver;
        $handedOver && History::record(Act::HandedOver, $disposal->approver, $document, ['disposal' => $disposal->id, 'receipt' => $disposal->receipt]);
        // Attachments before what they are attached to.
        $attached = Document::query()->findMany(array_reverse(Obstacles::families([$document->id])[$document->id] ?? []));
        foreach ([...$attached->sortByDesc('id')->all(), $document] as $of) {
            $says = $of->is($document) ? (string) $item->rule_says : "attached to {$document->ref}";
            $entry = $this->destroyer->destroy($of, $disposal->approver, $why, $stub);
            DB::table('disposal_items')->upsert(
                [
                    [
                        'disposal_id' => $disposal->id,
                        'document_id' => $of->id,
                        'ref' => $of->ref,
                        'state' => Disposal::DONE,
                        'decision' => Decision::Release->value,
                        'rule_says' => $says,
                        'says' => null,
                        'sha256' => $of->sha256,
                        'bytes' => $of->bytes,
                        'entry' => $entry->id,
                        'done_at' => now(),
                    ],
                ],
                ['disposal_id', 'document_id'],
                ['state', 'decision', 'rule_says', 'says', 'sha256', 'bytes', 'entry', 'done_at'],
            );
        }
    }

    private function spare(Disposal $disposal, Document $document, stdClass $item, Decision $decision): void
    {
        $document->update(
            $decision === Decision::Keep
                ? ['exempt_reason' => (string) $item->reason]
                : ['kept_until' => (string) $item->until],
        );
        History::record(Act::RetentionDecided, $disposal->approver, $document, [
            'disposal' => $disposal->id,
            'decision' => $decision->value,
            'reason' => (string) $item->reason,
            ...$decision === Decision::Postpone ? ['until' => (string) $item->until] : [],
        ]);
        $this->indexer->retention([$document->id]);
        $disposal->items()->where('id', $item->id)->update(['state' => Disposal::DONE, 'done_at' => now()]);
    }

    private function certify(Disposal $disposal): void
    {
        DB::transaction(function () use ($disposal): void {
            $certificate = $this->certificate($disposal)->json();
            $entry = History::record(Act::Certified, $disposal->approver, null, [
                'disposal' => $disposal->id,
                'name' => $disposal->name,
                'sha256' => hash('sha256', $certificate),
            ]);
            $disposal->update([
                'state' => DisposalState::Done,
                'done_at' => now(),
                'certificate' => $certificate,
                'certificate_entry' => $entry->id,
                'lock_version' => $disposal->lock_version + 1,
            ]);
        });
    }

    private function certificate(Disposal $disposal): Certificate
    {
        $iso = static fn (mixed $at): string => $at === null ? '' : \Illuminate\Support\Carbon::parse($at)->utc()->format('Y-m-d\TH:i:s\Z');
        $documents = $kept = $out = [];
        $at = [];
        $rows = $disposal
            ->items()
            ->leftJoin('documents', 'documents.id', '=', 'disposal_items.document_id')
            ->leftJoin('users', 'users.id', '=', 'decided_by')
            ->leftJoin('history', 'history.id', '=', 'disposal_items.entry')
            ->orderBy('disposal_items.id')
            ->select(['disposal_items.*', 'documents.document_type_id', 'documents.library_id', 'users.name as by', 'history.hash as entry_hash']);
        foreach ($rows->cursor() as $row) {
            if ($row->state === Disposal::OUT) {
                $out[] = ['ref' => (string) $row->ref, 'why' => (string) $row->says];
            } elseif ($row->decision !== Decision::Release->value) {
                $kept[] = [
                    'ref' => (string) $row->ref,
                    'decision' => (string) $row->decision,
                    'until' => $row->until === null ? null : substr((string) $row->until, 0, 10),
                    'reason' => (string) $row->reason,
                    'by' => (string) $row->by,
                ];
            } else {
                $at[] = $iso($row->done_at);
                $documents[] = [
                    'ref' => (string) $row->ref,
                    'type' => $this->catalog->types()->get((int) $row->document_type_id)->name ?? '',
                    'library' => $this->catalog->libraries()->get((int) $row->library_id)->name ?? '',
                    'rule' => (string) $row->rule_says,
                    'due' => $row->due === null ? null : substr((string) $row->due, 0, 10),
                    'sha256' => (string) $row->sha256,
                    'bytes' => (int) $row->bytes,
                    'at' => $iso($row->done_at),
                    'entry' => (int) $row->entry,
                    'entry_hash' => (string) $row->entry_hash,
                ];
            }
        }
        $last = DB::table('history')->orderByDesc('id')->first(['id', 'hash']);

        return new Certificate(
            $disposal->id,
            $disposal->name,
            $disposal->action->value,
            Disposals::searchOf($disposal)->inWords($this->catalog->fullSchema()),
            ['by' => $disposal->preparer->name, 'at' => $iso($disposal->created_at)],
            ['by' => $disposal->submitter->name ?? '', 'at' => $iso($disposal->submitted_at)],
            ['by' => $disposal->approver->name ?? '', 'at' => $iso($disposal->approved_at)],
            $at === [] ? null : ['from' => min($at), 'to' => max($at)],
            $documents,
            $kept,
            $out,
            $disposal->receipt === null
                ? null
                : ['text' => $disposal->receipt, 'by' => $disposal->recipient->name ?? '', 'at' => $iso($disposal->receipt_at)],
            ['entry' => (int) ($last->id ?? 0), 'hash' => (string) ($last->hash ?? '')],
        );
    }
}
