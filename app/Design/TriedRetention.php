<?php

declare(strict_types=1);

namespace App\Design;

use App\Catalog\Catalog;
use App\Retention\KeptFacts;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\KeptDocuments;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Retention\Quarter;
use Brenvic\Core\Retention\Rules;

/** What a change of the retention rules is tried on: the documents as they are. */
final readonly class TriedRetention implements KeptDocuments
{
    private const CHUNK = 5_000;

    public function __construct(private Catalog $catalog, private KeptFacts $facts)
    {
    }

    public function facts(DocumentSet $documents, array $rules): iterable
    {
        foreach (array_chunk($documents->documents(), self::CHUNK) as $chunk) {
            yield from $this->facts->of($rules, $chunk);
        }
    }

    public function rules(Design $design): Rules
    {
        return $this->catalog->retention($design);
    }

    public function quarterEnd(): int
    {
        return Quarter::with($this->catalog->calendar()->today)->lastDay;
    }
}
