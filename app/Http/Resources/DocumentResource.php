<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Design\Catalog;
use App\Models\Document;
use App\Models\DocumentValue;
use App\Models\User;
use Illuminate\Support\Facades\Gate;

/** Shapes a document for the reading pane and the index sheet. */
final readonly class DocumentResource
{
    /** What of a document is shown, to be loaded at once for many. */
    public const RELATIONS = ['values', 'creator', 'parent', 'attachments'];

    public function __construct(private Catalog $catalog)
    {
    }

    /** @return array<string, mixed> */
    public function of(Document $document, User $user): array
    {
        $document->loadMissing(self::RELATIONS);
        $library = $this->catalog->libraries()->get($document->library_id);
        $type = $this->catalog->types()->get((int) $document->document_type_id);
        $shown = $this->catalog->fieldsFor($user);
        $values = [];
        foreach ($document->values as $value) {
            /** @var DocumentValue $value */
            $field = $this->catalog->fieldOfId($value->field_id);
            if ($field !== null && isset($shown[$field->code])) {
                $values[$field->code][] = ['value' => $value->value, 'label' => $field->display($value->value)];
            }
        }

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
            'text_state' => $document->text_state,
            'text_reason' => $document->text_reason,
            'brought_in_by' => $document->creator?->name,
            'created_at' => $document->created_at->toIso8601String(),
            'filed_at' => $document->filed_at?->toIso8601String(),
            'values' => (object) $values,
            'parent' => $document->parent === null ? null : ['ref' => $document->parent->ref, 'title' => $document->parent->title],
            'attachments' => $document->attachments->map(static fn (Document $a): array => ['ref' => $a->ref, 'title' => $a->title, 'file_name' => $a->file_name, 'file_kind' => $a->file_kind, 'text_state' => $a->text_state])->all(),
            'lock_version' => $document->lock_version,
            'may_change' => Gate::forUser($user)->allows('update', $document),
        ];
    }
}
