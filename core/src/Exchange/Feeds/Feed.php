<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Feeds;

use Brenvic\Core\Xml\XmlText;
use XMLWriter;

/** What a search finds, the newest first, for feed readers: Atom (RFC 4287) and JSON Feed 1.1. */
final readonly class Feed
{
    public const ATOM = 'application/atom+xml; charset=utf-8';

    public const JSON = 'application/feed+json; charset=utf-8';

    /**
     * @param  string  $id  that stays the same for good, an IRI
     * @param  string  $home  where people see what the search finds
     * @param  string  $self  where the feed is
     * @param  string  $empty  what it is of when nothing is in it: ISO 8601, in UTC
     * @param  list<FeedEntry>  $entries
     */
    public function __construct(
        public string $id,
        public string $title,
        public string $author,
        public string $home,
        public string $self,
        public string $empty,
        public array $entries,
    ) {
    }

    public function atom(): string
    {
        $xml = new XMLWriter();
        $xml->openMemory();
        $xml->startDocument('1.0', 'UTF-8');
        $xml->startElementNs(null, 'feed', 'http://www.w3.org/2005/Atom');
        $text = static fn (string $name, string $of): bool => $xml->writeElement($name, XmlText::clean($of));
        $text('id', $this->id);
        $text('title', $this->title);
        $text('updated', $this->updated());
        $xml->startElement('author');
        $text('name', $this->author);
        $xml->endElement();
        self::link($xml, 'self', $this->self);
        self::link($xml, 'alternate', $this->home);
        foreach ($this->entries as $entry) {
            $xml->startElement('entry');
            $text('id', $entry->id);
            $text('title', $entry->title);
            $text('updated', $entry->updated);
            $entry->published === '' || $text('published', $entry->published);
            self::link($xml, 'alternate', $entry->address);
            foreach ($entry->categories as $category) {
                $xml->startElement('category');
                $xml->writeAttribute('term', XmlText::clean($category));
                $xml->endElement();
            }
            $entry->summary === '' || $text('summary', $entry->summary);
            $xml->endElement();
        }
        $xml->endElement();
        $xml->endDocument();

        return $xml->outputMemory();
    }

    public function json(): string
    {
        return json_encode(
            [
                'version' => 'https://jsonfeed.org/version/1.1',
                'title' => $this->title,
                'home_page_url' => $this->home,
                'feed_url' => $this->self,
                'authors' => [['name' => $this->author]],
                'items' => array_map(
                    static fn (FeedEntry $entry): array => [
                        'id' => $entry->id,
                        'url' => $entry->address,
                        'title' => $entry->title,
                        'content_text' => $entry->summary,
                        ...$entry->published === '' ? [] : ['date_published' => $entry->published],
                        'date_modified' => $entry->updated,
                        'tags' => $entry->categories,
                    ],
                    $this->entries,
                ),
            ],
            JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_INVALID_UTF8_SUBSTITUTE | JSON_THROW_ON_ERROR,
        );
    }

    private function updated(): string
    {
        return $this->entries === []
            ? $this->empty
            : max(array_map(static fn (FeedEntry $entry): string => $entry->updated, $this->entries));
    }

    private static function link(XMLWriter $xml, string $relation, string $address): void
    {
        $xml->startElement('link');
        $xml->writeAttribute('rel', $relation);
        $xml->writeAttribute('href', XmlText::clean($address));
        $xml->endElement();
    }
}
