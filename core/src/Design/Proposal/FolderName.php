<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** What the names of the folders of one level have in them beside a name: a number before it, a state behind it. */
final readonly class FolderName
{
    private const NUMBER = '/^(?<number>\p{L}{0,4}[-.]?\d[\p{L}\d]*(?:[-.\/]\d+)*)'.
        '(?:\s*[_–:]\s*|\s+-\s+|\.?\s+|-(?=\p{L}{2}))(?<name>\p{L}.*)$/u';

    private const STATE = '/^(?<name>.*\S)\s*(?:[\[(](?<a>[^\])]{2,30})[\])]|\s[-–]\s(?<b>\p{L}[\p{L} ]{1,29}))$/u';

    /** So many of the names must have a number. */
    private const NUMBERED = 0.8;

    /** So many of them must have a state, and there are so many states at most. */
    private const STATED = 0.1;

    private const STATES = 8;

    private const FEWEST = 4;

    /** @param  list<string>  $states  in small letters */
    public function __construct(public bool $hasNumber = false, public array $states = [])
    {
    }

    /** @param  list<string>  $names  of the folders of a level, each once */
    public static function of(array $names): self
    {
        $count = count($names);
        if ($count < self::FEWEST) {
            return new self();
        }
        $times = [];
        $plain = [];
        foreach ($names as $name) {
            $state = self::state($name);
            $plain[] = $state === null ? $name : $state[0];
            if ($state !== null) {
                $key = mb_strtolower($state[1]);
                $times[$key] = ($times[$key] ?? 0) + 1;
            }
        }
        // A state comes again; what is said of one folder only is part of its name.
        $states = array_filter($times, static fn (int $of): bool => $of > 1);
        $stated = array_sum($states);
        $isStated = $states !== [] && count($states) <= self::STATES && $stated >= self::STATED * $count && $stated >= 3 * count($states);
        $states = $isStated ? array_map(strval(...), array_keys($states)) : [];
        $numbered = count(array_filter($isStated ? $plain : $names, static fn (string $n): bool => preg_match(self::NUMBER, $n) === 1));

        return new self($numbered >= self::NUMBERED * $count, $states);
    }

    /** @return array{string, string}|null the name without it, and the state */
    private static function state(string $name): ?array
    {
        if (preg_match(self::STATE, $name, $found, PREG_UNMATCHED_AS_NULL) !== 1) {
            return null;
        }

        return [trim($found['name']), trim($found['a'] ?? $found['b'] ?? '')];
    }

    /** @return list<string> what the columns of the level are: one to three of Number, Name and Status */
    public function columns(): array
    {
        return [...$this->hasNumber ? ['Number'] : [], 'Name', ...$this->states === [] ? [] : ['Status']];
    }

    /** @return list<string> the parts of a name, for the columns */
    public function parts(string $name): array
    {
        $number = $status = '';
        $state = $this->states === [] ? null : self::state($name);
        if ($state !== null && in_array(mb_strtolower($state[1]), $this->states, true)) {
            [$name, $status] = $state;
        }
        if ($this->hasNumber && preg_match(self::NUMBER, $name, $found) === 1) {
            [$number, $name] = [$found['number'], $found['name']];
        }

        return [...$this->hasNumber ? [$number] : [], $name, ...$this->states === [] ? [] : [$status]];
    }
}
