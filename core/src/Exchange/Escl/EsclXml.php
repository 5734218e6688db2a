<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Escl;

use Brenvic\Core\Xml\InvalidXml;
use Brenvic\Core\Xml\UntrustedXml;
use DOMElement;

/**
 * Elements of eSCL documents (Mopria Alliance, eSCL Technical Specification 2.97), by their local names: scanners differ in the
 * prefixes and the versions of the namespaces that they use.
 *
 * @internal
 */
final class EsclXml
{
    /** @throws InvalidXml */
    public static function root(string $xml): DOMElement
    {
        return UntrustedXml::root($xml);
    }

    /** The first element of a name below another. */
    public static function first(DOMElement $in, string $name): ?DOMElement
    {
        return self::all($in, $name)[0] ?? null;
    }

    /** @return list<DOMElement> */
    public static function all(DOMElement $in, string $name): array
    {
        $found = [];
        foreach ($in->getElementsByTagName('*') as $element) {
            if ($element->localName === $name) {
                $found[] = $element;
            }
        }

        return $found;
    }

    /** @return list<string> the texts of all elements of a name, each once */
    public static function texts(?DOMElement $in, string $name): array
    {
        $texts = $in === null ? [] : array_map(static fn (DOMElement $e): string => trim($e->textContent), self::all($in, $name));

        return array_values(array_unique(array_filter($texts, static fn (string $text): bool => $text !== '')));
    }

    public static function text(DOMElement $in, string $name): string
    {
        return self::texts($in, $name)[0] ?? '';
    }
}
