<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\Document;
use Brenvic\Core\Index\DocumentSet;
use Illuminate\Support\Facades\DB;

/** What may be learned from for a document: others, that are filed and that the person who asks sees whole. */
final readonly class Learnable
{
    public function __construct(public DocumentSet $documents, private Document $for)
    {
    }

    /**
     * @param  iterable<int|string>  $ids
     * @return list<int> the first of those that may be learned from
     */
    public function among(iterable $ids, int $most): array
    {
        $may = [];
        foreach ($ids as $id) {
            if (count($may) < $most && (int) $id !== $this->for->id && $this->documents->has((int) $id)) {
                $may[] = (int) $id;
            }
        }

        return $may;
    }

    /** @return list<int> the latest documents of a type */
    public function latest(int $type, int $most): array
    {
        $ids = DB::table('documents')
            ->where('document_type_id', $type)
            ->where('state', Document::FILED)
            ->orderByDesc('id')
            ->limit($most * 2)
            ->pluck('id');

        return $this->among($ids, $most);
    }
}
