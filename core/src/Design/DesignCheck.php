<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Query\SyntaxError;
use Brenvic\Core\Search\SearchError;
use Brenvic\Core\Search\SearchSchema;

/** Says whether the parts of a design work and fit together. */
final readonly class DesignCheck
{
    /** What views may show and sort by besides fields. */
    private const BUILT_IN = ['title', 'path'];

    /** @param  array<string, FieldDefinition>  $systemFields  the fields that are always there, by code */
    public function __construct(
        private Design $design,
        private array $systemFields,
    ) {
    }

    /** @throws InvalidDefinition naming the property at fault */
    public function part(DesignKind $kind, string $code): void
    {
        $content = $this->design->part($kind, $code);
        if ($content === null) {
            return;
        }
        match ($kind) {
            DesignKind::Repository => null,
            DesignKind::Vocabulary => $this->design->vocabulary($code),
            DesignKind::Field => $this->field($code, $content),
            DesignKind::Type => $this->type($content),
            DesignKind::Library => $this->library($content),
            DesignKind::View => $this->view($content),
        };
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
                    $faults[] = ['kind' => $kind->value, 'code' => (string) $code, 'property' => $fault->property, 'message' => $fault->getMessage()];
                }
            }
        }

        return $faults;
    }

    /** @return list<string> the parts that refer to a part, as people call them */
    public function usersOf(DesignKind $kind, string $code): array
    {
        // Kind that refers, the property by which, and the key within its entries.
        $references = match ($kind) {
            DesignKind::Vocabulary => [[DesignKind::Field, 'vocabulary', '']],
            DesignKind::Field => [[DesignKind::Type, 'fields', 'code'], [DesignKind::View, 'columns', ''], [DesignKind::View, 'sort', 'field'], [DesignKind::View, 'levels', 'field']],
            DesignKind::Type => [[DesignKind::Library, 'types', '']],
            DesignKind::Repository => [[DesignKind::Library, 'repository', '']],
            default => [],
        };
        $users = [];
        foreach ($references as [$of, $property, $key]) {
            foreach ($this->design->all($of) as $name => $content) {
                if (($content[$property] ?? null) === $code || in_array($code, Design::codes($content, $property, $key), true)) {
                    $users[] = "the {$of->one()} “".Design::nameOf($of, (string) $name, $content).'”';
                }
            }
        }

        return array_values(array_unique($users));
    }

    /** @param  array<string, mixed>  $content */
    private function field(string $code, array $content): void
    {
        $vocabulary = $content['vocabulary'] ?? null;
        if (is_string($vocabulary) && $vocabulary !== '' && $this->design->part(DesignKind::Vocabulary, $vocabulary) === null) {
            throw new InvalidDefinition('vocabulary', "There is no vocabulary “{$vocabulary}”.");
        }
        $this->design->field($code);
    }

    /** @param  array<string, mixed>  $content */
    private function type(array $content): void
    {
        $codes = Design::codes($content, 'fields', 'code');
        foreach ($codes as $code) {
            if ($this->design->part(DesignKind::Field, $code) === null) {
                throw new InvalidDefinition('fields', "There is no field “{$code}”.");
            }
        }
        $pattern = is_string($content['title_pattern'] ?? null) ? $content['title_pattern'] : '';
        $unknown = array_diff((new TitlePattern($pattern))->fields(), $codes);
        if ($unknown !== []) {
            throw new InvalidDefinition('title_pattern', 'The title names {'.implode('}, {', $unknown).'}, which this type does not have.');
        }
    }

    /** @param  array<string, mixed>  $content */
    private function library(array $content): void
    {
        $repository = is_string($content['repository'] ?? null) ? $content['repository'] : '';
        if ($this->design->part(DesignKind::Repository, $repository) === null) {
            throw new InvalidDefinition('repository', "There is no repository “{$repository}”.");
        }
        foreach (Design::codes($content, 'types') as $code) {
            if ($this->design->part(DesignKind::Type, $code) === null) {
                throw new InvalidDefinition('types', "There is no document type “{$code}”.");
            }
        }
    }

    /** @param  array<string, mixed>  $content */
    private function view(array $content): void
    {
        foreach (['columns' => Design::codes($content, 'columns'), 'sort' => Design::codes($content, 'sort', 'field'), 'levels' => Design::codes($content, 'levels', 'field')] as $property => $codes) {
            foreach ($codes as $code) {
                if (! in_array($code, self::BUILT_IN, true) && ! isset($this->systemFields[$code]) && $this->design->part(DesignKind::Field, $code) === null) {
                    throw new InvalidDefinition($property, "There is no field “{$code}”.");
                }
            }
        }
        $total = $content['total'] ?? null;
        $field = is_string($total) ? $this->systemFields[$total] ?? $this->design->field($total) : null;
        if ($total !== null && ($field === null || $field->kind !== FieldKind::Number)) {
            throw new InvalidDefinition('total', 'Only a number field can be summed up.');
        }
        try {
            $criterion = is_string($content['criterion'] ?? null) ? $content['criterion'] : '';
            self::names(Parser::parse($criterion)->root, new SearchSchema([...$this->systemFields, ...$this->design->fields()]), []);
        } catch (SyntaxError|SearchError $fault) {
            throw new InvalidDefinition('criterion', $fault->getMessage());
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
