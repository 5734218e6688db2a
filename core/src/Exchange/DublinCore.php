<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Xml\XmlText;

/** The fifteen elements of Dublin Core (ISO 15836-1) of a document, as the XML of the OAI's `oai_dc` schema. */
final class DublinCore
{
    /**
     * @param  array<string, FieldDefinition>  $fields  by code
     * @param  array<string, list<string>>  $values  normal forms by field code
     * @param  array<string, list<string>>  $own  what no field says: title, identifier, format, type …
     * @return array<string, list<string>> element => values
     */
    public static function of(array $fields, array $values, array $own): array
    {
        $elements = $own;
        foreach ($values as $code => $normals) {
            $field = $fields[$code] ?? null;
            if ($field?->dublinCore !== null) {
                foreach ($normals as $normal) {
                    // Dates are exchanged as ISO 8601, everything else as people read it.
                    $elements[$field->dublinCore][] = $field->kind->isDate() ? $normal : $field->display($normal);
                }
            }
        }

        return array_map(
            static fn (array $list): array => array_values(array_unique(array_filter($list, static fn (string $v): bool => $v !== ''))),
            $elements,
        );
    }

    /** @param  array<string, list<string>>  $elements */
    public static function xml(array $elements): string
    {
        $xml =
            '<?xml version="1.0" encoding="UTF-8"?>'.
            "\n".
            '<oai_dc:dc xmlns:oai_dc="http://www.openarchives.org/OAI/2.0/oai_dc/" xmlns:dc="http://purl.org/dc/elements/1.1/">'.
            "\n";
        foreach ($elements as $element => $values) {
            foreach ($values as $value) {
                $text = XmlText::escaped($value);
                $xml .= "  <dc:{$element}>{$text}</dc:{$element}>\n";
            }
        }

        return $xml."</oai_dc:dc>\n";
    }
}
