<?php

declare(strict_types=1);

namespace App\Reading;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Reading\Context;
use Brenvic\Core\Reading\Found;

/** A value that is proposed, with the words of the page that say it, if any do. */
final readonly class ProposedValue
{
    /**
     * @param  string  $value  in normal form
     * @param  int|null  $page  from 1
     * @param  list<array{string, bool}>  $pieces  text, and whether it is the value
     */
    public function __construct(public string $value, public ?int $page = null, public array $pieces = [])
    {
    }

    /**
     * @param  non-empty-list<string>  $values  normal forms
     * @return non-empty-list<self> what no page says
     */
    public static function all(array $values): array
    {
        return array_map(static fn (string $of): self => new self($of), $values);
    }

    /** @param  array<int, TextPage>  $pages  by their number */
    public static function at(Found $found, array $pages): self
    {
        return new self($found->value, $found->page, Context::of($pages[$found->page]->text, $found->offset, $found->length));
    }
}
