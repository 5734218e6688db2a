<?php

declare(strict_types=1);

namespace Brenvic\Core\Design\Proposal;

/** Values that a records office would not show to everybody: numbers of persons, accounts and cards, addresses, telephones. */
final class Sensitive
{
    private const SHARE = 0.5;

    private const FORMS = [
        'mail addresses of people' => '/^[^@\s<>]+@[^@\s<>]+\.[a-z]{2,}$/i',
        'telephone numbers' => '/^(?=(?:\D*\d){7,15}\D*$)(?:\+|00|\(?0)[\d ()\/.-]{7,22}$/',
        'account numbers (IBAN)' => '/^[A-Z]{2}\d{2}(?: ?[A-Z0-9]{4}){2,7}(?: ?[A-Z0-9]{1,4})?$/',
        'national insurance or personal numbers' => '/^(?:[A-CEGHJ-PR-TW-Z]{2} ?\d{2} ?\d{2} ?\d{2} ?[A-D]|\d{3}-\d{2}-\d{4}'.
            '|\d{6}[-+A]\d{3,4}[0-9A-Z]?|\d{2} ?\d{2} ?\d{2} ?\d{5})$/',
        'postal addresses' => '/^\d+[a-z]?,? \p{Lu}[\p{L}\'. -]+ (?:street|st|road|rd|lane|avenue|ave|way|close|square|place|quay|court|drive|terrace)\b/iu',
        'card numbers' => '/^(?:\d{4}[ -]?){3}\d{4}$/',
    ];

    /** @return string why; empty when nothing says so */
    public static function why(ColumnCounts $column): string
    {
        $weights = $column->weights();
        $all = max(1e-9, array_sum($weights));
        foreach (self::FORMS as $what => $form) {
            $fits = 0.0;
            foreach ($weights as $value => $rows) {
                $fits += preg_match($form, (string) $value) === 1 ? $rows : 0.0;
            }
            if ($fits / $all >= self::SHARE) {
                return "looks like {$what}";
            }
        }

        return '';
    }
}
