<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Acts;

use Brenvic\Core\Procedures\Shape\Detail;

/** Stamps the first page with what was decided, by whom and when. */
final readonly class Stamp extends Act
{
    /**
     * @param  string  $text  over the name and the date; the decision where it is empty
     * @param  list<string>  $values  codes of fields whose values stand on it too
     */
    public function __construct(public string $text = '', public array $values = [])
    {
    }

    public static function read(array $content): self
    {
        return new self(Detail::text($content, 'text'), Detail::texts($content, 'values'));
    }

    public function fields(): array
    {
        return $this->values;
    }
}
