<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Access\Rights;
use App\Models\Document;
use App\Models\User;
use App\Support\Column;
use Illuminate\Support\Facades\DB;

/** Where exchanges of mails were filed, for those that arrive later. */
final readonly class ExchangeResource
{
    /** Mails that are looked at. */
    private const MOST = 1_000;

    public function __construct(private Rights $rights)
    {
    }

    /**
     * Where the mails of exchanges were put that are filed already, as far as the person sees them: the latest of each.
     *
     * @param  list<string>  $exchanges
     * @return array<string, string> exchange => reference of the dossier
     */
    public function dossiers(array $exchanges, User $user): array
    {
        if ($exchanges === []) {
            return [];
        }
        $rows = DB::table('documents')
            ->join('document_dossier', 'document_dossier.document_id', '=', 'documents.id')
            ->join('dossiers', 'dossiers.id', '=', 'dossier_id')
            ->whereIn('exchange', $exchanges)
            ->where('state', Document::FILED)
            ->whereNull('documents.deleted_at')
            ->whereIntegerInRaw('dossiers.library_id', array_keys($user->libraryRights()))
            ->orderByDesc('documents.filed_at')
            ->orderByDesc('documents.id')
            ->limit(self::MOST)
            ->get(['documents.id', 'exchange', 'dossiers.ref']);
        $seen = array_flip($this->rights->seen($user, Column::numbers($rows->pluck('id'))));
        $found = [];
        foreach ($rows as $row) {
            if (isset($seen[(int) $row->id])) {
                $found[(string) $row->exchange] ??= (string) $row->ref;
            }
        }

        return $found;
    }
}
