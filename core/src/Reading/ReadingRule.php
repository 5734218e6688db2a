<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Fields\FieldDefinition;

/** One way to read values of a field out of the text of a document. */
interface ReadingRule
{
    /**
     * The places of one page that it fits, in the order of the text. What the field cannot have is no value and is left out.
     *
     * @return list<array{int, int, string}> offset and length in bytes, and the value in the field’s normal form
     *
     * @throws TooManySteps
     */
    public function in(TextPage $page, FieldDefinition $field): array;
}
