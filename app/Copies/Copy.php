<?php

declare(strict_types=1);

namespace App\Copies;

use App\Models\Document;

/** A document that is like another. */
final readonly class Copy
{
    public const FILE = 'file';

    public const TEXT = 'text';

    public const NEAR = 'near';

    /**
     * @param  string  $how  the same file, the same words, or nearly the same
     * @param  float  $share  how much of both texts together is in both, 0 to 1
     */
    public function __construct(public Document $document, public string $how, public float $share)
    {
    }
}
