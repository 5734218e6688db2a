<?php

declare(strict_types=1);

namespace App\People;

use App\Access\Change;
use App\Access\Changing;
use App\Access\Rights;
use App\Catalog\Catalog;
use App\Models\Document;
use App\Models\Right;
use App\Models\User;
use App\Redaction\Redactions;
use Brenvic\Core\Design\AccessRule;
use Brenvic\Core\Design\LibraryPart;

/**
 * Why somebody may read a document, or change it, or why not: every condition with whether it holds, in the order in which it is asked.
 * What comes out is held in tests against what `Rights` and `Changing` decide.
 */
final readonly class Reasons
{
    public function __construct(
        private Catalog $catalog,
        private Rights $rights,
        private Changing $changing,
        private Redactions $redactions,
    ) {
    }

    /** @return array{reads: bool, changes: bool, reading: list<array{holds: bool, says: string}>, changing: list<array{holds: bool, says: string}>} */
    public function of(User $person, Document $document): array
    {
        $rules = $this->rights->rulesAbout($document);
        $library = $this->catalog->libraries()->get($document->library_id);
        $part = $this->catalog->design()->parts(LibraryPart::class)[$library->code ?? ''] ?? null;
        $called = $part->name ?? $library->name ?? '';
        $reading = [
            $person->out_of_use_at === null ? null : [false, 'They are out of use.'],
            $this->byRole($person, Right::Read),
            $this->byGroups($person, $part?->memberGroups() ?? [], "enters the library “{$called}”", "The library “{$called}” is open to"),
            ...$this->byRules($person, $rules, 'see', 'read'),
            $this->redactions->binds($person, $document) ? [true, 'They see the redacted copy only.'] : null,
        ];
        $changers = array_keys(array_filter($part->members ?? []));
        $changing = [
            $this->byRole($person, Right::Change),
            $this->byGroups($person, array_map(strval(...), $changers), "changes what is in “{$called}”", "In “{$called}” only these change anything:"),
            ...$this->byRules($person, $rules, 'change', 'change'),
        ];
        $hindrance = $this->changing->hindrance($person, $document, Change::Values);
        if ($hindrance !== null && ! $hindrance->kind->isOfPerson()) {
            $changing[] = [false, $hindrance->words];
        }
        $reading = array_values(array_filter($reading));
        $reads = array_filter($reading, static fn (array $of): bool => ! $of[0]) === [];

        return [
            'reads' => $reads,
            'changes' => $reads && array_filter($changing, static fn (array $of): bool => ! $of[0]) === [],
            'reading' => self::told($reading),
            'changing' => self::told($changing),
        ];
    }

    /** @return array{bool, string} */
    private function byRole(User $person, Right $right): array
    {
        $has = $person->may($right);

        return [$has, "The role {$person->role->name} has ".($has ? '' : 'not ')."the right “{$right->label()}”."];
    }

    /**
     * @param  list<string>  $groups  any of which is enough
     * @return array{bool, string}
     */
    private function byGroups(User $person, array $groups, string $does, string $openTo): array
    {
        foreach ($groups as $group) {
            $way = Groups::way($person, $group);
            if ($way !== []) {
                $through = count($way) > 1 ? ', in which “'.implode('” and “', array_slice($way, 0, -1)).'” is' : '';

                return [true, "The group “{$group}” {$does}; they are in it{$through}."];
            }
        }

        return [false, $groups === [] ? "{$openTo} nobody." : "{$openTo} ".implode(', ', $groups).'; they are in none of these.'];
    }

    /**
     * @param  list<AccessRule>  $rules  about the document
     * @return list<array{bool, string}>
     */
    private function byRules(User $person, array $rules, string $act, string $do): array
    {
        $reasons = [];
        foreach ($rules as $rule) {
            if (in_array($act, $rule->acts, true)) {
                $keeps = $rule->withholds($act, $person->groupNames());
                $for = $rule->groups() === [] ? 'nobody' : implode(', ', $rule->groups());
                $reasons[] = [! $keeps, "The rule “{$rule->name}” is about it and lets {$for} {$do} it; they are ".($keeps ? 'not ' : '').'among them.'];
            }
        }

        return $reasons;
    }

    /**
     * @param  list<array{bool, string}>  $reasons
     * @return list<array{holds: bool, says: string}>
     */
    private static function told(array $reasons): array
    {
        return array_map(static fn (array $of): array => ['holds' => $of[0], 'says' => $of[1]], $reasons);
    }
}
