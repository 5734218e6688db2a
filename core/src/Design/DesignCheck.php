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
    /** What views may show and sort by besides fields. */
    private const BUILT_IN = ['title', 'path'];

    /** By which properties parts refer to parts of a kind: the kind that refers, the property, and the key within its entries. */
    private const REFERENCES = [
        'vocabularies' => [[DesignKind::Field, 'vocabulary', '']],
        'fields' => [
            [DesignKind::Type, 'fields', 'code'],
            [DesignKind::View, 'columns', ''],
            [DesignKind::View, 'sort', 'field'],
            [DesignKind::View, 'levels', 'field'],
            [DesignKind::View, 'levels', 'total'],
            [DesignKind::DossierKind, 'fields', 'code'],
            [DesignKind::Form, 'fields', 'code'],
            [DesignKind::Table, 'key', ''],
            [DesignKind::Table, 'fills', ''],
            [DesignKind::Vocabulary, 'depends_on', ''],
        ],
        'types' => [[DesignKind::Library, 'types', ''], [DesignKind::DossierKind, 'types', ''], [DesignKind::Form, 'types', '']],
        'repositories' => [[DesignKind::Library, 'repository', '']],
        'libraries' => [[DesignKind::Form, 'libraries', '']],
        'views' => [[DesignKind::Library, 'view', ''], [DesignKind::DossierKind, 'view', ''], [DesignKind::DossierKind, 'list_view', '']],
    ];

    /**
     * @param  array<string, FieldDefinition>  $systemFields  the fields that are always there, by code
     * @param  list<string>|null  $groups  the groups there are; null when that is not known
     * @param  list<string>|null  $designing  those of them with somebody who designs
     */
    public function __construct(
        private Design $design,
        private array $systemFields,
        private ?array $groups = null,
        private ?array $designing = null,
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
            DesignKind::Repository => $this->repository($code, $content),
            DesignKind::Vocabulary => $this->vocabulary($code, $content),
            DesignKind::Field => $this->field($code, $content),
            DesignKind::Table => $this->table($content),
            DesignKind::Type => $this->type($content),
            DesignKind::Library => $this->library($content),
            DesignKind::View => $this->view($content),
            DesignKind::DossierKind => $this->dossierKind($content),
            DesignKind::Form => $this->form($content),
            DesignKind::Access => $this->access($content),
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

    /** @return list<array{kind: DesignKind, code: string, name: string}> the parts that refer to a part */
    public function references(DesignKind $kind, string $code): array
    {
        $users = [];
        foreach (self::REFERENCES[$kind->value] ?? [] as [$of, $property, $key]) {
            foreach ($this->design->all($of) as $name => $content) {
                if (($content[$property] ?? null) === $code || in_array($code, Design::codes($content, $property, $key), true)) {
                    $users["{$of->value}/{$name}"] = [
                        'kind' => $of,
                        'code' => (string) $name,
                        'name' => Design::nameOf($of, (string) $name, $content),
                    ];
                }
            }
        }

        return array_values($users);
    }

    /** @return list<string> the parts that refer to a part, as people call them */
    public function usersOf(DesignKind $kind, string $code): array
    {
        return array_map(static fn (array $user): string => "the {$user['kind']->one()} “{$user['name']}”", $this->references($kind, $code));
    }

    /** @param  array<string, mixed>  $content */
    private function vocabulary(string $code, array $content): void
    {
        $this->design->vocabulary($code);
        foreach (Design::entries($content, 'terms') as $term) {
            if (is_array($term['from'] ?? null)) {
                $this->criterion($term['from'], 'terms');
            }
        }
        $dependsOn = $content['depends_on'] ?? null;
        if (is_string($dependsOn)) {
            $this->fields([$dependsOn], 'depends_on');
            if ($this->design->part(DesignKind::Field, $dependsOn)['vocabulary'] ?? null) {
                return;
            }
            throw new InvalidDefinition('depends_on', 'A vocabulary depends on a choice field.');
        }
    }

    /** @param  array<string, mixed>  $content */
    private function field(string $code, array $content): void
    {
        $vocabulary = $content['vocabulary'] ?? null;
        if (is_string($vocabulary) && $vocabulary !== '' && $this->design->part(DesignKind::Vocabulary, $vocabulary) === null) {
            throw new InvalidDefinition('vocabulary', "There is no vocabulary “{$vocabulary}”.");
        }
        $field = $this->design->field($code);
        if ($field?->vocabulary?->dependsOn === $code) {
            throw new InvalidDefinition('vocabulary', 'The terms of this vocabulary depend on the field itself.');
        }
        foreach ($field->formerly ?? [] as $former) {
            if ($this->design->part(DesignKind::Field, $former) !== null) {
                throw new InvalidDefinition('formerly', "The field “{$former}” is still there.");
            }
        }
    }

    /** @param  array<string, mixed>  $content */
    private function table(array $content): void
    {
        $fills = Design::codes($content, 'fills');
        $this->fields([is_string($content['key'] ?? null) ? $content['key'] : ''], 'key');
        $this->fields($fills, 'fills');
        if (in_array($content['key'] ?? '', $fills, true)) {
            throw new InvalidDefinition('fills', 'The key cannot be one of the fields that it fills.');
        }
        foreach (is_array($content['rows'] ?? null) ? $content['rows'] : [] as $i => $row) {
            if (is_array($row) && count($row) !== count($fills) + 1) {
                throw new InvalidDefinition(
                    'rows',
                    'Row '.((int) $i + 1).' has '.count($row).' cells; the table has '.(count($fills) + 1).' columns.',
                );
            }
        }
        if (($content['source'] ?? 'rows') === 'outside' && count(Design::codes($content, 'columns')) !== count($fills) + 1) {
            throw new InvalidDefinition('columns', 'Name a column of the outside table for the key and for each field that is filled.');
        }
    }

    /**
     * What document types and dossier kinds have alike.
     *
     * @param  array<string, mixed>  $content
     */
    private function sheet(array $content): void
    {
        $codes = Design::codes($content, 'fields', 'code');
        $this->fields($codes, 'fields');
        self::once($codes, 'fields', 'field');
        $this->title($content, $codes);
        foreach (Design::entries($content, 'fields') as $entry) {
            $this->entry($entry);
        }
    }

    /** @param  array<string, mixed>  $content */
    private function type(array $content): void
    {
        $this->sheet($content);
        $this->known(Design::codes($content, 'filers'), 'filers');
        $this->designers($content);
    }

    /**
     * What nobody could change any more would stay as it is for good.
     *
     * @param  array<string, mixed>  $content
     */
    private function designers(array $content): void
    {
        $designers = Design::codes($content, 'designers');
        $this->known($designers, 'designers');
        if ($designers !== [] && $this->designing !== null && array_intersect($designers, $this->designing) === []) {
            throw new InvalidDefinition(
                'designers',
                'Nobody who designs is in '.
                    (count($designers) === 1 ? 'this group' : 'these groups').
                    '. Choose a group with a librarian in it.',
            );
        }
    }

    /** @param  array<string, mixed>  $entry  of the fields of a type or dossier kind */
    private function entry(array $entry): void
    {
        $field = $this->design->field(is_string($entry['code'] ?? null) ? $entry['code'] : '');
        $default = is_string($entry['default'] ?? null) ? $entry['default'] : '';
        if ($field === null) {
            return;
        }
        try {
            $field->parse($default);
        } catch (InvalidValue $fault) {
            throw new InvalidDefinition('fields', "The default of {$field->label} cannot be given: {$fault->getMessage()}");
        }
        $below = $entry['below'] ?? null;
        if (is_string($below) && ! isset($field->vocabulary->terms[$below])) {
            throw new InvalidDefinition('fields', "{$field->label} has no term “{$below}”.");
        }
        if (
            ($entry['read_only'] ?? false) === true &&
            ($entry['required'] ?? false) === true &&
            $default === '' &&
            $field->default === ''
        ) {
            throw new InvalidDefinition(
                'fields',
                "{$field->label} is required and read-only, and has no default: nobody could fill it in.",
            );
        }
    }

    /**
     * @param  array<string, mixed>  $content
     * @param  list<string>  $codes
     */
    private function title(array $content, array $codes): void
    {
        $pattern = is_string($content['title_pattern'] ?? null) ? $content['title_pattern'] : '';
        $unknown = array_diff((new TitlePattern($pattern))->fields(), $codes);
        if ($unknown !== []) {
            throw new InvalidDefinition(
                'title_pattern',
                'The title names {'.implode('}, {', $unknown).'}, which this type does not have.',
            );
        }
    }

    /** @param  array<string, mixed>  $content */
    private function repository(string $code, array $content): void
    {
        $address = is_string($content['address'] ?? null) ? $content['address'] : '';
        if ($address !== '') {
            $parts = parse_url($address);
            if (
                filter_var($address, FILTER_VALIDATE_URL) === false ||
                ! in_array(strtolower((string) ($parts['scheme'] ?? '')), ['http', 'https'], true) ||
                isset($parts['user']) ||
                isset($parts['fragment'])
            ) {
                throw new InvalidDefinition(
                    'address',
                    'The address of an SRU server begins with http:// or https://, and has no name or password in it.',
                );
            }
            $libraries = array_filter(
                $this->references(DesignKind::Repository, $code),
                static fn (array $of): bool => $of['kind'] === DesignKind::Library,
            );
            if ($libraries !== []) {
                throw new InvalidDefinition(
                    'address',
                    'What is in a remote repository stays there: move its libraries ('.
                        implode(', ', array_column($libraries, 'name')).
                        ') to another one first.',
                );
            }
        }
        $this->known(Design::codes($content, 'groups'), 'groups');
        $this->designers($content);
    }

    /** @param  array<string, mixed>  $content */
    private function library(array $content): void
    {
        $repository = is_string($content['repository'] ?? null) ? $content['repository'] : '';
        if ($this->design->part(DesignKind::Repository, $repository) === null) {
            throw new InvalidDefinition('repository', "There is no repository “{$repository}”.");
        }
        if ($this->design->isRemote($repository)) {
            throw new InvalidDefinition('repository', "“{$repository}” is a remote repository: it has no libraries here.");
        }
        $this->parts(DesignKind::Type, Design::codes($content, 'types'), 'types');
        $this->parts(DesignKind::View, Design::codes(['view' => array_filter([$content['view'] ?? null])], 'view'), 'view');
        $this->known(Design::codes($content, 'groups', 'group'), 'groups');
        $this->designers($content);
    }

    /** @param  array<string, mixed>  $content */
    private function view(array $content): void
    {
        foreach (
            [
                'columns' => Design::codes($content, 'columns'),
                'sort' => Design::codes($content, 'sort', 'field'),
                'levels' => Design::codes($content, 'levels', 'field'),
            ] as $property => $codes
        ) {
            foreach ($codes as $code) {
                if (! in_array($code, self::BUILT_IN, true)) {
                    $this->fields([$code], $property);
                }
            }
            self::once($codes, $property, 'column');
        }
        foreach (Design::codes($content, 'levels', 'total') as $total) {
            $field = $this->systemFields[$total] ?? $this->design->field($total);
            if ($field === null || ! $field->kind->isOrdered()) {
                throw new InvalidDefinition('levels', 'Only a number, amount or date can be summed up.');
            }
        }
        foreach (Design::entries($content, 'levels') as $level) {
            $total = is_string($level['total'] ?? null)
                ? $this->systemFields[$level['total']] ?? $this->design->field($level['total'])
                : null;
            if ($total !== null && ! $total->kind->hasSum() && ($level['total_as'] ?? 'sum') === 'sum') {
                throw new InvalidDefinition('levels', "Dates have no sum. Show {$total->label} from the lowest to the highest.");
            }
        }
        $this->known(Design::codes($content, 'groups'), 'groups');
        $this->criterion($content);
    }

    /** @param  array<string, mixed>  $content */
    private function dossierKind(array $content): void
    {
        $this->sheet($content);
        self::once(Design::codes($content, 'sections', 'code'), 'sections', 'section');
        $this->parts(DesignKind::Type, Design::codes($content, 'types'), 'types');
        foreach (['view', 'list_view'] as $property) {
            $this->parts(DesignKind::View, Design::codes([$property => array_filter([$content[$property] ?? null])], $property), $property);
        }
    }

    /** @param  array<string, mixed>  $content */
    private function form(array $content): void
    {
        $codes = Design::codes($content, 'fields', 'code');
        $this->fields($codes, 'fields');
        self::once($codes, 'fields', 'field');
        $this->parts(DesignKind::Library, Design::codes($content, 'libraries'), 'libraries');
        $this->parts(DesignKind::Type, Design::codes($content, 'types'), 'types');
    }

    /** @param  array<string, mixed>  $content */
    private function access(array $content): void
    {
        $this->known(Design::codes($content, 'groups'), 'groups');
        $this->criterion($content);
    }

    /** @param  array<array-key, mixed>  $content */
    private function criterion(array $content, string $property = 'criterion'): void
    {
        try {
            $criterion = is_string($content['criterion'] ?? null) ? $content['criterion'] : '';
            self::names(Parser::parse($criterion)->root, new SearchSchema([...$this->systemFields, ...$this->design->fields()]), []);
        } catch (SyntaxError|SearchError $fault) {
            throw new InvalidDefinition($property, $fault->getMessage());
        }
    }

    /** @param  list<string>  $codes */
    private function fields(array $codes, string $property): void
    {
        foreach ($codes as $code) {
            if (! isset($this->systemFields[$code]) && $this->design->part(DesignKind::Field, $code) === null) {
                throw new InvalidDefinition($property, "There is no field “{$code}”.");
            }
        }
    }

    /** @param  list<string>  $codes */
    private function parts(DesignKind $kind, array $codes, string $property): void
    {
        foreach ($codes as $code) {
            if ($this->design->part($kind, $code) === null) {
                throw new InvalidDefinition($property, "There is no {$kind->one()} “{$code}”.");
            }
        }
    }

    /** @param  list<string>  $groups */
    private function known(array $groups, string $property): void
    {
        foreach ($this->groups === null ? [] : array_diff($groups, $this->groups) as $group) {
            throw new InvalidDefinition($property, "There is no group “{$group}”.");
        }
    }

    /** @param  list<string>  $codes */
    private static function once(array $codes, string $property, string $what): void
    {
        $double = array_diff_key($codes, array_unique($codes));
        if ($double !== []) {
            throw new InvalidDefinition($property, "The {$what} “".reset($double).'” stands there twice.');
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
