<?php

declare(strict_types=1);

namespace App\Find;

use App\Models\Document;

/** What a row of a result says of a document. A model for each would take longer than finding them. */
final readonly class FoundDocument
{
    private function __construct(
        public string $ref,
        public string $title,
        public string $fileName,
        public string $fileKind,
        public string $path,
        public string $textState,
        public string $textReason,
        public int $library,
        public int $type,
        public ?int $parent,
        public int $pages,
        public ?string $filedAt,
        public string $creator,
        public string $language = '',
    ) {
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, self> those that are there, by id
     */
    public static function of(array $ids): array
    {
        $found = [];
        $rows =
            $ids === []
                ? []
                : Document::query()
                    ->toBase()
                    ->leftJoin('users', 'users.id', '=', 'documents.created_by')
                    ->whereIntegerInRaw('documents.id', $ids)
                    ->get([
                        'documents.id',
                        'ref',
                        'title',
                        'file_name',
                        'file_kind',
                        'path',
                        'text_state',
                        'text_reason',
                        'said_language',
                        'told_language',
                        'library_id',
                        'document_type_id',
                        'parent_id',
                        'page_count',
                        'filed_at',
                        'users.name',
                    ]);
        foreach ($rows as $d) {
            $found[(int) $d->id] = new self(
                (string) $d->ref,
                (string) $d->title,
                (string) $d->file_name,
                (string) $d->file_kind,
                (string) $d->path,
                (string) $d->text_state,
                (string) $d->text_reason,
                (int) $d->library_id,
                (int) $d->document_type_id,
                $d->parent_id === null ? null : (int) $d->parent_id,
                (int) $d->page_count,
                $d->filed_at === null ? null : (string) $d->filed_at,
                (string) $d->name,
                (string) ($d->said_language ?? $d->told_language),
            );
        }

        return $found;
    }
}
