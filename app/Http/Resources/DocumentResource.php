<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Access\Change;
use App\Access\Changing;
use App\Access\HistoryRights;
use App\Access\Holds;
use App\Access\Rights;
use App\Catalog\Catalog;
use App\Index\RedactedTexts;
use App\Models\CheckOut;
use App\Models\Document;
use App\Models\Dossier;
use App\Models\User;
use App\Support\Column;
use Brenvic\Core\Design\DossierKindPart;
use Brenvic\Core\Design\SourcePart;
use Brenvic\Core\Fields\Cover;
use Illuminate\Support\Facades\DB;
use stdClass;

/** Shapes a document for the reading pane and the index sheet. */
final readonly class DocumentResource
{
    /** Mails of an exchange that are named beside one of them. */
    private const EXCHANGE = 100;

    private const RELATIONS = ['creator', 'parent', 'attachments'];

    public function __construct(
        private Catalog $catalog,
        private Rights $rights,
        private Changing $changing,
        private ExchangeResource $exchanges,
    ) {
    }

    /**
     * @param  bool  $uncovered  with the sensitive values, for whoever has had that recorded
     * @return array<string, mixed>
     */
    public function of(Document $document, User $user, bool $uncovered = false): array
    {
        return $this->shape($document->loadMissing(self::RELATIONS), $user, $uncovered, self::stored([$document->id])[$document->id] ?? []);
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, list<stdClass>> the values of each, as the database has them
     */
    private static function stored(array $ids): array
    {
        $stored = [];
        foreach (DB::table('effective_values')->whereIntegerInRaw('document_id', $ids)->orderBy('position')->get() as $value) {
            $stored[(int) $value->document_id][] = $value;
        }

        return $stored;
    }

    private function proposed(Document $document, User $user): ?string
    {
        return $document->exchange === null
            ? null
            : $this->exchanges->dossiers([$document->exchange], $user)[$document->exchange] ?? null;
    }

    private function sourceOf(Document $document): ?string
    {
        return $document->source === null ? null : $this->catalog->design()->one(SourcePart::class, $document->source)?->name;
    }

    /**
     * @param  list<stdClass>  $stored
     * @return array<string, mixed>
     */
    private function shape(Document $document, User $user, bool $uncovered, array $stored): array
    {
        $isFiled = $document->state === Document::FILED;
        $library = $this->catalog->libraries()->get($document->library_id);
        $type = $this->catalog->types()->get((int) $document->document_type_id);
        $shown = $this->catalog->fieldsShownTo($user);
        $values = [];
        $dossiers = $isFiled ? $this->dossiers($document, $user) : [];
        foreach ($stored as $value) {
            $field = $shown[$this->catalog->fieldOfId((int) $value->field_id)->code ?? ''] ?? null;
            if ($field !== null) {
                $isCovered = Cover::hides($field) && ! $uncovered && $isFiled;
                $values[$field->code][] = [
                    ...$isCovered
                        ? ['value' => '', 'label' => Cover::SIGN, 'covered' => true]
                        : ['value' => (string) $value->value, 'label' => $field->display((string) $value->value)],
                    ...$value->inherited ? ['inherited' => true, ...self::giver($dossiers, (int) $value->dossier_id)] : [],
                ];
            }
        }
        // What is attached, or attached to, may be kept from a person by a rule of its own.
        $near = [...$document->attachments->modelKeys(), ...$document->parent_id === null ? [] : [$document->parent_id]];
        $exchange =
            $document->exchange === null || ! $isFiled
                ? []
                : Column::numbers(
                    DB::table('documents')
                        ->where('exchange', $document->exchange)
                        ->where('id', '!=', $document->id)
                        ->where('state', Document::FILED)
                        ->whereNull('deleted_at')
                        ->orderBy('id')
                        ->limit(self::EXCHANGE)
                        ->pluck('id'),
                );
        $near = [...$near, ...$exchange];
        $seen = $isFiled ? $this->rights->seen($user, $near) : $near;
        $hindrance = $isFiled ? $this->changing->hindrance($user, $document, Change::Values) : null;

        return [
            'ref' => $document->ref,
            'title' => $document->title,
            'state' => $document->state,
            'library' => ['code' => $library->code ?? '', 'name' => $library->name ?? ''],
            'repository' => ['code' => $library?->repository->code ?? '', 'name' => $library?->repository->name ?? ''],
            'type' => $type === null ? null : ['code' => $type->code, 'name' => $type->name],
            'file_name' => $document->file_name,
            'file_kind' => $document->file_kind,
            'path' => $document->path,
            'bytes' => $document->bytes,
            'page_count' => $document->page_count,
            'drawn_pages' => (int) $document->drawn_pages,
            'source' => $isFiled ? null : $this->sourceOf($document),
            'intake_note' => $isFiled ? null : $document->intake_note,
            'proposed_dossier' => $isFiled ? null : $document->intake_dossier ?? $this->proposed($document, $user),
            'text_state' => $document->text_state,
            'text_reason' => $document->text_reason,
            'language' => ['code' => $document->language(), 'told' => $document->told_language],
            'brought_in_by' => $document->creator?->name,
            'created_at' => $document->created_at->toIso8601String(),
            'filed_at' => $document->filed_at?->toIso8601String(),
            'values' => (object) $values,
            'parent' => $document->parent === null || ! in_array($document->parent->id, $seen, true)
                    ? null
                    : ['ref' => $document->parent->ref, 'title' => $document->parent->title],
            'dossiers' => array_map(static fn (array $d): array => array_diff_key($d, ['id' => true]), $dossiers),
            'attachments' => $document->attachments
                ->whereIn('id', $seen)
                ->values()
                ->map(
                    static fn (Document $a): array => [
                        'ref' => $a->ref,
                        'title' => $a->title,
                        'file_name' => $a->file_name,
                        'file_kind' => $a->file_kind,
                        'text_state' => $a->text_state,
                    ],
                )
                ->all(),
            'exchange' => $exchange === []
                    ? []
                    : Document::query()
                        ->whereIntegerInRaw('id', array_intersect($exchange, $seen))
                        ->orderBy('id')
                        ->get(['ref', 'title'])
                        ->map(static fn (Document $d): array => ['ref' => $d->ref, 'title' => $d->title])
                        ->all(),
            'destroyed_at' => $document->destroyed_at?->toIso8601String(),
            'holds' => $isFiled ? Holds::on($document->id) : [],
            'pinned' => $isFiled && DB::table('pinned_documents')->where('user_id', $user->id)->where('document_id', $document->id)->exists(),
            'loans' => $isFiled ? DB::table('loans')->where('document_id', $document->id)->count() : 0,
            'comments' => $isFiled ? DB::table('comments')->where('document_id', $document->id)->whereNull('deleted_at')->count() : 0,
            'lock_version' => $document->lock_version,
            'version' => $document->version,
            'shown_version' => $document->version,
            'redacted_only' => false,
            'has_redacted_copy' => $isFiled && RedactedTexts::has($document->id),
            'is_template' => $document->is_template,
            'checked_out' => $this->checkedOut($document, $user),
            'may_change' => $hindrance === null,
            'why_not' => $hindrance?->words,
            'is_theirs_to_change' => $hindrance?->kind->isOfPerson() !== true,
            'may_see_history' => $isFiled && HistoryRights::reads($user, $hindrance),
        ];
    }

    /** @return array<string, mixed>|null */
    private function checkedOut(Document $document, User $user): ?array
    {
        $out = $document->state === Document::FILED ? CheckOut::query()->with('user')->find($document->id) : null;

        return $out === null ? null : InProgressResource::one($out, $user);
    }

    /** @return list<array{id: int, ref: string, title: string, kind: string}> those a person may see */
    private function dossiers(Document $document, User $user): array
    {
        return array_values(
            Dossier::query()
                ->join('document_dossier', 'document_dossier.dossier_id', '=', 'dossiers.id')
                ->where('document_id', $document->id)
                ->whereIntegerInRaw('library_id', array_keys($user->libraryRights()))
                ->orderBy('dossiers.id')
                ->get(['dossiers.*'])
                ->map(
                    fn (Dossier $d): array => [
                        'id' => $d->id,
                        'ref' => $d->ref,
                        'title' => $d->title,
                        'kind' => $this->catalog->design()->one(DossierKindPart::class, $d->kind)?->calledBy() ?? $d->kind,
                    ],
                )
                ->all(),
        );
    }

    /**
     * The dossier that handed a value down, when the person may see it.
     *
     * @param  list<array{id: int, ref: string, title: string, kind: string}>  $dossiers
     * @return array{from?: array{ref: string, title: string}}
     */
    private static function giver(array $dossiers, int $id): array
    {
        foreach ($dossiers as $dossier) {
            if ($dossier['id'] === $id) {
                return ['from' => ['ref' => $dossier['ref'], 'title' => $dossier['title']]];
            }
        }

        return [];
    }
}
