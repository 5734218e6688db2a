<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Records;

use Brenvic\Core\Xml\XmlText;
use XMLWriter;

/** The forms in which documents are told of. Each writes one element, with all its namespaces. */
enum RecordSchema: string
{
    /** The fifteen elements, as SRU has them. */
    case DublinCore = 'dc';

    /** The same, as OAI-PMH has them. */
    case OaiDublinCore = 'oai_dc';

    /** Metadata Object Description Schema of the Library of Congress, 3.7. */
    case Mods = 'mods';

    /** Values by the codes of fields (docs/record.xsd). */
    case Own = 'brenvic';

    private const DC = 'http://purl.org/dc/elements/1.1/';

    public static function named(string $name): ?self
    {
        foreach (self::cases() as $case) {
            if ($name === $case->value || $name === $case->identifier() || in_array($name, $case->alsoNamed(), true)) {
                return $case;
            }
        }

        return null;
    }

    public function title(): string
    {
        return match ($this) {
            self::DublinCore => 'Dublin Core',
            self::OaiDublinCore => 'Dublin Core, as OAI-PMH has it',
            self::Mods => 'MODS 3.7',
            self::Own => 'Values by the codes of fields',
        };
    }

    /** By which SRU knows it. */
    public function identifier(): string
    {
        return match ($this) {
            self::DublinCore => 'info:srw/schema/1/dc-v1.1',
            self::OaiDublinCore => 'http://www.openarchives.org/OAI/2.0/oai_dc/',
            self::Mods => 'info:srw/schema/1/mods-v3.7',
            self::Own => 'urn:brenvic:record',
        };
    }

    public function space(): string
    {
        return match ($this) {
            self::DublinCore => 'info:srw/schema/1/dc-schema',
            self::OaiDublinCore => 'http://www.openarchives.org/OAI/2.0/oai_dc/',
            self::Mods => 'http://www.loc.gov/mods/v3',
            self::Own => 'urn:brenvic:record',
        };
    }

    /** Where its XML schema is; empty where it is not on the web. */
    public function location(): string
    {
        return match ($this) {
            self::DublinCore => 'http://www.loc.gov/standards/sru/recordSchemas/dc-schema.xsd',
            self::OaiDublinCore => 'http://www.openarchives.org/OAI/2.0/oai_dc.xsd',
            self::Mods => 'http://www.loc.gov/standards/mods/v3/mods-3-7.xsd',
            self::Own => '',
        };
    }

    public function write(XMLWriter $xml, ServedRecord $record): void
    {
        match ($this) {
            self::DublinCore => $this->dublinCore($xml, 'srw_dc', $record),
            self::OaiDublinCore => $this->dublinCore($xml, 'oai_dc', $record),
            self::Mods => $this->mods($xml, $record),
            self::Own => $this->own($xml, $record),
        };
    }

    /** @return list<string> other names of it */
    private function alsoNamed(): array
    {
        return match ($this) {
            self::DublinCore => ['info:srw/schema/1/dc-schema', 'srw_dc', 'http://purl.org/dc/elements/1.1/'],
            self::Mods => [
                'info:srw/schema/1/mods-v3.3',
                'info:srw/schema/1/mods-v3.4',
                'info:srw/schema/1/mods-v3.5',
                'info:srw/schema/1/mods-v3.6',
                $this->space(),
            ],
            default => [],
        };
    }

    private function dublinCore(XMLWriter $xml, string $prefix, ServedRecord $record): void
    {
        $xml->startElementNs($prefix, 'dc', $this->space());
        $xml->writeAttribute('xmlns:dc', self::DC);
        $this->locate($xml);
        foreach ($record->dublinCore as $element => $values) {
            foreach ($values as $value) {
                $xml->writeElementNs('dc', $element, null, XmlText::clean($value));
            }
        }
        $xml->endElement();
    }

    private function mods(XMLWriter $xml, ServedRecord $record): void
    {
        $dc = $record->dublinCore;
        $write = static fn (string $name, string $text): bool => $xml->writeElement($name, XmlText::clean($text));
        $xml->startElementNs(null, 'mods', $this->space());
        $xml->writeAttribute('version', '3.7');
        $this->locate($xml);
        foreach ($dc['title'] ?? [$record->title] as $title) {
            $xml->startElement('titleInfo');
            $write('title', $title);
            $xml->endElement();
        }
        foreach (['creator' => 'creator', 'contributor' => 'contributor'] as $element => $role) {
            foreach ($dc[$element] ?? [] as $name) {
                $xml->startElement('name');
                $write('namePart', $name);
                $xml->startElement('role');
                $xml->startElement('roleTerm');
                $xml->writeAttribute('type', 'text');
                $xml->text($role);
                $xml->endElement();
                $xml->endElement();
                $xml->endElement();
            }
        }
        foreach ($dc['type'] ?? [] as $type) {
            $write('genre', $type);
        }
        $this->origin($xml, $record);
        foreach ($dc['language'] ?? [] as $language) {
            $xml->startElement('language');
            $xml->startElement('languageTerm');
            $xml->writeAttribute('type', 'text');
            $xml->text(XmlText::clean($language));
            $xml->endElement();
            $xml->endElement();
        }
        $xml->startElement('physicalDescription');
        $write('internetMediaType', $record->mediaType);
        $record->pages > 0 && $write('extent', $record->pages === 1 ? '1 page' : "{$record->pages} pages");
        $xml->endElement();
        foreach ($dc['description'] ?? [] as $description) {
            $write('abstract', $description);
        }
        foreach (['subject' => 'topic', 'coverage' => 'geographic'] as $element => $name) {
            foreach ($dc[$element] ?? [] as $value) {
                $xml->startElement('subject');
                $write($name, $value);
                $xml->endElement();
            }
        }
        foreach ($dc['relation'] ?? [] as $relation) {
            $xml->startElement('relatedItem');
            $xml->startElement('titleInfo');
            $write('title', $relation);
            $xml->endElement();
            $xml->endElement();
        }
        $xml->startElement('identifier');
        $xml->writeAttribute('type', 'local');
        $xml->text(XmlText::clean($record->ref));
        $xml->endElement();
        $xml->startElement('location');
        $xml->startElement('url');
        $xml->writeAttribute('usage', 'primary');
        $xml->text(XmlText::clean($record->address));
        $xml->endElement();
        $xml->endElement();
        foreach ($dc['rights'] ?? [] as $rights) {
            $xml->startElement('accessCondition');
            $xml->text(XmlText::clean($rights));
            $xml->endElement();
        }
        $xml->startElement('recordInfo');
        $write('recordContentSource', $record->libraryName);
        $xml->startElement('recordChangeDate');
        $xml->writeAttribute('encoding', 'iso8601');
        $xml->text($record->changedAt);
        $xml->endElement();
        $write('recordIdentifier', $record->ref);
        $xml->endElement();
        $xml->endElement();
    }

    private function origin(XMLWriter $xml, ServedRecord $record): void
    {
        $dc = $record->dublinCore;
        if (! isset($dc['publisher']) && ! isset($dc['date'])) {
            return;
        }
        $xml->startElement('originInfo');
        foreach ($dc['publisher'] ?? [] as $publisher) {
            $xml->writeElement('publisher', XmlText::clean($publisher));
        }
        foreach ($dc['date'] ?? [] as $date) {
            $xml->startElement('dateCreated');
            preg_match('/^\d{4}(-\d{2}(-\d{2})?)?$/D', $date) === 1 && $xml->writeAttribute('encoding', 'w3cdtf');
            $xml->text(XmlText::clean($date));
            $xml->endElement();
        }
        $xml->endElement();
    }

    private function own(XMLWriter $xml, ServedRecord $record): void
    {
        $xml->startElementNs(null, 'record', $this->space());
        $xml->writeAttribute('ref', XmlText::clean($record->ref));
        $xml->writeAttribute('changed', $record->changedAt);
        $record->filedOn === '' || $xml->writeAttribute('filed', $record->filedOn);
        $xml->writeElement('title', XmlText::clean($record->title));
        foreach (
            ['library' => [$record->library, $record->libraryName], 'type' => [$record->type, $record->typeName]] as $name => [$code, $label]
        ) {
            if ($code !== '') {
                $xml->startElement($name);
                $xml->writeAttribute('code', $code);
                $xml->text(XmlText::clean($label));
                $xml->endElement();
            }
        }
        $xml->startElement('file');
        $xml->writeAttribute('type', $record->mediaType);
        $xml->writeAttribute('pages', (string) $record->pages);
        $xml->text(XmlText::clean($record->fileName));
        $xml->endElement();
        $xml->writeElement('address', XmlText::clean($record->address));
        foreach ($record->fields as $code => $field) {
            $xml->startElement('field');
            $xml->writeAttribute('code', (string) $code);
            $xml->writeAttribute('label', XmlText::clean($field['label']));
            foreach ($field['values'] as [$normal, $shown]) {
                $xml->startElement('value');
                $shown === $normal || $xml->writeAttribute('normal', XmlText::clean($normal));
                $xml->text(XmlText::clean($shown));
                $xml->endElement();
            }
            $xml->endElement();
        }
        $xml->endElement();
    }

    private function locate(XMLWriter $xml): void
    {
        $xml->writeAttribute('xmlns:xsi', 'http://www.w3.org/2001/XMLSchema-instance');
        $xml->writeAttribute('xsi:schemaLocation', "{$this->space()} {$this->location()}");
    }
}
