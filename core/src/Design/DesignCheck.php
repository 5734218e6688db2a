<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\Asking\SearchError;
use Brenvic\Core\Search\Asking\SearchSchema;

/** Says whether the parts of a design work and fit together. */
final readonly class DesignCheck
{
    /**
     * @param  array<string, FieldDefinition>  $systemFields  the fields that are always there, by code
     * @param  list<string>|null  $allGroups  the groups there are; null when that is not known
     * @param  list<string>|null  $designing  those of them with somebody who designs
     */
    public function __construct(
        public Design $design,
        private array $systemFields,
        private ?array $allGroups = null,
        private ?array $designing = null,
    ) {
    }

    /** @throws InvalidDefinition naming the property at fault */
    public function part(DesignKind $kind, string $code): void
    {
        $this->design->one($kind->part(), $code)?->check($this);
    }

    /**
     * Everything at once.
     *
     * @return list<array{kind: string, code: string, property: string, message: string}>
     */
    public function faults(): array
    {
        $faults = [];
        foreach (DesignKind::cases() as $kind) {
            foreach (array_keys($this->design->all($kind)) as $code) {
                try {
                    $this->part($kind, (string) $code);
                } catch (InvalidDefinition $fault) {
                    $faults[] = [
                        'kind' => $kind->value,
                        'code' => (string) $code,
                        'property' => $fault->property,
                        'message' => $fault->getMessage(),
                    ];
                }
            }
        }

        return $faults;
    }

    /** @return list<Part> the parts that refer to a part */
    public function references(DesignKind $kind, string $code): array
    {
        $users = [];
        foreach (DesignKind::cases() as $of) {
            foreach ($this->design->parts($of->part()) as $part) {
                if (in_array([$kind, $code], $part->refersTo(), true)) {
                    $users[] = $part;
                }
            }
        }

        return $users;
    }

    /**
     * @param  class-string<Part>  ...$of
     * @return list<array{DesignKind, string}> those of some kinds that refer to a part, by kind and code
     */
    public function users(Part $part, string ...$of): array
    {
        return array_values(
            array_map(
                static fn (Part $user): array => [$user::kind(), $user->code],
                array_filter(
                    $this->references($part::kind(), $part->code),
                    static fn (Part $user): bool => in_array($user::class, $of, true),
                ),
            ),
        );
    }

    /** @return list<string> the parts that refer to a part, as people call them */
    public function usersOf(DesignKind $kind, string $code): array
    {
        return array_map(static fn (Part $user): string => "the {$user::kind()->one()} “{$user->calledBy()}”", $this->references($kind, $code));
    }

    /**
     * What nobody could change any more would stay as it is for good.
     *
     * @param  list<string>  $designers
     *
     * @throws InvalidDefinition
     */
    public function designers(array $designers): void
    {
        $this->groups($designers, 'designers');
        if ($designers !== [] && $this->designing !== null && array_intersect($designers, $this->designing) === []) {
            throw new InvalidDefinition(
                'designers',
                'Nobody who designs is in '.
                    (count($designers) === 1 ? 'this group' : 'these groups').
                    '. Choose a group with a librarian in it.',
            );
        }
    }

    /** @throws InvalidDefinition */
    public function entry(SheetEntry $entry): void
    {
        $field = $this->design->field($entry->code);
        if ($field === null) {
            return;
        }
        try {
            $field->parse($entry->default);
        } catch (InvalidValue $fault) {
            throw new InvalidDefinition('fields', "The default of {$field->label} cannot be given: {$fault->getMessage()}");
        }
        if ($entry->below !== null && ! isset($field->vocabulary->terms[$entry->below])) {
            throw new InvalidDefinition('fields', "{$field->label} has no term “{$entry->below}”.");
        }
        if ($entry->isReadOnly && $entry->isRequired && $entry->default === '' && $field->default === '') {
            throw new InvalidDefinition(
                'fields',
                "{$field->label} is required and read-only, and has no default: nobody could fill it in.",
            );
        }
    }

    /**
     * @param  list<string>  $codes  of the fields that it may name
     *
     * @throws InvalidDefinition
     */
    public function title(string $pattern, array $codes): void
    {
        $unknown = array_diff((new TitlePattern($pattern))->fields(), $codes);
        if ($unknown !== []) {
            throw new InvalidDefinition(
                'title_pattern',
                'The title names {'.implode('}, {', $unknown).'}, which this type does not have.',
            );
        }
    }

    /** A field, be it of the design or one of those that are always there. */
    public function field(string $code): ?FieldDefinition
    {
        return $this->systemFields[$code] ?? $this->design->field($code);
    }

    /** @throws InvalidDefinition */
    public function criterion(string $cql, string $property = 'criterion'): void
    {
        try {
            self::names(Parser::parse($cql)->root, new SearchSchema([...$this->systemFields, ...$this->design->fields()]), []);
        } catch (SyntaxError|SearchError $fault) {
            throw new InvalidDefinition($property, $fault->getMessage());
        }
    }

    /**
     * @param  list<string>  $codes
     *
     * @throws InvalidDefinition
     */
    public function fields(array $codes, string $property): void
    {
        foreach ($codes as $code) {
            if (! isset($this->systemFields[$code]) && $this->design->part(DesignKind::Field, $code) === null) {
                throw new InvalidDefinition($property, "There is no field “{$code}”.");
            }
        }
    }

    /**
     * @param  list<string>  $codes
     *
     * @throws InvalidDefinition
     */
    public function parts(DesignKind $kind, array $codes, string $property): void
    {
        foreach ($codes as $code) {
            if ($this->design->part($kind, $code) === null) {
                throw new InvalidDefinition($property, "There is no {$kind->one()} “{$code}”.");
            }
        }
    }

    /**
     * @param  list<string>  $groups
     *
     * @throws InvalidDefinition
     */
    public function groups(array $groups, string $property): void
    {
        foreach ($this->allGroups === null ? [] : array_diff($groups, $this->allGroups) as $group) {
            throw new InvalidDefinition($property, "There is no group “{$group}”.");
        }
    }

    /**
     * @param  list<string>  $codes
     *
     * @throws InvalidDefinition
     */
    public static function once(array $codes, string $property, string $what): void
    {
        $double = array_diff_key($codes, array_unique($codes));
        if ($double !== []) {
            throw new InvalidDefinition($property, "The {$what} “".reset($double).'” appears twice.');
        }
    }

    /**
     * Looks up every name in a query.
     *
     * @param  array<string, string>  $prefixes
     *
     * @throws SearchError
     */
    private static function names(Node $node, SearchSchema $schema, array $prefixes): void
    {
        if ($node instanceof BooleanNode) {
            self::names($node->left, $schema, $prefixes);
            self::names($node->right, $schema, $prefixes);
        } elseif ($node instanceof PrefixNode) {
            self::names($node->inner, $schema, [...$prefixes, $node->prefix => SearchSchema::contextSet($node->uri)]);
        } elseif ($node instanceof SearchClause && $node->index !== SearchClause::EVERYTHING) {
            $schema->resolve($node->index, $prefixes);
        }
    }
}
