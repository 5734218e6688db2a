<?php

declare(strict_types=1);

namespace Brenvic\Core\Classification;

use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\Terms;
use Brenvic\Core\Fields\InvalidDefinition;

/**
 * Terms as CSV (RFC 4180, UTF-8): `code,label,parent,also_below,synonyms,notation,note,retired,replaced_by`, several of
 * a kind with `|` between them. Only `label` is needed to read one; terms are known again by their codes.
 */
final class TermsTable
{
    private const COLUMNS = ['code', 'label', 'parent', 'also_below', 'synonyms', 'notation', 'note', 'retired', 'replaced_by'];

    /** @param  list<array<string, mixed>>  $terms */
    public static function write(array $terms): string
    {
        $stream = fopen('php://temp', 'r+b') ?: throw new \RuntimeException('No memory for a table.');
        fputcsv($stream, self::COLUMNS, escape: '');
        foreach ($terms as $term) {
            fputcsv(
                $stream,
                array_map(
                    static fn (string $column): string => match (true) {
                        is_array($term[$column] ?? null) => implode('|', array_filter($term[$column], is_string(...))),
                        is_bool($term[$column] ?? null) => $term[$column] ? 'yes' : '',
                        default => is_scalar($term[$column] ?? null) ? (string) $term[$column] : '',
                    },
                    self::COLUMNS,
                ),
                escape: '',
            );
        }
        rewind($stream);

        return (string) stream_get_contents($stream);
    }

    /**
     * @param  array<string, mixed>  $present  the vocabulary it is taken into
     *
     * @throws InvalidDefinition naming the line
     */
    public static function read(string $csv, array $present): SkosImport
    {
        if (! mb_check_encoding($csv, 'UTF-8')) {
            throw new InvalidDefinition('terms', 'The file is not in UTF-8.');
        }
        $stream = fopen('php://temp', 'r+b') ?: throw new \RuntimeException('No memory for a table.');
        fwrite($stream, (string) preg_replace('/^\x{FEFF}/u', '', $csv));
        rewind($stream);
        $head = array_map(static fn (?string $name): string => mb_strtolower(trim((string) $name)), fgetcsv($stream, escape: '') ?: []);
        if (! in_array('label', $head, true)) {
            throw new InvalidDefinition('terms', 'The first line names the columns, and one of them is “label”.');
        }
        foreach (array_diff($head, self::COLUMNS) as $unknown) {
            throw new InvalidDefinition('terms', "There is no column “{$unknown}”. Known are ".implode(', ', self::COLUMNS).'.');
        }
        $known = (new Terms(Design::entries($present, 'terms')))->byCode;
        $byLabel = array_map(
            strval(...),
            array_flip(array_map(static fn (array $t): string => is_string($t['label'] ?? null) ? mb_strtolower($t['label']) : '', $known)),
        );
        $terms = [];
        for ($line = 2; ($row = fgetcsv($stream, escape: '')) !== false; $line++) {
            if ($row === [null]) {
                continue;
            }
            $cell = static fn (string $column): string => trim((string) ($row[(int) array_search($column, $head, true)] ?? ''));
            $given = static fn (string $column): ?string => in_array($column, $head, true) ? $cell($column) : null;
            $label = $cell('label');
            if ($label === '') {
                throw new InvalidDefinition('terms', "Line {$line} has no label.");
            }
            $code = ($given('code') ?? '') !== '' ? (string) $given('code') : $byLabel[mb_strtolower($label)] ?? self::codeOf($label);
            $was = $known[$code] ?? [];
            $terms[] = [
                ...$was,
                'code' => $code,
                'label' => $label,
                'parent' => $given('parent') === null ? $was['parent'] ?? null : ($given('parent') === '' ? null : $given('parent')),
                ...isset($was['also_below']) || $given('also_below') !== null
                    ? ['also_below' => self::several($given('also_below'), $was['also_below'] ?? [])]
                    : [],
                'synonyms' => self::several($given('synonyms'), $was['synonyms'] ?? []),
                'notation' => $given('notation') ?? ($was['notation'] ?? ''),
                'note' => $given('note') ?? ($was['note'] ?? ''),
                'retired' => $given('retired') === null
                        ? $was['retired'] ?? false
                        : in_array(mb_strtolower((string) $given('retired')), ['yes', 'true', '1', 'y'], true),
                'replaced_by' => $given('replaced_by') === null
                        ? $was['replaced_by'] ?? null
                        : ($given('replaced_by') === ''
                            ? null
                            : $given('replaced_by')),
            ];
        }

        return new SkosImport([...$present, 'terms' => $terms], (new Terms($terms))->faults(), $present);
    }

    /** @return list<string> */
    private static function several(?string $cell, mixed $was): array
    {
        if ($cell === null) {
            return array_values(array_filter(is_array($was) ? $was : [], is_string(...)));
        }

        return array_values(array_filter(array_map(trim(...), explode('|', $cell)), static fn (string $text): bool => $text !== ''));
    }

    private static function codeOf(string $label): string
    {
        $code = trim((string) preg_replace('/[^a-z0-9]+/', '_', mb_strtolower((string) iconv('UTF-8', 'ASCII//TRANSLIT', $label))), '_');

        return $code === '' ? 't'.substr(md5($label), 0, 8) : substr($code, 0, 76);
    }
}
