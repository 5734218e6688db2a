<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Asking;

use Brenvic\Core\Procedures\Shape\Detail;

/** Those who may act on a task: everybody in some groups, and some people. */
final readonly class Audience
{
    /**
     * @param  list<string>  $groups  by name
     * @param  list<int>  $people
     */
    public function __construct(public array $groups = [], public array $people = [])
    {
    }

    public function isEmpty(): bool
    {
        return $this->groups === [] && $this->people === [];
    }

    /** @return array{groups: list<string>, people: list<int>} */
    public function detail(): array
    {
        return ['groups' => $this->groups, 'people' => $this->people];
    }

    /** @param  array<array-key, mixed>  $detail */
    public static function of(array $detail): self
    {
        return new self(Detail::texts($detail, 'groups'), Detail::numbers($detail, 'people'));
    }
}
