<?php

declare(strict_types=1);

namespace App\Intake;

use App\Access\Rights;
use App\Models\Document;
use App\Models\Dossier;
use App\Models\User;
use App\Support\Column;
use Brenvic\Core\Design\IndexSheet;
use Brenvic\Core\Fields\Kinds\ReferenceKind;

/** Whether the documents and dossiers that a sheet refers to exist. */
final readonly class References
{
    public function __construct(private Rights $rights)
    {
    }

    /**
     * @param  array<string, list<string>>  $values  normal forms by field code
     * @param  User|null  $by  who gives them: what they may not see is not there for them; null for who sees all
     * @param  array<string, list<string>>|null  $present  what is there already, which may stay
     * @return array<string, string> faults by field code
     */
    public function faults(IndexSheet $sheet, array $values, ?User $by, ?array $present = null): array
    {
        $faults = [];
        foreach ($sheet->fields as $field) {
            $given =
                $field->kind instanceof ReferenceKind
                    ? array_values(array_diff($values[$field->code] ?? [], $present[$field->code] ?? []))
                    : [];
            if ($given === []) {
                continue;
            }
            $known = $field->refersTo === 'dossier' ? self::dossiers($given, $by) : $this->documents($given, $by);
            foreach (array_diff($given, $known) as $unknown) {
                $faults[$field->code] = "There is no {$field->refersTo} {$unknown}.";
            }
        }

        return $faults;
    }

    /**
     * @param  list<string>  $refs
     * @return list<string>
     */
    private function documents(array $refs, ?User $by): array
    {
        $found = Document::query()->whereIn('ref', $refs)->get();
        $seen = $by === null ? $found : $found->filter(fn (Document $document): bool => $this->rights->sees($by, $document));

        return Column::texts($seen->pluck('ref'));
    }

    /**
     * @param  list<string>  $refs
     * @return list<string>
     */
    private static function dossiers(array $refs, ?User $by): array
    {
        $found = Dossier::query()->whereIn('ref', $refs);

        return array_values(
            ($by === null ? $found : $found->whereIntegerInRaw('library_id', array_keys($by->libraryRights())))->pluck('ref')->all(),
        );
    }
}
