<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Access\Change;
use App\Access\Changing;
use App\Access\HistoryRights;
use App\Access\Rights;
use App\Catalog\Catalog;
use App\Files\Drawing;
use App\Files\FileStore;
use App\Find\SheetHits;
use App\History\Act;
use App\History\History;
use App\Http\Requests\SearchInput;
use App\Http\Requests\SheetInput;
use App\Http\Resources\DocumentResource;
use App\Index\Indexer;
use App\Index\RedactedTexts;
use App\Intake\DocumentActs;
use App\Intake\Filing;
use App\Models\DeliveryForm;
use App\Models\Document;
use App\Models\User;
use App\People\Reasons;
use App\Redaction\Redactions;
use App\Retrieve\Outgoing;
use App\Support\DiskFull;
use App\Support\StaleWrite;
use App\Versions\Versions;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\TextLanguage;
use Brenvic\Core\Capture\WordBox;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Pages\HitFinder;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Gate;
use Illuminate\Validation\Rule;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\HeaderUtils;

final readonly class DocumentController
{
    public function __construct(
        private Versions $versions,
        private Redactions $redactions,
        private Outgoing $outgoing,
        private DocumentResource $resource,
        private Filing $filing,
        private Catalog $catalog,
        private Changing $changing,
    ) {
    }

    /** Who may see a document, for those who file: whom it may be spoken of with. */
    public function sight(Rights $rights, Document $document): JsonResponse
    {
        $people = User::query()
            ->whereNull('out_of_use_at')
            ->orderBy('name')
            ->get();

        $seers = $rights->seers($people, $document);

        return new JsonResponse([
            'people' => array_map(
                static fn (User $person): array => ['name' => $person->name, 'sign_in' => $person->sign_in, 'role' => $person->role->name],
                $seers,
            ),
            // Whom it is kept from is for those who may ask why.
            'others' => Gate::allows('explain')
                ? $people
                    ->diff($seers)
                    ->map(static fn (User $of): array => ['name' => $of->name, 'sign_in' => $of->sign_in, 'role' => $of->role->name])
                    ->values()
                    ->all()
                : [],
            'of' => $people->count(),
        ]);
    }

    /** Why somebody may read or change a document, or why not: for those who answer for what people may do. */
    public function why(Request $request, Reasons $reasons, Document $document, string $person): JsonResponse
    {
        abort_unless($document->state === Document::FILED, 404);
        $of = User::query()->where('sign_in', $person)->firstOrFail();

        return new JsonResponse(['name' => $of->name, 'role' => $of->role->name, ...$reasons->of($of, $document)]);
    }

    public function show(Request $request, Document $document): JsonResponse
    {
        $user = User::of($request);
        if ($document->state === Document::FILED) {
            // What is read on a full disk is read all the same; the log says that it was not noted.
            DiskFull::orElseSkip(static function () use ($user, $document): void {
                History::viewed($user, $document);
                DB::table('recent_documents')->upsert(
                    ['user_id' => $user->id, 'document_id' => $document->id, 'read_at' => now()],
                    ['user_id', 'document_id'],
                    ['read_at'],
                );
            });
        }

        $record = $this->resource->of($document, $user);
        $shown = $this->version($request, $document);
        if ($this->redactions->binds($user, $document)) {
            $record = [
                ...$record,
                'redacted_only' => true,
                'copy_reason' => $this->redactions->openReason($document) ??
                    ($this->redactions->copy($document)->fault ?? 'The redacted copy is being made.'),
            ];
        }
        if ($shown !== $document->version) {
            $file = $this->versions->find($document, $shown)->only(array_diff(Versions::FILE, ['sha256', 'ocr_confidence']));
            $record = [...$record, ...$file, 'drawn_pages' => (int) $file['drawn_pages'], 'shown_version' => $shown];
        }

        return new JsonResponse($record);
    }

    public function update(SheetInput $request, Document $document): JsonResponse
    {
        Gate::authorize('update', $document);
        $user = User::of($request);
        DB::transaction(function () use ($request, $document, $user): void {
            $document->refresh();
            if ($request->integer('lock_version') !== $document->lock_version) {
                throw new StaleWrite($this->resource->of($document, $user));
            }
            $this->changing->guard($user, $document, Change::Values);
            // What was covered comes back as it was uncovered, or not at all.
            $before = $this->filing->present($document);
            $this->filing->change($document, $request->type($this->catalog), $request->sheet(), $user);
            History::record(Act::Changed, $user, $document, DocumentActs::difference($before, $this->filing->present($document)));
        });

        return new JsonResponse($this->resource->of($document->refresh(), $user));
    }

    /** Says the language of the text, where the one that is told from it is not right; or leaves it to that again. */
    public function language(Request $request, Document $document, Indexer $indexer): JsonResponse
    {
        Gate::authorize('update', $document);
        $user = User::of($request);
        $code = $request->validate(['language' => ['present', 'nullable', Rule::in(array_keys(TextLanguage::NAMES))]])['language'];
        DB::transaction(function () use ($document, $user, $code, $indexer): void {
            $document->refresh();
            $this->changing->guard($user, $document, Change::Values);
            $of = static fn (Document $d): array => ['text_language' => array_filter([$d->language()])];
            $before = $of($document);
            $document->update(['said_language' => $code]);
            $indexer->update([$document->id]);
            History::record(Act::Changed, $user, $document, DocumentActs::difference($before, $of($document)));
        });

        return new JsonResponse($this->resource->of($document->refresh(), $user));
    }

    /** Uncovers the values of a sensitive field, or of all of them, and records it. */
    public function reveal(Request $request, Document $document): JsonResponse
    {
        $user = User::of($request);
        $field = $request->validate(['field' => 'nullable|string|max:40'])['field'] ?? null;
        $may = Cover::hidden($this->catalog->fieldsFor($user));
        abort_if($field !== null && ! isset($may[$field]), 404);
        $record = $this->resource->of($document, $user, true);
        $shown = array_values(array_intersect($field === null ? array_keys($may) : [$field], array_keys((array) $record['values'])));
        if ($shown !== []) {
            History::record(Act::Revealed, $user, $document, ['fields' => $shown]);
        }

        return new JsonResponse(['values' => (object) array_intersect_key((array) $record['values'], array_flip($shown))]);
    }

    /** What was done to a document, for those who may change it and those who oversee. */
    public function history(Request $request, Document $document, HistoryRights $rights): JsonResponse
    {
        $user = User::of($request);
        abort_unless($rights->readable($user, [$document]) !== [], 403);
        $fields = $this->catalog->fieldsChangedFor($user);
        $rows = DB::table('history')
            ->leftJoin('users', 'users.id', '=', 'history.user_id')
            ->where('document_id', $document->id)
            ->orderByDesc('history.id')
            ->limit(200)
            ->get(['history.*', 'users.name as by']);

        return new JsonResponse([
            'history' => $rows
                ->map(static function (object $row) use ($fields): array {
                    $changes = [];
                    // Empty once its reader was forgotten or its document destroyed.
                    $detail = (array) json_decode((string) $row->detail, true);
                    foreach ($detail as $code => $change) {
                        // Values of sensitive fields stay covered here too.
                        if (isset($fields[$code]) && is_array($change) && isset($change['before'])) {
                            /** @param  list<string>  $normals */
                            $shown = static fn (array $normals): string => Cover::text($fields[$code], $normals);
                            $changes[] = [
                                'field' => $fields[$code]->label,
                                'before' => $shown($change['before']),
                                'after' => $shown($change['after']),
                            ];
                        }
                    }

                    return [
                        'at' => $row->at,
                        'by' => $row->by,
                        'act' => Act::from((string) $row->act)->words(),
                        'through' => $row->act === Act::ReadInPart->value ? (string) ($detail['reason'] ?? '') : self::through($detail),
                        'changes' => $changes,
                    ];
                })
                ->all(),
        ]);
    }

    /**
     * Whose hands outside something went through, in words.
     *
     * @param  array<array-key, mixed>  $detail
     */
    private static function through(array $detail): ?string
    {
        return isset($detail['outside'], $detail['lent'])
            ? "from outside, through the loan to {$detail['outside']} of ".PartialDate::parse((string) $detail['lent'])->display()
            : null;
    }

    public function pin(Request $request, Document $document): JsonResponse
    {
        DB::table('pinned_documents')->upsert(
            ['user_id' => $request->user()?->getAuthIdentifier(), 'document_id' => $document->id, 'pinned_at' => now()],
            ['user_id', 'document_id'],
            ['pinned_at'],
        );

        return new JsonResponse(['pinned' => true]);
    }

    public function unpin(Request $request, Document $document): JsonResponse
    {
        DB::table('pinned_documents')
            ->where('user_id', $request->user()?->getAuthIdentifier())
            ->where('document_id', $document->id)
            ->delete();

        return new JsonResponse(['pinned' => false]);
    }

    /** The places that a search marks: how many on each page, and those in the index sheet and around it. */
    public function hits(SearchInput $input, Document $document, SheetHits $around): JsonResponse
    {
        $version = $this->version($input, $document);
        $ledger = $input->searched()->ledger();
        $finder = HitFinder::forText($ledger, $version !== $document->version);
        $pages = [];
        $total = 0;
        foreach ($finder->findsNothing() ? [] : $this->texts(User::of($input), $document, $version) as $number => $text) {
            $count = count($finder->hits($text));
            if ($count > 0) {
                $pages[] = ['page' => $number, 'hits' => $count];
                $total += $count;
            }
        }

        return new JsonResponse(['total' => $total, 'pages' => $pages, ...$around->of(User::of($input), $document, $ledger)]);
    }

    /** @return iterable<int, string> the texts of the pages, as a person may see them */
    private function texts(User $user, Document $document, int $version): iterable
    {
        if ($this->redactions->binds($user, $document)) {
            return RedactedTexts::of([$document->id])[$document->id] ?? [];
        }
        $layer = $version === $document->version ? DB::table('pages') : DB::table('version_pages')->where('version', $version);

        return $layer
            ->where('document_id', $document->id)
            ->orderBy('number')
            ->select(['number', 'text'])
            ->cursor()
            ->mapWithKeys(static fn (object $page): array => [(int) $page->number => (string) $page->text]);
    }

    /** One page of the text layer, with the hits of a search: as pieces of the text, and as boxes on the page. */
    public function page(SearchInput $input, Document $document, int $number): JsonResponse
    {
        $version = $this->version($input, $document);
        $page = $this->versions->page($document, $version, $number);
        if ($this->redactions->binds(User::of($input), $document)) {
            abort_if($this->redactions->openReason($document) !== null, 404);
            $page = $this->redactions->page($document, $number, $page)->page;
        }
        $finder = HitFinder::forText($input->searched()->ledger(), $version !== $document->version);
        $box = static fn (WordBox $w): array => [$w->left, $w->top, $w->right, $w->bottom];

        return new JsonResponse([
            'number' => $number,
            'width' => $page->width,
            'height' => $page->height,
            'pieces' => $finder->pieces($page->text),
            'boxes' => array_map(static fn (array $hit): array => array_map($box, $hit), $finder->boxes($page)),
        ]);
    }

    /** The version that is asked for, the present one when none is; of a redacted copy there is no other. */
    private function version(Request $request, Document $document): int
    {
        $version = (int) ($request->query('version') ?? $document->version);
        abort_if($version !== $document->version && $this->redactions->binds(User::of($request), $document), 404);

        return $version;
    }

    /** The file: of a version as it is, or of the present one in another form. */
    public function file(Request $request, Document $document, FileStore $files, Drawing $drawing): BinaryFileResponse
    {
        $user = User::of($request);
        $form = DeliveryForm::from(
            (string) ($request->validate(['form' => ['nullable', Rule::enum(DeliveryForm::class)]])['form'] ?? DeliveryForm::AsItIs->value),
        );
        $version = $this->version($request, $document);
        $isDownload = $request->boolean('download');
        $isDownload && Gate::authorize('download');
        if ($version === $document->version) {
            $file = $this->outgoing->file($user, $document, $form);
            [$path, $name, $drawn] = [$file->path, $file->name, $document->drawn_pages];
            $isOriginal = $file->sha256 === $document->sha256;
        } else {
            $old = $this->versions->find($document, $version);
            [$path, $name, $drawn, $isOriginal] = [$files->whole($old->sha256), $old->file_name, $old->drawn_pages, true];
        }
        if ($isDownload && $document->state === Document::FILED) {
            History::record(Act::Delivered, $user, $document, [
                'as' => 'file',
                'form' => $isOriginal ? DeliveryForm::AsItIs->value : $form->value,
                'version' => $version,
            ]);
        }
        $head = (string) file_get_contents($path, length: 4096);
        $kind = FileKind::detect($head, $name);
        if ($request->boolean('drawn') && ! $isDownload && (Drawing::isNeeded($head) || ($drawn > 0 && $kind->isOffice()))) {
            // Only stored files need it; a redacted copy is a PDF already. Office files are drawn in the background, never while
            // somebody waits.
            $path = $drawing->of(basename($path), $kind);
            [$name, $head] = ["{$name}.pdf", (string) file_get_contents($path, length: 4096)];
        }

        return new BinaryFileResponse(
            $path,
            200,
            [
                'Content-Type' => FileKind::detect($head, $name)->mediaType($head),
                'Content-Disposition' => HeaderUtils::makeDisposition(
                    $isDownload ? 'attachment' : 'inline',
                    $name,
                    'document-'.$document->id,
                ),
                'Content-Security-Policy' => 'sandbox',
                'X-Content-Type-Options' => 'nosniff',
                // Nothing of it stays in a browser that others use after.
                'Cache-Control' => 'private, no-store',
            ],
            public: false,
        );
    }
}
