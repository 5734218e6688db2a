<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Acts;

use Brenvic\Core\Procedures\Shape\Detail;

/** Gives a field a value; an empty one takes the value away. */
final readonly class SetValue extends Act
{
    /** @param  string  $value  as typed, with values of other fields as {code}, {today}, {decision} and {decided_by} */
    public function __construct(public string $field, public string $value)
    {
    }

    public static function read(array $content): self
    {
        return new self(Detail::text($content, 'field'), Detail::text($content, 'text'));
    }

    public function fault(): ?string
    {
        return $this->field === '' ? 'Say which field is given a value.' : null;
    }

    public function fields(): array
    {
        return [$this->field];
    }
}
