<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Oai;

use Brenvic\Core\Exchange\Records\RecordSchema;
use Brenvic\Core\Exchange\Records\ServedRecord;
use Brenvic\Core\Xml\WritesXml;
use Brenvic\Core\Xml\XmlText;
use XMLWriter;

/** Writes the responses of OAI-PMH 2.0. */
final class OaiWriter
{
    private const SPACE = 'http://www.openarchives.org/OAI/2.0/';

    private const SCHEMA = 'http://www.openarchives.org/OAI/2.0/OAI-PMH.xsd';

    use WritesXml;

    /**
     * @param  string  $address  of the server
     * @param  array<string, string>  $request  verb and arguments, where they are in order
     */
    public function __construct(string $address, string $now, array $request)
    {
        $this->xml = new XMLWriter;
        $this->xml->openMemory();
        $this->xml->startDocument('1.0', 'UTF-8');
        $this->xml->startElementNs(null, 'OAI-PMH', self::SPACE);
        $this->xml->writeAttribute('xmlns:xsi', 'http://www.w3.org/2001/XMLSchema-instance');
        $this->xml->writeAttribute('xsi:schemaLocation', self::SPACE.' '.self::SCHEMA);
        $this->text('responseDate', $now);
        $this->xml->startElement('request');
        foreach ($request as $name => $value) {
            $this->xml->writeAttribute((string) $name, XmlText::clean($value));
        }
        $this->xml->text($address);
        $this->xml->endElement();
    }

    public function end(): string
    {
        $this->xml->endElement();
        $this->xml->endDocument();

        return $this->xml->outputMemory();
    }

    public function fault(OaiFault $fault): void
    {
        $this->xml->startElement('error');
        $this->xml->writeAttribute('code', $fault->kind);
        $this->xml->text(XmlText::clean($fault->getMessage()));
        $this->xml->endElement();
    }

    /** @param  list<string>  $mail */
    public function identify(string $name, string $address, array $mail, string $earliest, string $example): void
    {
        $this->open('Identify', function () use ($name, $address, $mail, $earliest, $example): void {
            $this->text('repositoryName', $name);
            $this->text('baseURL', $address);
            $this->text('protocolVersion', '2.0');
            foreach ($mail as $of) {
                $this->text('adminEmail', $of);
            }
            $this->text('earliestDatestamp', $earliest);
            $this->text('deletedRecord', 'persistent');
            $this->text('granularity', 'YYYY-MM-DDThh:mm:ssZ');
            $this->text('compression', 'gzip');
            $this->open('description', function () use ($example): void {
                $space = 'http://www.openarchives.org/OAI/2.0/oai-identifier';
                $this->xml->startElementNs(null, 'oai-identifier', $space);
                $this->xml->writeAttribute('xsi:schemaLocation', "{$space} {$space}.xsd");
                $this->text('scheme', 'oai');
                $this->text('repositoryIdentifier', explode(':', $example)[1]);
                $this->text('delimiter', ':');
                $this->text('sampleIdentifier', $example);
                $this->xml->endElement();
            });
        });
    }

    /** @param  list<RecordSchema>  $schemas */
    public function formats(array $schemas): void
    {
        $this->open('ListMetadataFormats', function () use ($schemas): void {
            foreach ($schemas as $schema) {
                $this->open('metadataFormat', function () use ($schema): void {
                    $this->text('metadataPrefix', $schema->value);
                    $this->text('schema', $schema->location());
                    $this->text('metadataNamespace', $schema->space());
                });
            }
        });
    }

    /**
     * @param  list<array{string, string}>  $sets  each with its name
     * @param  string|null  $token  as with records
     */
    public function sets(array $sets, ?string $token, int $given): void
    {
        $this->open('ListSets', function () use ($sets, $token, $given): void {
            foreach ($sets as [$spec, $name]) {
                $this->open('set', function () use ($spec, $name): void {
                    $this->text('setSpec', $spec);
                    $this->text('setName', $name);
                });
            }
            $this->token($token, $given);
        });
    }

    /**
     * @param  list<array{OaiHeader, ServedRecord|null}>  $records  each with what it says, or null where it is deleted
     * @param  string|null  $token  null where the list is whole in one answer; empty at the end of several
     */
    public function list(Verb $verb, ?RecordSchema $schema, array $records, ?string $token, int $given): void
    {
        $this->open($verb->value, function () use ($verb, $schema, $records, $token, $given): void {
            foreach ($records as [$header, $record]) {
                $verb === Verb::ListIdentifiers ? $this->header($header) : $this->record($schema, $header, $record);
            }
            $this->token($token, $given);
        });
    }

    private function token(?string $token, int $given): void
    {
        if ($token !== null) {
            $this->xml->startElement('resumptionToken');
            $this->xml->writeAttribute('cursor', (string) $given);
            $this->xml->text($token);
            $this->xml->endElement();
        }
    }

    public function record(?RecordSchema $schema, OaiHeader $header, ?ServedRecord $record): void
    {
        $this->open('record', function () use ($schema, $header, $record): void {
            $this->header($header);
            if ($record !== null && $schema !== null) {
                $this->open('metadata', fn () => $schema->write($this->xml, $record));
            }
        });
    }

    public function get(RecordSchema $schema, OaiHeader $header, ?ServedRecord $record): void
    {
        $this->open('GetRecord', fn () => $this->record($schema, $header, $record));
    }

    private function header(OaiHeader $header): void
    {
        $this->xml->startElement('header');
        $header->isDeleted && $this->xml->writeAttribute('status', 'deleted');
        $this->text('identifier', $header->identifier);
        $this->text('datestamp', $header->stamp);
        foreach ($header->sets as $set) {
            $this->text('setSpec', $set);
        }
        $this->xml->endElement();
    }
}
