<?php

declare(strict_types=1);

namespace App\Access;

use App\History\Act;
use App\Models\Document;
use App\Models\User;
use Illuminate\Support\Facades\DB;

/**
 * From whom access rules kept what is not in the index any more, removed or destroyed: the rules that found a document then are
 * noted with it, since nothing can be asked of it now.
 */
final readonly class Withheld
{
    private const NOTED = 'withheld_by';

    /** @param  list<string>  $against  codes of the rules that keep documents from the person */
    private function __construct(private array $against)
    {
    }

    public static function from(User $user, Rights $rights): self
    {
        return new self($rights->rulesAgainst($user));
    }

    /** @return list<string> the codes of the rules that kept a removed document from somebody */
    public static function of(Document $document): array
    {
        return $document->trashed() ? $document->withheld_by ?? [] : [];
    }

    /**
     * What the history says of them with the end of a document.
     *
     * @param  list<string>  $rules
     * @return array<string, list<string>>
     */
    public static function noted(array $rules): array
    {
        return $rules === [] ? [] : [self::NOTED => array_values(array_unique($rules))];
    }

    /**
     * Those of some documents that were kept from the person when they were removed or destroyed.
     *
     * @param  list<int>  $ids  of documents that are not in the index
     * @return array<int, true>
     */
    public function among(array $ids): array
    {
        if ($this->against === []) {
            return [];
        }
        $kept = [];
        $removed = Document::query()->onlyTrashed()->whereIntegerInRaw('id', $ids)->whereNotNull(self::NOTED)->get(['id', 'deleted_at', self::NOTED]);
        foreach ($removed as $document) {
            array_intersect(self::of($document), $this->against) === [] || ($kept[$document->id] = true);
        }
        $destroyed = DB::table('history')->whereIntegerInRaw('document_id', $ids)->where('act', Act::Destroyed->value)->get(['document_id', 'detail']);
        foreach ($destroyed as $entry) {
            $rules = (array) (json_decode((string) $entry->detail, true)[self::NOTED] ?? []);
            array_intersect($rules, $this->against) === [] || ($kept[(int) $entry->document_id] = true);
        }

        return $kept;
    }
}
