<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields\Kinds;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\NumberText;

/** An amount of money in the currency of its field (ISO 4217), with two decimals. */
final class AmountKind extends NumberKind
{
    private const SIGNS = ['GBP' => '£', 'EUR' => '€', 'USD' => '$'];

    public function __construct()
    {
        parent::__construct('amount', 'Amount');
    }

    public function options(): array
    {
        return ['currency', 'bounds', 'default'];
    }

    public function check(FieldDefinition $field): void
    {
        if (preg_match('/^[A-Z]{3}$/', $field->unit) !== 1) {
            throw new InvalidDefinition('unit', 'An amount needs its currency as three capital letters (ISO 4217), like GBP.');
        }
    }

    public function parse(FieldDefinition $field, string $text): string
    {
        $plain = trim(str_ireplace(array_filter([$field->unit, self::SIGNS[$field->unit] ?? '']), '', $text));
        $number = NumberText::read($plain === '' ? $text : $plain, 2, '1250 or 1250.75');

        return number_format((float) $this->bounds($field, $text, $number), 2, '.', '');
    }
}
