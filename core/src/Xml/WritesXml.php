<?php

declare(strict_types=1);

namespace Brenvic\Core\Xml;

use Closure;
use XMLWriter;

/** Elements of an answer, with texts as XML can have them. */
trait WritesXml
{
    private XMLWriter $xml;

    private function text(string $name, string $text): void
    {
        $this->xml->writeElement($name, XmlText::clean($text));
    }

    private function open(string $name, Closure $write): void
    {
        $this->xml->startElement($name);
        $write();
        $this->xml->endElement();
    }
}
