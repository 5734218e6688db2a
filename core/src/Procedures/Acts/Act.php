<?php

declare(strict_types=1);

namespace Brenvic\Core\Procedures\Acts;

use Brenvic\Core\Procedures\Shape\Detail;
use Brenvic\Core\Procedures\Shape\Naming;

/** What a step does without a person. Whoever keeps the documents carries it out; here is what it says. */
abstract readonly class Act extends Naming
{
    /** The kinds there are, by the name that a design has them under. */
    public const KINDS = [
        'value' => SetValue::class,
        'stamp' => Stamp::class,
        'dossier' => PutInDossier::class,
        'new_dossier' => MakeDossier::class,
        'notice' => SendNotice::class,
        'mail' => SendMail::class,
        'begin' => BeginProcedure::class,
        'retention' => StartRetention::class,
        'lock' => LockVersion::class,
        'release' => ReleaseVersion::class,
    ];

    /** @param  array<array-key, mixed>  $content */
    public static function of(array $content): ?self
    {
        $class = self::KINDS[Detail::text($content, 'kind')] ?? null;

        return $class === null ? null : $class::read($content);
    }

    /** @param  array<array-key, mixed>  $content */
    abstract public static function read(array $content): self;

    /** What is wrong with it alone. */
    public function fault(): ?string
    {
        return null;
    }
}
