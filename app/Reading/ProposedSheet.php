<?php

declare(strict_types=1);

namespace App\Reading;

use App\Models\Dossier;
use Brenvic\Core\Design\TypePart;

/** What is proposed for a document: its type, its dossier, and fields of its sheet. */
final readonly class ProposedSheet
{
    /**
     * @param  ProposedAs<TypePart>|null  $type
     * @param  ProposedAs<Dossier>|null  $dossier
     * @param  list<Proposal>  $fields  one for each field that something is proposed for
     */
    public function __construct(public ?ProposedAs $type, public ?ProposedAs $dossier, public array $fields)
    {
    }
}
