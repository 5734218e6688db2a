<?php

declare(strict_types=1);

namespace Brenvic\Core\Exchange\Sru\Serving;

use Brenvic\Core\Exchange\Records\RecordSchema;
use Brenvic\Core\Exchange\Records\ServedRecord;
use Brenvic\Core\Xml\WritesXml;
use Brenvic\Core\Xml\XmlText;
use XMLWriter;

/** Writes the responses of an SRU server in the form of the version that is asked for. */
final class SruWriter
{
    private const EXPLAIN = 'http://explain.z3950.org/dtd/2.0/';

    private const FACETS = 'http://docs.oasis-open.org/ns/search-ws/facetedResults';

    /** The context sets, by the short names that are used here. */
    public const SETS = [
        'cql' => 'info:srw/cql-context-set/1/cql-v1.2',
        'dc' => 'info:srw/cql-context-set/1/dc-v1.1',
        'brenvic' => 'urn:brenvic:fields',
    ];

    use WritesXml;

    private function __construct(private readonly Version $version)
    {
        $this->xml = new XMLWriter();
        $this->xml->openMemory();
        $this->xml->startDocument('1.0', 'UTF-8');
    }

    /**
     * @param  string  $address  of the server
     * @param  list<ServedIndex>  $indexes
     */
    public static function explain(Version $version, string $address, string $title, string $description, array $indexes): string
    {
        $self = new self($version);
        $self->begin(Operation::Explain, 'explainResponse');
        $self->open('record', static function () use ($self, $address, $title, $description, $indexes): void {
            $self->text('recordSchema', self::EXPLAIN);
            $self->text($self->version->packing(), 'xml');
            $self->open('recordData', static fn () => $self->zeerex($address, $title, $description, $indexes));
        });

        return $self->end();
    }

    /**
     * @param  list<ServedRecord|Diagnostic>  $records  a diagnostic stands in the place of one that cannot be given
     * @param  string|null  $set  by which the result can be asked for again
     * @param  list<ServedFacet>|null  $facets
     * @param  list<Diagnostic>  $warnings  beside the answer
     */
    public static function search(
        SruQuestion $question,
        RecordSchema $schema,
        int $total,
        array $records,
        ?string $set,
        int $setSeconds,
        ?array $facets,
        string $address,
        array $warnings = [],
    ): string {
        $self = new self($question->version);
        $self->begin(Operation::SearchRetrieve, 'searchRetrieveResponse');
        $self->text('numberOfRecords', (string) $total);
        if ($set !== null) {
            $self->text('resultSetId', $set);
            $self->text($question->version === Version::V20 ? 'resultSetTTL' : 'resultSetIdleTime', (string) $setSeconds);
        }
        $question->version === Version::V20 && $self->text('resultCountPrecision', 'exact');
        if ($records !== []) {
            $self->open('records', static function () use ($self, $question, $schema, $records): void {
                foreach ($records as $i => $record) {
                    $self->record($question, $schema, $record, $question->start + $i);
                }
            });
        }
        $next = $question->start + count($records);
        $next <= $total && $records !== [] && $self->text('nextRecordPosition', (string) $next);
        $self->echoed($question, 'echoedSearchRetrieveRequest');
        $self->diagnostics($warnings);
        $facets === null || $self->facets($facets, $address, $question);

        return $self->end();
    }

    /** @param  list<ServedTerm>  $terms */
    public static function scan(SruQuestion $question, array $terms): string
    {
        $self = new self($question->version);
        $self->begin(Operation::Scan, 'scanResponse');
        if ($terms !== []) {
            $self->open('terms', static function () use ($self, $terms): void {
                foreach ($terms as $term) {
                    $self->open('term', static function () use ($self, $term): void {
                        $self->text('value', $term->value);
                        $self->text('numberOfRecords', (string) $term->documents);
                        $term->shown === $term->value || $self->text('displayTerm', $term->shown);
                        $term->where === null || $self->text('whereInList', $term->where);
                    });
                }
            });
        }
        $self->echoed($question, 'echoedScanRequest');

        return $self->end();
    }

    /** The answer to what cannot be answered. */
    public static function fault(Version $version, Operation $operation, Diagnostic $fault): string
    {
        $self = new self($version);
        $self->begin($operation, "{$operation->value}Response");
        $operation === Operation::SearchRetrieve && $self->text('numberOfRecords', '0');
        // An explain record has to be there in versions before 2.0; a fault has none.
        $self->diagnostics([$fault]);

        return $self->end();
    }

    private function begin(Operation $operation, string $name): void
    {
        $this->xml->startElementNs(null, $name, $this->version->space($operation));
        $this->text('version', $this->version->value);
    }

    private function end(): string
    {
        $this->xml->endElement();
        $this->xml->endDocument();

        return $this->xml->outputMemory();
    }

    private function record(SruQuestion $question, RecordSchema $schema, ServedRecord|Diagnostic $record, int $position): void
    {
        $this->open('record', function () use ($question, $schema, $record, $position): void {
            $this->text('recordSchema', $record instanceof Diagnostic ? 'info:srw/schema/1/diagnostics-v1.1' : $schema->identifier());
            $this->text($question->version->packing(), $question->isText ? 'string' : 'xml');
            $this->open('recordData', function () use ($question, $schema, $record): void {
                $into = $question->isText ? self::apart() : $this->xml;
                $record instanceof Diagnostic ? self::diagnostic($into, $question->version, $record) : $schema->write($into, $record);
                $question->isText && $this->xml->text($into->outputMemory());
            });
            if ($question->version !== Version::V11 && $record instanceof ServedRecord) {
                $this->text('recordIdentifier', $record->ref);
            }
            $this->text('recordPosition', (string) $position);
        });
    }

    private static function apart(): XMLWriter
    {
        $xml = new XMLWriter();
        $xml->openMemory();

        return $xml;
    }

    /** @param  list<Diagnostic>  $faults */
    private function diagnostics(array $faults): void
    {
        if ($faults === []) {
            return;
        }
        $this->open('diagnostics', function () use ($faults): void {
            foreach ($faults as $fault) {
                self::diagnostic($this->xml, $this->version, $fault);
            }
        });
    }

    private static function diagnostic(XMLWriter $xml, Version $version, Diagnostic $fault): void
    {
        $xml->startElementNs(null, 'diagnostic', $version->diagnosticSpace());
        $xml->writeElement('uri', $fault->uri());
        $fault->details === '' || $xml->writeElement('details', XmlText::clean($fault->details));
        $xml->writeElement('message', $fault->getMessage());
        $xml->endElement();
    }

    private function echoed(SruQuestion $question, string $name): void
    {
        $this->open($name, function () use ($question): void {
            $this->text('version', $this->version->value);
            $names = match (true) {
                $question->operation === Operation::Scan => ['scanClause', 'responsePosition', 'maximumTerms'],
                $this->version === Version::V20 => [
                    'query',
                    'startRecord',
                    'maximumRecords',
                    'recordXMLEscaping',
                    'recordSchema',
                    'resultSetTTL',
                    'facetLimit',
                    'facetStart',
                    'facetSort',
                ],
                default => ['query', 'startRecord', 'maximumRecords', 'recordPacking', 'recordSchema', 'resultSetTTL', 'sortKeys'],
            };
            foreach ($names as $of) {
                ($question->given[$of] ?? '') === '' || $this->text($of, $question->given[$of]);
            }
        });
    }

    /** @param  list<ServedFacet>  $facets */
    private function facets(array $facets, string $address, SruQuestion $question): void
    {
        $of = fn (string $name, string $text): bool => $this->xml->writeElement("facet:{$name}", XmlText::clean($text));
        $this->xml->startElement('facet:facetedResults');
        $this->xml->writeAttribute('xmlns:facet', self::FACETS);
        $this->xml->startElement('facet:datasource');
        $of('datasourceDisplayLabel', 'Brenvic');
        $of('baseURL', $address);
        $this->xml->startElement('facet:facets');
        foreach ($facets as $facet) {
            $this->xml->startElement('facet:facet');
            $of('facetDisplayLabel', $facet->label);
            $of('index', $facet->index);
            $of('relation', '==');
            $this->xml->startElement('facet:terms');
            foreach ($facet->terms as $term) {
                $this->xml->startElement('facet:term');
                $of('actualTerm', $term['term']);
                $of('query', $term['query']);
                $of(
                    'requestUrl',
                    $address.'?'.http_build_query(['query' => $term['query'], 'maximumRecords' => (string) $question->most]),
                );
                $of('count', (string) $term['count']);
                $this->xml->endElement();
            }
            $this->xml->endElement();
            $this->xml->endElement();
        }
        $this->xml->endElement();
        $this->xml->endElement();
        $this->xml->endElement();
    }

    /**
     * What the server is and can do, as a ZeeRex record.
     *
     * @param  list<ServedIndex>  $indexes
     */
    private function zeerex(string $address, string $title, string $description, array $indexes): void
    {
        $at = parse_url($address);
        $isSecure = ($at['scheme'] ?? 'http') === 'https';
        $this->xml->startElementNs(null, 'explain', self::EXPLAIN);
        $this->open('serverInfo', function () use ($at, $isSecure): void {
            $this->xml->writeAttribute('protocol', 'SRU');
            $this->xml->writeAttribute('version', $this->version->value);
            $this->xml->writeAttribute('transport', $isSecure ? 'https' : 'http');
            $this->xml->writeAttribute('method', 'GET POST');
            $this->text('host', (string) ($at['host'] ?? 'localhost'));
            $this->text('port', (string) ($at['port'] ?? ($isSecure ? 443 : 80)));
            $this->text('database', ltrim((string) ($at['path'] ?? ''), '/'));
        });
        $this->open('databaseInfo', function () use ($title, $description): void {
            $this->primary('title', $title);
            $this->primary('description', $description);
        });
        $this->open('indexInfo', function () use ($indexes): void {
            foreach (self::SETS as $name => $identifier) {
                $this->open('set', function () use ($name, $identifier): void {
                    $this->xml->writeAttribute('identifier', $identifier);
                    $this->xml->writeAttribute('name', $name);
                    $this->primary('title', ['cql' => 'CQL', 'dc' => 'Dublin Core', 'brenvic' => 'Fields of this office'][$name]);
                });
            }
            foreach ($indexes as $index) {
                $this->index($index);
            }
        });
        $this->open('schemaInfo', function (): void {
            foreach (RecordSchema::cases() as $schema) {
                $this->open('schema', function () use ($schema): void {
                    $this->xml->writeAttribute('identifier', $schema->identifier());
                    $this->xml->writeAttribute('name', $schema->value);
                    $schema->location() === '' || $this->xml->writeAttribute('location', $schema->location());
                    $this->xml->writeAttribute('retrieve', 'true');
                    $this->primary('title', $schema->title());
                });
            }
        });
        $this->open('configInfo', function (): void {
            $this->setting('default', 'numberOfRecords', '10');
            $this->setting('default', 'retrieveSchema', RecordSchema::DublinCore->identifier());
            $this->setting('setting', 'maximumRecords', (string) SruQuestion::MOST);
            foreach (['<', '<=', '>', '>=', '=', '==', '<>', 'any', 'all', 'adj', 'within', 'encloses'] as $relation) {
                $this->setting('supports', 'relation', $relation);
            }
            foreach (['stem', 'phonetic', 'fuzzy', 'word', 'string', 'masked', 'unmasked', 'ignoreCase', 'ignoreAccents'] as $modifier) {
                $this->setting('supports', 'relationModifier', $modifier);
            }
            foreach (['and', 'or', 'not', 'prox'] as $boolean) {
                $this->setting('supports', 'booleanModifier', $boolean);
            }
            $this->setting('supports', 'sort', '');
            $this->setting('supports', 'scan', '');
            $this->setting('supports', 'resultSets', '');
            $this->setting('supports', 'maskingCharacter', '*');
            $this->setting('supports', 'maskingCharacter', '?');
        });
        $this->xml->endElement();
    }

    private function index(ServedIndex $index): void
    {
        $this->open('index', function () use ($index): void {
            $this->xml->writeAttribute('search', 'true');
            $this->xml->writeAttribute('scan', $index->isScanned ? 'true' : 'false');
            $this->xml->writeAttribute('sort', $index->isSorted ? 'true' : 'false');
            $this->primary('title', $index->title);
            $this->open('map', function () use ($index): void {
                $this->open('name', function () use ($index): void {
                    $this->xml->writeAttribute('set', $index->set);
                    $this->xml->text($index->name);
                });
            });
        });
    }

    private function primary(string $name, string $text): void
    {
        $this->open($name, function () use ($text): void {
            $this->xml->writeAttribute('lang', 'en');
            $this->xml->writeAttribute('primary', 'true');
            $this->xml->text(XmlText::clean($text));
        });
    }

    private function setting(string $name, string $type, string $text): void
    {
        $this->open($name, function () use ($type, $text): void {
            $this->xml->writeAttribute('type', $type);
            $this->xml->text($text);
        });
    }
}
