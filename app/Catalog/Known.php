<?php

declare(strict_types=1);

namespace App\Catalog;

use App\Models\Dossier;
use App\Models\Library;
use App\Models\Right;
use App\Models\User;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\DossierKindPart;
use Brenvic\Core\Design\FieldPart;
use Brenvic\Core\Design\LibraryPart;
use Brenvic\Core\Design\ProcedurePart;
use Brenvic\Core\Design\ReadingPart;
use Brenvic\Core\Design\RetentionOfDesign;
use Brenvic\Core\Design\TypePart;
use Brenvic\Core\Design\VocabularyPart;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\Criterion;
use Brenvic\Core\Search\Filing\Standing;
use Illuminate\Support\Collection;

/**
 * What a person may know of by name: the libraries they may enter, the repositories and document types of these, the
 * kinds of the dossiers in them, and the fields and vocabularies that stand on sheets of no other types and kinds. Those
 * who design know all. What somebody does not know does not exist for them, in lists, criteria and messages alike.
 */
final readonly class Known
{
    /**
     * @param  list<string>  $libraries  codes
     * @param  list<string>  $repositories  codes
     * @param  list<string>  $types  codes
     * @param  list<string>  $dossierKinds  codes
     * @param  list<string>  $procedures  codes
     * @param  list<string>  $steps  as they are values
     * @param  list<string>  $decisions  as they are values
     * @param  list<string>  $retentionRules  as they are values
     * @param  list<string>  $hiddenFields  codes of those that they may not know of
     * @param  list<string>  $hiddenVocabularies  codes
     */
    private function __construct(
        public array $libraries,
        public array $repositories,
        public array $types,
        public array $dossierKinds,
        public array $procedures,
        private array $steps,
        private array $decisions,
        private array $retentionRules,
        private array $hiddenFields,
        private array $hiddenVocabularies,
    ) {
    }

    /**
     * @param  Collection<int, Library>  $libraries  all, by id
     * @return self|null null for who knows all
     */
    public static function to(User $user, Design $design, Collection $libraries): ?self
    {
        if ($user->may(Right::Design)) {
            return null;
        }
        $entered = array_values(
            $libraries->only(array_keys($user->libraryRights()))->map(static fn (Library $l): string => $l->code)->all(),
        );
        $parts = array_values(array_intersect_key($design->parts(LibraryPart::class), array_flip($entered)));
        $kinds = $user->may(Right::File)
            ? array_map(strval(...), array_keys($design->all(DesignKind::DossierKind)))
            : array_values(
                Dossier::query()->whereIntegerInRaw('library_id', array_keys($user->libraryRights()))->distinct()->pluck('kind')->all(),
            );

        $types = array_values(
            array_unique(array_merge([], ...array_map(static fn (LibraryPart $part): array => $part->types, $parts))),
        );
        $procedures = array_filter(
            $design->parts(ProcedurePart::class),
            static fn (ProcedurePart $part): bool => $part->types === [] || array_intersect($part->types, $types) !== [],
        );
        $steps = $decisions = [];
        foreach ($procedures as $part) {
            foreach ($part->procedure->steps as $step) {
                $steps[] = Standing::named($part->code, $step->code);
                foreach (array_keys($step->ways()) as $decision) {
                    $decisions[] = Standing::named($part->code, (string) $decision);
                }
            }
        }
        $hidden = self::onlyOn($design, $types, $kinds);
        $secret = self::onlyOf($design, $hidden);

        return new self(
            $entered,
            array_values(
                array_unique(array_map(static fn (LibraryPart $part): string => $part->repository, $parts)),
            ),
            $types,
            $kinds,
            array_map(strval(...), array_keys($procedures)),
            $steps,
            $decisions,
            self::rulesOf($design, $types, $kinds, array_map(strval(...), array_keys($procedures)), $hidden, $secret),
            $hidden,
            $secret,
        );
    }

    /**
     * Retention rules that speak of nothing which somebody does not know of.
     *
     * @param  list<string>  $types
     * @param  list<string>  $kinds
     * @param  list<string>  $procedures
     * @param  list<string>  $hidden  fields
     * @param  list<string>  $secret  vocabularies
     * @return list<string>
     */
    private static function rulesOf(Design $design, array $types, array $kinds, array $procedures, array $hidden, array $secret): array
    {
        $isKnown = static function (?array $rule) use ($kinds, $procedures, $hidden): bool {
            foreach (RetentionOfDesign::refersTo($rule) as [$kind, $code]) {
                $isOf = match ($kind) {
                    DesignKind::DossierKind => in_array($code, $kinds, true),
                    DesignKind::Procedure => in_array($code, $procedures, true),
                    default => ! in_array($code, $hidden, true),
                };
                if (! $isOf) {
                    return false;
                }
            }

            return $rule !== null;
        };
        $rules = [];
        foreach (array_intersect_key($design->parts(TypePart::class), array_flip($types)) as $part) {
            $rules[] = $isKnown($part->retention) ? "type.{$part->code}" : null;
        }
        foreach (array_intersect_key($design->parts(DossierKindPart::class), array_flip($kinds)) as $part) {
            $rules[] = $isKnown($part->retention) ? "dossier.{$part->code}" : null;
        }
        foreach (array_diff_key($design->parts(VocabularyPart::class), array_flip($secret)) as $part) {
            foreach ($part->terms as $term) {
                $code = is_string($term['code'] ?? null) ? $term['code'] : '';
                $rules[] = $isKnown(RetentionOfDesign::in($term)) ? "concept.{$part->code}.{$code}" : null;
            }
        }

        return array_values(array_filter($rules));
    }

    public function hidesField(string $code): bool
    {
        return in_array($code, $this->hiddenFields, true);
    }

    public function hidesVocabulary(string $code): bool
    {
        return in_array($code, $this->hiddenVocabularies, true);
    }

    /**
     * Fields that stand on sheets, and on none of these types and kinds of dossiers.
     *
     * @param  list<string>  $types
     * @param  list<string>  $kinds
     * @return list<string>
     */
    private static function onlyOn(Design $design, array $types, array $kinds): array
    {
        $known = $other = [];
        foreach ([[TypePart::class, $types], [DossierKindPart::class, $kinds]] as [$class, $codes]) {
            foreach ($design->parts($class) as $part) {
                $fields = array_fill_keys($part->fieldCodes(), true);
                in_array($part->code, $codes, true) ? ($known += $fields) : ($other += $fields);
            }
        }

        // What is read out of texts of some types is as little known as these.
        foreach ($design->parts(ReadingPart::class) as $rule) {
            if ($rule->isMention && $rule->types !== []) {
                array_intersect($rule->types, $types) === [] ? ($other[$rule->field] = true) : ($known[$rule->field] = true);
            }
        }

        return array_map(strval(...), array_keys(array_diff_key($other, $known)));
    }

    /**
     * Vocabularies that some of these fields choose from, and no other field.
     *
     * @param  list<string>  $fields
     * @return list<string>
     */
    private static function onlyOf(Design $design, array $fields): array
    {
        $known = $other = [];
        foreach ($design->parts(FieldPart::class) as $field) {
            if ($field->vocabulary !== null) {
                in_array($field->code, $fields, true) ? ($other[] = $field->vocabulary) : ($known[] = $field->vocabulary);
            }
        }

        return array_values(array_unique(array_diff($other, $known)));
    }

    /**
     * Whether a query names a field, library, repository, type or dossier kind that there is and that is not known: who reads
     * the query would learn of it.
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
        if (! ($node instanceof SearchClause)) {
            return false;
        }
        $name = mb_strtolower((string) preg_replace('/^.*\./s', '', $node->index));
        if ($this->hidesField($name)) {
            return true;
        }
        $known = $this->byField()[$name] ?? null;
        if ($known === null || $node->term === '') {
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
        return [
            'library' => $this->libraries,
            'repository' => $this->repositories,
            'type' => $this->types,
            'dossier_kind' => $this->dossierKinds,
            'procedure' => $this->procedures,
            'procedure_step' => $this->steps,
            'procedure_decision' => $this->decisions,
            'retention_rule' => $this->retentionRules,
        ];
    }
}
