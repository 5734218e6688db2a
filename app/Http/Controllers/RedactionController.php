<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Catalog\Catalog;
use App\Files\PageStore;
use App\Http\Requests\RedactionInput;
use App\Models\Document;
use App\Models\Page;
use App\Models\Redaction;
use App\Models\User;
use App\Redaction\Redactions;
use App\Support\Column;
use App\Support\Refused;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Kinds\PersonKind;
use Brenvic\Core\Redaction\Sought;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Gate;

/** What is removed from a document for those who may see the redacted copy only. */
final readonly class RedactionController
{
    public function __construct(private Redactions $redactions, private Catalog $catalog)
    {
    }

    public function index(Request $request, Document $document): JsonResponse
    {
        $this->guard($request, $document);

        return $this->all($document);
    }

    /** Every place of words, of what has a form, or of the people named in the index sheet, to be looked at first. */
    public function find(Request $request, Document $document): JsonResponse
    {
        $this->guard($request, $document);
        $input = $request->validate([
            'words' => 'array|max:20',
            'words.*' => 'string|max:200',
            'forms' => 'array|max:10',
            'forms.*' => 'string|in:'.implode(',', array_keys(Sought::forms())),
            'people' => 'boolean',
        ]);
        $words = array_filter($input['words'] ?? [], static fn (string $w): bool => trim($w) !== '');
        if ($input['people'] ?? false) {
            array_push($words, ...$this->people($document));
        }
        $sought = [];
        foreach ($words as $typed) {
            $sought[] = Sought::words($typed) ?? throw new Refused("“{$typed}” would be everything. Name at least one letter or digit.");
        }
        foreach ($input['forms'] ?? [] as $form) {
            $sought[] = Sought::form($form);
        }

        return new JsonResponse(['places' => $this->redactions->places($document, array_values(array_filter($sought)))]);
    }

    public function store(RedactionInput $request, Document $document): JsonResponse
    {
        $this->guard($request, $document);
        $this->redactions->add(
            $document,
            User::of($request),
            $request->validated('marks'),
            trim((string) $request->validated('reason')),
            (int) $request->validated('version'),
        );

        return $this->all($document->refresh());
    }

    public function takeBack(Request $request, Document $document): JsonResponse
    {
        $this->guard($request, $document);
        $ids = $request->validate(['redactions' => 'required|array|max:5000', 'redactions.*' => 'integer'])['redactions'];
        $this->redactions->takeBack($document, User::of($request), Column::numbers($ids));

        return $this->all($document);
    }

    public function check(Request $request, Document $document): JsonResponse
    {
        $this->guard($request, $document);
        $this->redactions->check($document, User::of($request));

        return $this->all($document);
    }

    /** Whoever may see the redacted copy only learns nothing of what was removed. */
    private function guard(Request $request, Document $document): void
    {
        abort_if($this->redactions->binds(User::of($request), $document), 403);
    }

    private function all(Document $document): JsonResponse
    {
        $redactions = $this->redactions->of($document);
        $pages = Page::query()
            ->where('document_id', $document->id)
            ->whereIn('number', array_unique(array_column($redactions, 'page')))
            ->get()
            ->keyBy('number')
            ->map(PageStore::page(...));
        $copy = $this->redactions->copy($document);
        $reasons = $this->redactions->reasons();

        return new JsonResponse([
            'redactions' => array_map(static function (Redaction $r) use ($pages, $reasons): array {
                $page = $pages->get($r->page);
                $boxes = $r->areas ?? [];
                foreach ($r->start === null || $page === null ? [] : $page->words as $word) {
                    if ($word->offset < $r->start + $r->length && $r->start < $word->offset + $word->length) {
                        $boxes[] = [$word->left, $word->top, $word->right, $word->bottom];
                    }
                }

                return [
                    'id' => $r->id,
                    'page' => $r->page,
                    'exact' => $r->exact,
                    'start' => $r->start,
                    'length' => $r->length,
                    'boxes' => $r->is_lost ? [] : $boxes,
                    'reason' => $r->reason,
                    'reason_label' => $reasons[$r->reason] ?? $r->reason,
                    'lost' => $r->is_lost,
                    'by' => $r->maker?->name,
                    'at' => $r->made_at->toIso8601String(),
                    'checked_by' => $r->checker?->name,
                ];
            }, $redactions),
            'reasons' => array_map(
                static fn (string $code, string $label): array => ['code' => $code, 'label' => $label],
                array_keys($reasons),
                array_values($reasons),
            ),
            'forms' => array_map(
                static fn (string $name, string $label): array => ['name' => $name, 'label' => $label],
                array_keys(Sought::forms()),
                array_values(Sought::forms()),
            ),
            'people' => $this->people($document),
            'copy' => $redactions === []
                    ? null
                    : [
                        'state' => $copy === null ? 'making' : ($copy->sha256 === null ? 'failed' : 'ready'),
                        'says' => $copy->fault ?? '',
                        'open' => $this->redactions->openReason($document),
                    ],
        ]);
    }

    public function again(Request $request, Document $document): JsonResponse
    {
        Gate::authorize('redact');
        abort_if($this->redactions->binds(User::of($request), $document), 404);
        $this->redactions->again($document);

        return $this->index($request, $document);
    }

    /** @return list<string> the people in the index sheet, by their names */
    private function people(Document $document): array
    {
        $fields = array_keys(
            array_filter($this->catalog->fields(), static fn (FieldDefinition $field): bool => $field->kind instanceof PersonKind),
        );

        return array_values(
            array_unique(
                DB::table('effective_values')
                    ->join('fields', 'fields.id', '=', 'field_id')
                    ->where('document_id', $document->id)
                    ->whereIn('code', $fields)
                    ->orderBy('position')
                    ->pluck('value')
                    ->all(),
            ),
        );
    }
}
