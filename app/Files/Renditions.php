<?php

declare(strict_types=1);

namespace App\Files;

use App\Models\DeliveryForm;
use App\Models\Document;
use App\Models\Rendition;
use Illuminate\Support\Facades\DB;

/** Files made of a document and what is laid over it, kept as long as neither changes. */
final readonly class Renditions
{
    public function __construct(private FileStore $files)
    {
    }

    /** The rendition made of just this (`$stamp`), or why there is none; null when nobody has tried yet. */
    public function find(Document $document, DeliveryForm $form, string $stamp): ?Rendition
    {
        return Rendition::query()->where('document_id', $document->id)->where('form', $form->value)->where('stamp', $stamp)->first();
    }

    /** Keeps a rendition in the place of the one before. */
    public function keep(Document $document, DeliveryForm $form, string $stamp, MadeFile $made): Rendition
    {
        [$sha256, $bytes] = $made->path === null ? [null, null] : $this->files->take($made->path);
        [$row, $before] = DB::transaction(static function () use ($document, $form, $stamp, $sha256, $bytes, $made): array {
            $row = Rendition::query()->firstOrNew(['document_id' => $document->id, 'form' => $form->value]);
            $before = $row->sha256;
            $row->fill([
                'version' => $document->version,
                'stamp' => $stamp,
                'sha256' => $sha256,
                'bytes' => $bytes,
                'file_name' => $made->name,
                'fault' => mb_substr($made->fault, 0, 500),
                'made_at' => now(),
            ])->save();

            return [$row, $before];
        });
        if ($before !== null && $before !== $sha256) {
            $this->files->remove($before);
        }

        return $row;
    }

    /** Takes all renditions of a document away. */
    public function clear(Document $document): void
    {
        $files = Rendition::query()->where('document_id', $document->id)->whereNotNull('sha256')->pluck('sha256')->all();
        Rendition::query()->where('document_id', $document->id)->delete();
        DB::afterCommit(fn () => array_map($this->files->remove(...), $files));
    }
}
