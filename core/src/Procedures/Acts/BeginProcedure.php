<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Acts;

use Brenvic\Core\Procedures\Shape\Detail;

/** Begins another procedure with the same document. */
final readonly class BeginProcedure extends Act
{
    public function __construct(public string $procedure)
    {
    }

    public static function read(array $content): self
    {
        return new self(Detail::text($content, 'procedure'));
    }

    public function fault(): ?string
    {
        return $this->procedure === '' ? 'Say which procedure begins.' : null;
    }

    public function procedures(): array
    {
        return [$this->procedure];
    }
}
