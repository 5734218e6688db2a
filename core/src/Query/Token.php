<?php

declare(strict_types=1);

namespace Brenvic\Core\Query;

/** A piece of query text. `$text` of a quoted token is without its quotes and with `\"` read as `"`. */
final readonly class Token
{
    public function __construct(
        public TokenKind $kind,
        public string $text,
        public int $position,
    ) {
    }

    /** Whether this is the unquoted word `$word`, case aside. */
    public function isWord(string $word): bool
    {
        return $this->kind === TokenKind::Word && strcasecmp($this->text, $word) === 0;
    }

    public function describe(): string
    {
        return match ($this->kind) {
            TokenKind::End => 'the end of the query',
            default => "“{$this->text}”",
        };
    }
}
