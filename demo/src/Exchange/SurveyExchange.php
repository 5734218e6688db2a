<?php

declare(strict_types=1);

namespace Demo\Exchange;

use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\SortKey;
use Brenvic\Core\Query\SyntaxError;
use Demo\FileMaker;

/**
 * The Survey Exchange: a stand-in for a remote repository of the neighbours’ surveys. It is an SRU 1.2 server of its
 * own, with a process of its own, and knows nothing of the application that asks it.
 */
final class SurveyExchange
{
    public const HOME = 'http://survey-exchange.example';

    private const MOST = 50;

    /**
     * Answers one request.
     *
     * @param  array<array-key, mixed>  $asked  the parameters
     * @return array{int, string, string} status, media type, body
     */
    public static function answer(string $path, array $asked): array
    {
        if (preg_match('#^/documents/(SX-\d{5})\.pdf$#', $path, $m) === 1) {
            $survey = SharedSurveys::all()[$m[1]] ?? null;

            return $survey === null ? [404, 'text/plain', 'No such document.'] : [200, 'application/pdf', self::pdf($survey)];
        }
        if ($path !== '/sru') {
            return [404, 'text/plain', 'The SRU server is at /sru.'];
        }
        $of = array_map(static fn (mixed $value): string => is_string($value) ? $value : '', $asked);

        return [
            200,
            'application/xml',
            '<?xml version="1.0" encoding="UTF-8"?>'.
            "\n".
            match ($of['operation'] ?? 'explain') {
                'explain' => self::explain(),
                'searchRetrieve' => self::search($of),
                default => self::response('', [new Diagnostic(4, $of['operation'], 'Unsupported operation')]),
            },
        ];
    }

    /** @param  array<array-key, string>  $asked */
    private static function search(array $asked): string
    {
        try {
            $schema = $asked['recordSchema'] ?? 'dc';
            if ($schema !== '' && $schema !== 'dc' && $schema !== 'info:srw/schema/1/dc-v1.1') {
                throw new Diagnostic(66, $schema, 'Unknown schema for retrieval');
            }
            $query = Parser::parse($asked['query'] ?? throw new Diagnostic(7, 'query', 'Mandatory parameter not supplied'));
            $found = array_values(
                array_filter(SharedSurveys::all(), static fn (SharedSurvey $survey): bool => Matching::fits($query->root, $survey)),
            );
            foreach (array_reverse($query->sortKeys) as $key) {
                $found = self::sorted($found, $key);
            }
        } catch (SyntaxError $fault) {
            return self::response('', [new Diagnostic(10, $fault->getMessage(), 'Query syntax error')]);
        } catch (Diagnostic $fault) {
            return self::response('', [$fault]);
        }
        $start = max(1, (int) ($asked['startRecord'] ?? 1));
        $most = min(self::MOST, max(0, (int) ($asked['maximumRecords'] ?? 10)));
        $records = '';
        foreach (array_slice($found, $start - 1, $most) as $i => $survey) {
            $data = '';
            foreach ($survey->elements as $element => $values) {
                foreach ($values as $value) {
                    $data .= "<dc:{$element}>".self::text($value)."</dc:{$element}>";
                }
            }
            $records .=
                '<record><recordSchema>info:srw/schema/1/dc-v1.1</recordSchema><recordPacking>xml</recordPacking><recordData><srw_dc:dc xmlns:srw_dc="info:srw/schema/1/dc-schema" xmlns:dc="http://purl.org/dc/elements/1.1/">'.
                $data.
                '</srw_dc:dc></recordData><recordPosition>'.
                ($start + $i).
                '</recordPosition></record>';
        }
        $next = $start + $most <= count($found) ? '<nextRecordPosition>'.($start + $most).'</nextRecordPosition>' : '';

        return self::response(
            '<numberOfRecords>'.count($found).'</numberOfRecords>'.($records === '' ? '' : "<records>{$records}</records>").$next,
        );
    }

    /**
     * @param  list<SharedSurvey>  $surveys
     * @return list<SharedSurvey>
     */
    private static function sorted(array $surveys, SortKey $key): array
    {
        $element = str_replace('dc.', '', $key->index);
        if (! in_array($element, ['date', 'title', 'creator'], true)) {
            throw new Diagnostic(80, $key->index, 'Sort not supported');
        }
        usort(
            $surveys,
            static fn (SharedSurvey $a, SharedSurvey $b): int => ($key->descending() ? -1 : 1) *
                strcmp($a->elements[$element][0] ?? '', $b->elements[$element][0] ?? ''),
        );

        return $surveys;
    }

    /** @param  list<Diagnostic>  $diagnostics */
    private static function response(string $inner, array $diagnostics = []): string
    {
        $said = '';
        foreach ($diagnostics as $d) {
            $said .=
                '<diag:diagnostic xmlns:diag="http://www.loc.gov/zing/srw/diagnostic/"><diag:uri>info:srw/diagnostic/1/'.
                $d->number.
                '</diag:uri><diag:details>'.
                self::text($d->details).
                '</diag:details><diag:message>'.
                self::text($d->getMessage()).
                '</diag:message></diag:diagnostic>';
        }

        return '<searchRetrieveResponse xmlns="http://www.loc.gov/zing/srw/"><version>1.2</version>'.
            ($inner === '' ? '<numberOfRecords>0</numberOfRecords>' : $inner).
            ($said === '' ? '' : "<diagnostics>{$said}</diagnostics>").
            '</searchRetrieveResponse>';
    }

    private static function explain(): string
    {
        $indexes = '';
        foreach (Matching::INDEXES as $index) {
            $sorts = in_array($index, ['date', 'title', 'creator'], true) ? ' sort="true"' : '';
            $indexes .=
                '<index search="true" scan="false"'.
                $sorts.
                '><title>'.
                ucfirst($index).
                "</title><map><name set=\"dc\">{$index}</name></map></index>";
        }

        return '<explainResponse xmlns="http://www.loc.gov/zing/srw/"><version>1.2</version><record><recordSchema>http://explain.z3950.org/dtd/2.0/</recordSchema><recordPacking>xml</recordPacking><recordData>'.
            '<explain xmlns="http://explain.z3950.org/dtd/2.0/"><serverInfo protocol="SRU" version="1.2"><host>survey-exchange.example</host><port>80</port><database>sru</database></serverInfo>'.
            '<databaseInfo><title>Survey Exchange</title><description>Surveys and charts of neighbouring waterways</description></databaseInfo>'.
            '<indexInfo><set name="dc" identifier="info:srw/context-set/1/dc-v1.1"/><set name="cql" identifier="info:srw/context-set/1/cql-v1.2"/>'.
            $indexes.
            '<index search="true"><title>Anywhere</title><map><name set="cql">anywhere</name></map></index></indexInfo>'.
            '<schemaInfo><schema identifier="info:srw/schema/1/dc-v1.1" name="dc"><title>Dublin Core</title></schema></schemaInfo>'.
            '<configInfo><default type="numberOfRecords">10</default><setting type="maximumRecords">'.
            self::MOST.
            '</setting></configInfo></explain></recordData></record></explainResponse>';
    }

    private static function pdf(SharedSurvey $survey): string
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'survey-');
        $e = $survey->elements;
        $pages = array_map(
            null,
            [$e['title'][0], ...array_fill(0, max(0, count($survey->paragraphs) - 1), 'Findings')],
            $survey->paragraphs,
        );
        FileMaker::pdf(
            $path,
            "{$e['publisher'][0]} · {$survey->number}",
            array_map(static fn (array $page): array => [(string) $page[0], [(string) $page[1]]], $pages),
        );
        $pdf = (string) file_get_contents($path);
        unlink($path);

        return $pdf;
    }

    private static function text(string $text): string
    {
        return htmlspecialchars($text, ENT_XML1 | ENT_QUOTES);
    }
}
