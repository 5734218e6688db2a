<?php

declare(strict_types=1);

namespace App\Design;

use App\Models\Dossier;
use App\Models\Library;
use App\Models\User;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Criterion;
use Illuminate\Support\Collection;

/**
 * What a person may know of by name: the libraries they may enter, the repositories and document types of these, and the
 * kinds of the dossiers in them. Those who design know all. What somebody does not know does not exist for them, in lists,
 * criteria and messages alike.
 */
final readonly class Known
{
    /**
     * @param  list<string>  $libraries  codes
     * @param  list<string>  $repositories  codes
     * @param  list<string>  $types  codes
     * @param  list<string>  $dossierKinds  codes
     */
    private function __construct(
        public array $libraries,
        public array $repositories,
        public array $types,
        public array $dossierKinds,
    ) {
    }

    /**
     * @param  Collection<int, Library>  $libraries  all, by id
     * @return self|null null for who knows all
     */
    public static function to(User $user, Catalog $catalog, Collection $libraries): ?self
    {
        if ($user->role->mayDesign()) {
            return null;
        }
        $design = $catalog->design();
        $entered = array_values($libraries->only(array_keys($user->libraryRights()))->map(static fn (Library $l): string => $l->code)->all());
        $parts = array_map(static fn (string $code): array => $design->part(DesignKind::Library, $code) ?? [], $entered);
        $kinds = $user->role->mayFile()
            ? array_map(strval(...), array_keys($design->all(DesignKind::DossierKind)))
            : array_values(Dossier::query()->whereIntegerInRaw('library_id', array_keys($user->libraryRights()))->distinct()->pluck('kind')->all());

        return new self(
            $entered,
            array_values(array_unique(array_filter(array_map(static fn (array $part): string => (string) ($part['repository'] ?? ''), $parts)))),
            array_values(array_unique(array_merge([], ...array_map(static fn (array $part): array => (array) ($part['types'] ?? []), $parts)))),
            $kinds,
        );
    }

    /**
     * Whether a query names a library, repository, type or dossier kind that there is and that is not known: who reads the
     * query would learn of it.
     *
     * @param  array<string, FieldDefinition>  $all  the system fields with all their values
     */
    public function isBetrayedBy(Node $node, array $all): bool
    {
        if ($node instanceof PrefixNode) {
            return $this->isBetrayedBy($node->inner, $all);
        }
        if ($node instanceof BooleanNode) {
            return $this->isBetrayedBy($node->left, $all) || $this->isBetrayedBy($node->right, $all);
        }
        if (! $node instanceof SearchClause || $node->term === '') {
            return false;
        }
        $name = mb_strtolower((string) preg_replace('/^.*\./s', '', $node->index));
        $known = $this->byField()[$name] ?? null;
        if ($known === null) {
            return false;
        }
        foreach ([$node->term, ...preg_split('/\s+/', $node->term, -1, PREG_SPLIT_NO_EMPTY) ?: []] as $term) {
            $code = $all[$name]->vocabulary?->resolve(Criterion::unescaped($term));
            if ($code !== null && ! in_array($code, $known, true)) {
                return true;
            }
        }

        return false;
    }

    /** @return array<string, list<string>> what may be named as a value, by the code of the system field */
    public function byField(): array
    {
        return ['library' => $this->libraries, 'repository' => $this->repositories, 'type' => $this->types, 'dossier_kind' => $this->dossierKinds];
    }
}
