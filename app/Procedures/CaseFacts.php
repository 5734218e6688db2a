<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Models\Document;
use App\Models\User;
use App\Support\Column;
use Brenvic\Core\Procedures\Asking\Audience;
use Brenvic\Core\Procedures\Asking\CannotTell;
use Brenvic\Core\Procedures\Asking\Facts;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\Asking\SearchError;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** What a procedure asks about a document and the people around it, answered from the tables and the index. */
final readonly class CaseFacts implements Facts
{
    public function __construct(private Document $document, private Rights $rights, private Catalog $catalog)
    {
    }

    public function holds(string $criterion): bool
    {
        try {
            return $this->rights->matches($this->document, $criterion);
        } catch (SyntaxError|SearchError $fault) {
            throw new CannotTell("“{$criterion}” cannot be asked any more: {$fault->getMessage()}");
        }
    }

    public function hasMembers(string $group): bool
    {
        return User::among([$group])->exists();
    }

    public function person(string $signIn): ?int
    {
        $id = self::inUse()->where('sign_in', $signIn)->value('id');

        return $id === null ? null : (int) $id;
    }

    public function inField(string $code): array
    {
        return self::named(
            DB::table('effective_values')
                ->where('document_id', $this->document->id)
                ->where('field_id', $this->catalog->fieldIds()[$code] ?? 0)
                ->select('value'),
        );
    }

    public function inDossiers(string $code): array
    {
        return self::named(
            DB::table('dossier_values')
                ->whereIn('dossier_id', DB::table('document_dossier')->where('document_id', $this->document->id)->select('dossier_id'))
                ->where('field_id', $this->catalog->fieldIds()[$code] ?? 0)
                ->select('value'),
        );
    }

    public function managers(array $people): array
    {
        return Column::numbers(
            self::inUse()->whereIn('id', DB::table('users')->whereIntegerInRaw('id', $people)->select('manager_id'))->orderBy('id')->pluck('id'),
        );
    }

    public function filer(): ?int
    {
        $filer = DB::table('history')
            ->where('document_id', $this->document->id)
            ->where('act', 'filed')
            ->orderByDesc('id')
            ->value('user_id');

        return $filer === null ? $this->document->created_by : (int) $filer;
    }

    public function isIn(int $person, Audience $audience): bool
    {
        return in_array($person, $audience->people, true) ||
            ($audience->groups !== [] &&
                DB::table('memberships')
                    ->join('groups', 'groups.id', '=', 'group_id')
                    ->where('user_id', $person)
                    ->whereIn('groups.name', $audience->groups)
                    ->exists());
    }

    public function standsInFor(int $person): array
    {
        return Away::representedBy($person);
    }

    public function day(int $workingDays): string
    {
        return OfficeCalendar::after($workingDays);
    }

    private static function inUse(): Builder
    {
        return DB::table('users')->whereNull('out_of_use_at');
    }

    /** @return list<int> people in use by the names that a query gives */
    private static function named(Builder $names): array
    {
        return Column::numbers(self::inUse()->whereIn('name', $names)->orderBy('id')->pluck('id'));
    }
}
