<?php

declare(strict_types=1);

namespace Brenvic\Core\Search\Filing;

use Brenvic\Core\Capture\LineBreaks;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\Keys;
use Brenvic\Core\Index\NameCode;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Retention\Keeping;

/**
 * What a document puts into the index: its words by the part of the document they stand in, its values, and its places on
 * the lines that fields with an order have. Searches, facets and orders read this layout.
 */
final class DocumentEntries
{
    /** What Brenvic fills in itself, and counts as facets. */
    private const FACETED = [
        'library',
        'repository',
        'file_type',
        'text_state',
        'text_language',
        'attached',
        'type',
        'dossier_kind',
        'procedure',
        'procedure_step',
        'procedure_decision',
        'waits_for',
        ...KeepingEntries::FIELDS,
    ];

    /** @var array<string, list<string>> texts by part */
    private array $parts = [];

    /** @var array<string, list<string>> normal forms by field code */
    private array $values = [];

    /** @var array<string, list<int>> places by field code */
    private array $ordinals = [];

    private function __construct()
    {
    }

    /**
     * @param  array<string, FieldDefinition>  $fields  those of the design by code; what a document has in others is left out
     */
    public static function of(FiledDocument $document, array $fields): IndexedDocument
    {
        $entries = new self;
        $entries->addWords($document);
        $entries->addOwn($document);
        $entries->addDossiers($document);
        $entries->addStandings($document);
        $document->keeping === null || $entries->addKeeping($document->keeping);
        $faceted = self::FACETED;
        foreach ($document->values as $code => $normals) {
            if (isset($fields[$code])) {
                $entries->addValues($fields[$code], $normals);
                if ($fields[$code]->faceted) {
                    $faceted[] = $code;
                }
            }
        }

        return new IndexedDocument($document->number, $entries->parts, $entries->values, $entries->ordinals, $faceted, $document->language ?? '');
    }

    private function addWords(FiledDocument $document): void
    {
        $isWhole = $document->redacted === null;
        $this->parts = [
            Part::Names->value => self::present([$document->title, $document->fileName, $document->ref]),
            Part::Text->value => self::whole($document->redacted ?? $document->text),
            Part::Paths->value => [$document->path],
            Part::Comments->value => $document->comments,
            // What earlier versions say is kept with the original: nobody has looked at what would have to go from them.
            Part::Earlier->value => $isWhole ? $document->earlier : [],
            Part::Original->value => $isWhole ? [] : [...self::whole($document->text), ...$document->earlier],
            Part::Values->value => [],
            Part::ofField('ref') => [$document->ref],
            Part::ofField('file_name') => [$document->fileName],
        ];
    }

    private function addOwn(FiledDocument $document): void
    {
        $this->values = [
            'library' => [$document->library],
            'repository' => [$document->repository],
            'file_type' => [$document->fileKind],
            'text_state' => [$document->textState],
            'attached' => [$document->isAttached ? '1' : '0'],
            'titled_by_file' => [$document->isTitledByFile ? '1' : '0'],
        ];
        $this->ordinals = ['pages' => [FieldDefinition::numberOrdinal($document->pages)]];
        if ($document->ocrConfidence !== null) {
            $this->ordinals['ocr_confidence'] = [FieldDefinition::numberOrdinal($document->ocrConfidence)];
        }
        foreach (['title' => $document->title, 'file_name' => $document->fileName, 'ref' => $document->ref] as $name => $text) {
            $this->ordinals += NameCode::of($name, $text);
        }
        if ($document->type !== null) {
            $this->values['type'] = [$document->type];
            $this->parts[Part::Values->value][] = $document->typeName;
        }
        if ($document->language !== null) {
            $this->values['text_language'] = [$document->language];
        }
        if ($document->creator !== null) {
            $this->values['creator'] = [$document->creator];
            $this->parts[Part::ofField('creator')] = [$document->creator];
        }
        if ($document->filedOn !== null) {
            $this->ordinals['created'] = [PartialDate::parse($document->filedOn)->firstDay()];
        }
    }

    private function addDossiers(FiledDocument $document): void
    {
        foreach ($document->dossiers as [$ref, $title, $kind]) {
            $this->values['dossier'][] = $ref;
            $this->addValue('dossier_kind', $kind);
            array_push($this->parts[Part::Values->value], $ref, $title);
            $this->parts[Part::ofField('dossier')][] = "{$ref} {$title}";
        }
    }

    private function addStandings(FiledDocument $document): void
    {
        foreach ($document->standings as $standing) {
            $this->addValue('procedure', $standing->procedure);
            $this->addValue('procedure_step', Standing::named($standing->procedure, $standing->step));
            if ($standing->decision !== null) {
                $this->addValue('procedure_decision', Standing::named($standing->procedure, $standing->decision));
            }
            foreach ($standing->with as $name) {
                $this->addValue('waits_for', $name);
                $this->parts[Part::ofField('waits_for')][] = $name;
            }
            $this->ordinals['step_since'][] = PartialDate::parse($standing->since)->firstDay();
        }
    }

    private function addKeeping(Keeping $keeping): void
    {
        ['values' => $values, 'ordinals' => $ordinals] = KeepingEntries::of($keeping);
        $this->values += $values;
        $this->ordinals += $ordinals;
    }

    /** @param  list<string>  $normals */
    private function addValues(FieldDefinition $field, array $normals): void
    {
        if (! $field->kind->isOrdered()) {
            $this->values[$field->code] = [];
        }
        foreach ($normals as $normal) {
            $this->addShown($field, $normal);
            $ordinal = $field->ordinal($normal);
            if ($ordinal !== null) {
                $this->ordinals[$field->code][] = $ordinal;
            }
            if ($field->kind->isStretch()) {
                $this->ordinals[Keys::end($field->code)][] = (int) $field->kind->lastOrdinal($field, $normal);
            }
            foreach ($field->kind->counted($field, $normal) as $value) {
                $this->addValue($field->code, $value);
            }
            if ($field->isTree() || ($field->kind->hasPrecision() && strlen($normal) < 10)) {
                $this->values[Keys::own($field->code)][] = $normal;
            }
        }
    }

    /** The words of a value, by which it is found. */
    private function addShown(FieldDefinition $field, string $normal): void
    {
        if (! $field->kind->hasWords()) {
            return;
        }
        foreach ([$field->display($normal), ...$field->vocabulary->terms[$normal]->synonyms ?? []] as $shown) {
            $this->parts[Part::ofField($field->code)][] = $shown;
            // What is sensitive is found only by whoever looks in the field itself.
            if (! Cover::hides($field)) {
                $this->parts[Part::Values->value][] = $shown;
            }
        }
    }

    private function addValue(string $code, string $value): void
    {
        if (! in_array($value, $this->values[$code] ?? [], true)) {
            $this->values[$code][] = $value;
        }
    }

    /** @return list<string> the text with words whole that lines cut, and the parts of these beside it */
    private static function whole(string $text): array
    {
        [$joined, $parts] = LineBreaks::joined($text);

        return $parts === '' ? [$joined] : [$joined, $parts];
    }

    /**
     * @param  list<string>  $names
     * @return list<string>
     */
    private static function present(array $names): array
    {
        return array_values(array_unique(array_filter($names, static fn (string $name): bool => $name !== '')));
    }
}
