<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Plan;

use Brenvic\Core\Procedures\Acts\Act;
use Brenvic\Core\Procedures\Shape\Detail;

/** What happens without a person, and where it goes on. */
final readonly class ActStep extends Step
{
    /**
     * @param  list<Act>  $acts  in their order; none where it only goes on by criteria
     * @param  list<Way>  $on
     */
    public function __construct(string $code, string $name, public array $acts, public array $on)
    {
        parent::__construct($code, $name);
    }

    /** @param  array<array-key, mixed>  $content */
    public static function read(array $content): self
    {
        return new self(
            Detail::text($content, 'code'),
            Detail::text($content, 'name'),
            array_values(array_filter(array_map(Act::of(...), Detail::each($content, 'acts')))),
            Way::all($content),
        );
    }

    public function ways(): array
    {
        return ['' => $this->on];
    }

    public function fault(): ?string
    {
        foreach ($this->acts as $act) {
            $fault = $act->fault();
            if ($fault !== null) {
                return $fault;
            }
        }

        return null;
    }

    public function groups(): array
    {
        return array_merge([], ...array_map(static fn (Act $act): array => $act->groups(), $this->acts));
    }

    public function fields(): array
    {
        return array_merge([], ...array_map(static fn (Act $act): array => $act->fields(), $this->acts));
    }

    public function procedures(): array
    {
        return array_merge([], ...array_map(static fn (Act $act): array => $act->procedures(), $this->acts));
    }

    public function dossierKinds(): array
    {
        return array_merge([], ...array_map(static fn (Act $act): array => $act->dossierKinds(), $this->acts));
    }
}
