<?php

declare(strict_types=1);

namespace App\Intake;

use App\Catalog\Catalog;
use App\Catalog\OwnValues;
use App\Files\PageStore;
use App\Models\Document;
use Brenvic\Core\Design\ReadingPart;
use Brenvic\Core\Reading\Found;
use Brenvic\Core\Reading\Reader;

/** Puts on the sheet of what arrives what reading rules find that the librarian lets do so, where the field is empty. */
final readonly class StoredReadings
{
    /** Pages that are read. */
    private const PAGES = 30;

    public function __construct(private Catalog $catalog, private Filing $filing)
    {
    }

    /** Does so for a document whose text was read. Of one whose type is not known yet it is done when somebody gives it one. */
    public function fill(Document $document): void
    {
        $design = $this->catalog->design();
        $type = $this->catalog->types()->get((int) $document->document_type_id);
        $part = $this->catalog->type($type);
        $rules = array_filter($design->parts(ReadingPart::class), static fn (ReadingPart $of): bool => $of->isStored && $of->reads($type?->code));
        if ($document->state !== Document::WAITING || $type === null || $part === null || $rules === []) {
            return;
        }
        $values = $own = OwnValues::of([$document->id])[$document->id] ?? [];
        $pages = PageStore::of([$document->id], self::PAGES)[$document->id] ?? [];
        $lifted = [];
        foreach ($rules as $rule) {
            $field = $this->catalog->fields()[$rule->field] ?? null;
            if ($field === null || isset($values[$field->code]) || ! in_array($field->code, $part->fieldCodes(), true)) {
                continue;
            }
            $found = Reader::proposed($rule->rule($design), $field, $pages);
            if ($found !== []) {
                $values[$field->code] = array_map(static fn (Found $of): string => $of->value, $found);
                $lifted[$field->code] = array_map(
                    static fn (Found $of): array => [
                        'value' => $of->value,
                        'page' => $of->page,
                        'text' => substr($pages[$of->page]->text, $of->offset, $of->length),
                    ],
                    $found,
                );
            }
        }
        if ($values !== $own) {
            $this->filing->put($document, $type, $values);
            LiftedValues::note($document, $this->catalog->fieldIds(), $lifted);
        }
    }
}
