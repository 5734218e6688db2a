<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru;

use DOMElement;

/** The response to a searchRetrieve request. */
final readonly class SruAnswer
{
    /** Values of one element of a record that are kept, and characters of each. */
    private const MOST_VALUES = 50;

    private const LONGEST = 5_000;

    /**
     * @param  list<SruRecord>  $records
     * @param  list<string>  $diagnostics  what the server says of the request
     */
    public function __construct(public int $total, public array $records, public array $diagnostics)
    {
    }

    /**
     * @param  int  $from  the first record that was asked for, from 0
     *
     * @throws SruFault
     */
    public static function read(string $xml, int $from): self
    {
        $answer = SruXml::read($xml);
        $diagnostics = array_map(static fn (DOMElement $d): string => self::diagnostic($answer, $d), $answer->all('diagnostics/diagnostic'));
        $total = $answer->text('numberOfRecords');
        if (
            $answer->root->localName !== 'searchRetrieveResponse' ||
            ($diagnostics === [] && ($total === null || preg_match('/^\d{1,15}$/', $total) !== 1))
        ) {
            throw new SruFault('The answer is not that of an SRU server.');
        }
        $records = [];
        foreach ($answer->all('records/record') as $place => $record) {
            $data = $answer->first('recordData', $record);
            if ($data === null) {
                continue;
            }
            $at = $answer->text('recordPosition', $record);
            $isText = ($answer->text('recordPacking', $record) ?? $answer->text('recordXMLEscaping', $record)) === 'string';
            $records[] = self::record(
                $at === null ? $from + $place : max(0, (int) $at - 1),
                $data,
                $isText,
                $answer->text('recordSchema', $record) ?? '',
            );
        }

        return new self((int) $total, $records, $diagnostics);
    }

    /**
     * A record that is none of Dublin Core is named and loses no other: a server puts a diagnostic in the place of one that
     * it cannot give (SRU 1.2, surrogate diagnostics), or gives another schema than was asked for.
     */
    private static function record(int $position, DOMElement $data, bool $isText, string $schema): SruRecord
    {
        try {
            $inner = $isText ? SruXml::read(trim($data->textContent)) : null;
        } catch (SruFault $fault) {
            return new SruRecord($position, [], 'This record cannot be read. '.str_replace('The answer', 'It', $fault->getMessage()));
        }
        $root = $inner->root ?? $data;
        $elements = self::elements($root);
        if ($elements !== []) {
            return new SruRecord($position, $elements);
        }
        $content = $inner->root ?? self::firstElement($data);
        if ($content !== null && $content->localName === 'diagnostic') {
            $told = static fn (string $name): string => trim($content->getElementsByTagNameNS('*', $name)->item(0)->textContent ?? '');

            return new SruRecord(
                $position,
                [],
                'The server gives no record here: '.self::said($told('message'), $told('details'), $told('uri')),
            );
        }
        $name = $schema !== '' ? $schema : (string) ($content->namespaceURI ?? '');

        return new SruRecord(
            $position,
            [],
            $content === null ? 'This record is empty.' : 'This record is not in Dublin Core'.($name === '' ? '.' : " but in “{$name}”."),
        );
    }

    private static function firstElement(DOMElement $data): ?DOMElement
    {
        foreach ($data->childNodes as $child) {
            if ($child instanceof DOMElement) {
                return $child;
            }
        }

        return null;
    }

    private static function diagnostic(SruXml $answer, DOMElement $diagnostic): string
    {
        $message = $answer->text('message', $diagnostic) ?? '';
        $details = $answer->text('details', $diagnostic) ?? '';

        return self::said($message, $details, $answer->text('uri', $diagnostic) ?? '');
    }

    private static function said(string $message, string $details, string $uri): string
    {
        return mb_substr($message === '' ? 'diagnostic '.($uri === '' ? 'without a name' : $uri) : $message, 0, 300).
            ($details === '' ? '' : ' ('.mb_substr($details, 0, 300).')');
    }

    /**
     * The elements of Dublin Core, however deep they stand.
     *
     * @return array<string, list<string>>
     */
    private static function elements(DOMElement $data): array
    {
        $elements = [];
        foreach ($data->getElementsByTagNameNS('http://purl.org/dc/elements/1.1/', '*') as $element) {
            $text = mb_substr(trim((string) preg_replace('/\s+/u', ' ', $element->textContent)), 0, self::LONGEST);
            $name = strtolower((string) $element->localName);
            if ($text !== '' && count($elements[$name] ?? []) < self::MOST_VALUES) {
                $elements[$name][] = $text;
            }
        }

        return $elements;
    }
}
