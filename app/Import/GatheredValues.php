<?php

declare(strict_types=1);

namespace App\Import;

use Brenvic\Core\Design\Proposal\DossierRows;

/** What the dossiers that rows are gathered into have: for each field what most of their rows say. */
final readonly class GatheredValues
{
    /** @param  array<string, array<string, list<string>>>  $usual  values by key and field code */
    private function __construct(public DossierRows $rows, private array $usual)
    {
    }

    /** @param  array<string, array{type: string, values: array<string, list<string>>}>  $read */
    public static function of(DossierRows $rows, array $read): self
    {
        $counts = [];
        foreach ($read as ['values' => $values]) {
            $key = $values[$rows->key][0] ?? null;
            foreach ($key === null ? [] : $rows->shared as $code) {
                if (isset($values[$code])) {
                    $text = implode("\0", $values[$code]);
                    $counts[$key][$code][$text] = ($counts[$key][$code][$text] ?? 0) + 1;
                }
            }
        }
        $usual = [];
        foreach ($counts as $key => $ofKey) {
            foreach ($ofKey as $code => $texts) {
                arsort($texts);
                $usual[(string) $key][$code] = explode("\0", (string) array_key_first($texts));
            }
        }

        return new self($rows, $usual);
    }

    /**
     * @param  array<string, list<string>>  $values  of a row
     * @return array<string, list<string>> of its dossier, the key first; empty when the row has no key
     */
    public function beside(array $values): array
    {
        $key = $values[$this->rows->key][0] ?? null;

        return $key === null ? [] : [$this->rows->key => [$key]] + ($this->usual[$key] ?? []);
    }
}
