<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Query\SortKey;

/** A view: which documents it is of, and how it shows them. */
final readonly class ViewPart extends Part
{
    /** What views may show and sort by besides fields. */
    private const BUILT_IN = ['title', 'path'];

    /**
     * @param  string  $criterion  CQL
     * @param  list<string>  $columns
     * @param  list<SortKey>  $sort
     * @param  list<ViewLevel>  $levels
     * @param  list<string>  $groups  those it is offered to; none means everybody
     */
    protected function __construct(
        string $code,
        string $name,
        public string $criterion,
        public array $columns,
        public array $sort,
        public array $levels,
        private array $groups,
    ) {
        parent::__construct($code, $name);
    }

    public static function of(string $code, array $content): static
    {
        $sort = [];
        foreach (Design::entries($content, 'sort') as $key) {
            if (is_string($key['field'] ?? null)) {
                $sort[] = SortKey::of($key['field'], ($key['descending'] ?? false) === true);
            }
        }

        return new self(
            $code,
            self::text($content, 'name'),
            self::text($content, 'criterion'),
            Design::codes($content, 'columns'),
            $sort,
            ViewLevel::of($content),
            Design::codes($content, 'groups'),
        );
    }

    public static function kind(): DesignKind
    {
        return DesignKind::View;
    }

    public function groups(): array
    {
        return $this->groups;
    }

    /** @param  list<string>  $groups  of a person */
    public function isFor(array $groups): bool
    {
        return $this->groups === [] || array_intersect($this->groups, $groups) !== [];
    }

    /** @return array<string, list<string>> codes of what it shows, sorts and divides by, by property */
    private function named(): array
    {
        return [
            'columns' => $this->columns,
            'sort' => array_map(static fn (SortKey $key): string => $key->index, $this->sort),
            'levels' => array_map(static fn (ViewLevel $level): string => $level->field, $this->levels),
        ];
    }

    public function refersTo(): array
    {
        $totals = array_values(array_filter(array_map(static fn (ViewLevel $level): ?string => $level->total, $this->levels)));

        return self::each(DesignKind::Field, [...array_merge(...array_values($this->named())), ...$totals]);
    }

    public function belongsTo(DesignCheck $check): array
    {
        return $check->users($this, LibraryPart::class, DossierKindPart::class);
    }

    public function check(DesignCheck $check): void
    {
        foreach ($this->named() as $property => $codes) {
            $check->fields(array_values(array_diff($codes, self::BUILT_IN)), $property);
            DesignCheck::once($codes, $property, 'column');
        }
        foreach ($this->levels as $level) {
            $total = $level->total === null ? null : $check->field($level->total);
            if ($level->total !== null && ($total === null || ! $total->kind->isOrdered())) {
                throw new InvalidDefinition('levels', 'Only a number, amount, date or duration can be summed up.');
            }
            if ($total !== null && ! $total->kind->hasSum() && $level->isSum) {
                throw new InvalidDefinition('levels', "Dates have no sum. Show {$total->label} from the lowest to the highest.");
            }
        }
        $check->groups($this->groups, 'groups');
        $check->criterion($this->criterion);
    }
}
