<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru;

use Brenvic\Core\Xml\InvalidXml;
use Brenvic\Core\Xml\UntrustedXml;
use DOMElement;
use DOMXPath;

/**
 * The XML of an SRU server, read by the local names of its elements: those are the same in SRU 1.1, 1.2 and 2.0, whose
 * namespaces differ.
 */
final readonly class SruXml
{
    private function __construct(private DOMXPath $paths, public DOMElement $root)
    {
    }

    /** @throws SruFault */
    public static function read(string $xml): self
    {
        try {
            $root = UntrustedXml::root($xml);
        } catch (InvalidXml $fault) {
            throw new SruFault($fault->declares ? 'The answer declares XML entities and was not read.' : 'The answer is not XML.');
        }
        assert($root->ownerDocument !== null);

        return new self(new DOMXPath($root->ownerDocument), $root);
    }

    /**
     * The elements at a path of local names, like `records/record`.
     *
     * @return list<DOMElement>
     */
    public function all(string $path, ?DOMElement $below = null): array
    {
        $query = implode(
            '/',
            array_map(static fn (string $name): string => $name === '' ? '' : "*[local-name()='{$name}']", explode('/', $path)),
        );
        $found = [];
        foreach ($this->paths->query($query, $below ?? $this->root) ?: [] as $element) {
            if ($element instanceof DOMElement) {
                $found[] = $element;
            }
        }

        return $found;
    }

    public function first(string $path, ?DOMElement $below = null): ?DOMElement
    {
        return $this->all($path, $below)[0] ?? null;
    }

    /** The text at a path, or null when there is no such element. */
    public function text(string $path, ?DOMElement $below = null): ?string
    {
        $element = $this->first($path, $below);

        return $element === null ? null : trim($element->textContent);
    }
}
