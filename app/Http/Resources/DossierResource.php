<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Catalog\Catalog;
use App\Dossiers\DossierFiling;
use App\Find\Places;
use App\Models\Dossier;
use App\Models\DossierSection;
use App\Models\Right;
use App\Models\User;
use Brenvic\Core\Design\DossierKindPart;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\SearchClause;

/** Shapes dossiers for the API. */
final readonly class DossierResource
{
    public function __construct(private Catalog $catalog, private DossierFiling $filing, private Places $places)
    {
    }

    /** @return array<string, mixed> */
    public function of(Dossier $dossier, User $user): array
    {
        $shown = $this->catalog->fieldsShownTo($user);
        $values = [];
        foreach ($this->filing->present($dossier) as $code => $list) {
            $field = $shown[$code] ?? null;
            if ($field !== null) {
                $values[$code] = array_map(
                    static fn (string $value): array => ['value' => $value, 'label' => $field->display($value)],
                    $list,
                );
            }
        }
        $library = $this->catalog->libraries()->get($dossier->library_id);

        return [
            'ref' => $dossier->ref,
            'title' => $dossier->title,
            'kind' => ['code' => $dossier->kind, 'name' => $this->kind($dossier)],
            'library' => ['code' => $library->code ?? '', 'name' => $library->name ?? ''],
            'values' => (object) $values,
            'sections' => $dossier
                ->sections()
                ->get()
                ->map(static fn (DossierSection $s): array => ['id' => $s->id, 'name' => $s->name])
                ->all(),
            'inside' => (object) $this->filing->inside($dossier, $user),
            'cql' => self::cql($dossier->ref),
            'closed_at' => $dossier->closed_at?->toIso8601String(),
            'lock_version' => $dossier->lock_version,
            'may_change' => $user->may(Right::Change) && ($user->libraryRights()[$dossier->library_id] ?? false),
        ];
    }

    /**
     * @param  iterable<Dossier>  $dossiers
     * @return list<array<string, mixed>>
     */
    public function rows(iterable $dossiers, User $user): array
    {
        $criteria = $rows = [];
        foreach ($dossiers as $dossier) {
            $criteria[$dossier->ref] = self::cql($dossier->ref);
        }
        $counts = $this->places->counts($user, $criteria);
        foreach ($dossiers as $dossier) {
            $rows[] = [
                'ref' => $dossier->ref,
                'title' => $dossier->title,
                'kind' => $this->kind($dossier),
                'library' => $this->catalog->libraries()->get($dossier->library_id)->name ?? '',
                'documents' => $counts[$dossier->ref] ?? 0,
            ];
        }

        return $rows;
    }

    private function kind(Dossier $dossier): string
    {
        return $this->catalog->design()->one(DossierKindPart::class, $dossier->kind)?->calledBy() ?? $dossier->kind;
    }

    private static function cql(string $ref): string
    {
        return Printer::node(new SearchClause('dossier', '==', $ref));
    }
}
