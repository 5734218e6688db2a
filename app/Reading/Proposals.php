<?php

declare(strict_types=1);

namespace App\Reading;

use App\Catalog\Catalog;
use App\Files\PageStore;
use App\Models\Document;
use App\Models\User;
use Brenvic\Core\Design\ReadingPart;
use Brenvic\Core\Reading\Context;
use Brenvic\Core\Reading\Found;
use Brenvic\Core\Reading\Reader;
use Brenvic\Core\Reading\TooManySteps;

/** What the reading rules say of a document, for the fields that a person sees. Nothing of it is stored unless somebody takes it. */
final readonly class Proposals
{
    /** Pages that are read while somebody waits. */
    private const PAGES = 30;

    public function __construct(private Catalog $catalog, private ProposalRecord $record)
    {
    }

    /** @return list<Proposal> one for each field that a rule found something for, in the order of the rules */
    public function of(Document $document, User $user, ?string $type): array
    {
        $design = $this->catalog->design();
        $fields = $this->catalog->fieldsShownTo($user);
        $rules = array_filter(
            $design->parts(ReadingPart::class),
            static fn (ReadingPart $part): bool => ! $part->isMention && isset($fields[$part->field]) && $part->reads($type),
        );
        if ($rules === []) {
            return [];
        }
        $pages = PageStore::of([$document->id], self::PAGES)[$document->id] ?? [];
        $proposals = [];
        foreach ($rules as $part) {
            $field = $fields[$part->field];
            if (isset($proposals[$field->code])) {
                continue;
            }
            try {
                $found = Reader::read($part->rule($design), $field, $pages)->proposed($field->multiple);
            } catch (TooManySteps) {
                // Its trial says so; whoever files has nothing of it.
                continue;
            }
            if ($found !== []) {
                $places = array_map(
                    static fn (Found $of): array => [$of, Context::of($pages[$of->page]->text, $of->offset, $of->length)],
                    $found,
                );
                $stamp = substr(md5(serialize($part)), 0, 16);
                $record = $this->record->of($part->code, $stamp, $user);
                $proposals[$field->code] = new Proposal($field, $part->code, $stamp, $part->name, $places, $record);
            }
        }
        $proposals = array_values($proposals);
        if ($document->state === Document::WAITING) {
            ProposalRecord::offer($document->id, $proposals);
        }

        return $proposals;
    }
}
