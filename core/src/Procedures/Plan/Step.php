<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Plan;

use Brenvic\Core\Procedures\Shape\Detail;
use Brenvic\Core\Procedures\Shape\Naming;

/** A step of a procedure. What is done in it is told by its kind. */
abstract readonly class Step extends Naming
{
    /** The kinds there are, by the name that a design has them under. */
    public const KINDS = ['ask' => AskStep::class, 'act' => ActStep::class, 'end' => EndStep::class];

    protected function __construct(public string $code, public string $name)
    {
    }

    /** @param  array<array-key, mixed>  $content */
    public static function of(array $content): self
    {
        /** @var class-string<AskStep|ActStep|EndStep> $class */
        $class = self::KINDS[Detail::text($content, 'kind')] ?? EndStep::class;

        return $class::read($content);
    }

    /** @return array<string, list<Way>> by the code of the decision that they belong to, '' for none */
    public function ways(): array
    {
        return [];
    }

    /** What is wrong with it alone, said of nothing else. */
    public function fault(): ?string
    {
        return null;
    }
}
