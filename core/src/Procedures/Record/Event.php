<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Record;

/** Something that happened in a case. What all of them come to is where it stands. */
abstract readonly class Event
{
    /** The kinds there are, by the name that the record has them under. */
    public const KINDS = [
        'entered' => Entered::class,
        'asked_next' => AskedNext::class,
        'taken' => Taken::class,
        'put_back' => PutBack::class,
        'given' => Given::class,
        'questioned' => Questioned::class,
        'answered' => Answered::class,
        'decided' => Decided::class,
        'acted' => Acted::class,
        'stopped' => Stopped::class,
        'resumed' => Resumed::class,
        'reminded' => Reminded::class,
        'overdue' => Overdue::class,
        'left' => Left::class,
        'ended' => Ended::class,
        'given_up' => GivenUp::class,
    ];

    final public function kind(): string
    {
        return (string) array_search(static::class, self::KINDS, true);
    }

    abstract public function applyTo(CaseState $state): CaseState;

    /** @return array<string, mixed> what the record has of it beside its kind and who did it */
    abstract public function detail(): array;

    /** Who did it; null where it happened by itself. */
    public function by(): ?int
    {
        return null;
    }

    /** @param  array<array-key, mixed>  $detail */
    abstract protected static function read(?int $by, array $detail): self;

    /**
     * Reads an event as the record has it.
     *
     * @param  array<array-key, mixed>  $detail
     */
    public static function of(string $kind, ?int $by, array $detail): self
    {
        $class = self::KINDS[$kind] ?? throw new \UnexpectedValueException("There is no event “{$kind}”.");

        return $class::read($by, $detail);
    }
}
