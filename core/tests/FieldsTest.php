<?php

declare(strict_types=1);

use Brenvic\Core\Fields\Calendar;
use Brenvic\Core\Fields\CheckCharacter;
use Brenvic\Core\Fields\ColumnFormat;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\DateForm;
use Brenvic\Core\Fields\DateRange;
use Brenvic\Core\Fields\DateSpan;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Fields\Kinds\AmountKind;
use Brenvic\Core\Fields\Kinds\ChoiceKind;
use Brenvic\Core\Fields\Kinds\DateKind;
use Brenvic\Core\Fields\Kinds\DateRangeKind;
use Brenvic\Core\Fields\Kinds\IdentifierKind;
use Brenvic\Core\Fields\Kinds\LongTextKind;
use Brenvic\Core\Fields\Kinds\NumberKind;
use Brenvic\Core\Fields\Kinds\PersonKind;
use Brenvic\Core\Fields\Kinds\ReferenceKind;
use Brenvic\Core\Fields\Kinds\TextKind;
use Brenvic\Core\Fields\Kinds\YesNoKind;
use Brenvic\Core\Fields\NumberForm;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Fields\WrittenForm;

function field(FieldKind $kind, mixed ...$more): FieldDefinition
{
    return new FieldDefinition('sample', 'Sample', $kind, ...$more);
}

it('reads dates as people and files write them', function (string $written, string $iso) {
    expect(field(new DateKind)->parse($written))->toBe($iso);
})->with([
    ['2024-03-14', '2024-03-14'],
    ['14 Mar 2024', '2024-03-14'],
    ['14/3/2024', '2024-03-14'],
    ['March 2024', '2024-03'],
    ['2024', '2024'],
    [' 1 september 1923 ', '1923-09-01'],
]);

it('refuses what is no date', function (string $written) {
    expect(fn () => field(new DateKind)->parse($written))->toThrow(InvalidValue::class);
})->with(['2024-02-30', '2024-13', '14/3/24', 'tomorrow', '31 Apr 2020', '0000']);

it('counts days so that every date is in order and comes back', function () {
    seeded(7);
    $before = 0;
    for ($year = 1580; $year < 2100; $year += mt_rand(1, 9)) {
        $date = PartialDate::parse(sprintf('%04d-%02d-%02d', $year, mt_rand(1, 12), mt_rand(1, 28)));
        expect($date->firstDay())
            ->toBeGreaterThan($before)
            ->and(PartialDate::ofDay($date->firstDay())->iso())
            ->toBe($date->iso());
        $before = $date->firstDay();
    }
    expect(PartialDate::parse('2024-02')->lastDay() - PartialDate::parse('2024-02')->firstDay())
        ->toBe(28)
        ->and(PartialDate::parse('0001-01-01')->firstDay())
        ->toBe(1);
});

it('finds every mistyped character and most swaps by the check character', function () {
    seeded(11);
    $alphabet = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZ';
    for ($i = 0; $i < 300; $i++) {
        $body = '';
        for ($length = mt_rand(3, 12); strlen($body) < $length;) {
            $body .= $alphabet[mt_rand(0, 35)];
        }
        $whole = $body.CheckCharacter::for($body);
        expect(CheckCharacter::holds($whole))->toBeTrue();
        $at = mt_rand(0, strlen($whole) - 1);
        $wrong = $whole;
        do {
            $wrong[$at] = $alphabet[mt_rand(0, 35)];
        } while ($wrong === $whole);
        expect(CheckCharacter::holds($wrong))->toBeFalse();
    }
});

it('names the likely slip of a wrong identifier', function () {
    $field = field(new IdentifierKind, pattern: 'AA-9999-?');
    $right = 'LK-0417-'.CheckCharacter::for('LK-0417');
    expect($field->parse(strtolower($right)))->toBe($right);
    $swapped = str_replace('0417', '0471', $right);
    expect(fn () => $field->parse($swapped))
        ->toThrow(InvalidValue::class, "Did you mean {$right}?")
        ->and(fn () => $field->parse('LK-417'))
        ->toThrow(InvalidValue::class, 'does not have the form');
});

it('reads numbers in each way of writing them', function (string $written, string $number, string $amount) {
    foreach ([[new NumberKind, 'm', $number], [new AmountKind, 'GBP', $amount]] as [$kind, $unit, $expected]) {
        $field = field($kind, unit: $unit);
        if (str_starts_with($expected, '!')) {
            expect(fn () => $field->parse($written))->toThrow(InvalidValue::class, substr($expected, 1));
        } else {
            expect($field->parse($written))->toBe($expected);
        }
    }
})->with([
    ['1,5', '1.5', '1.50'],
    ['2,05', '2.05', '2.05'],
    ['1,204.50', '1204.5', '1204.50'],
    ['1.204,50', '1204.5', '1204.50'],
    ["1\u{202F}204,5", '1204.5', '1204.50'],
    ['1,204', '!can be read as 1204 or as 1.204', '1204.00'],
    ['1,000', '!can be read as 1000 or as 1.', '1000.00'],
    ['1.204', '1.204', '!If thousands are meant, write 1204'],
    ['1,204,500', '1204500', '1204500.00'],
    ['1.204.500', '1204500', '1204500.00'],
    ['0,204', '0.204', '!more than 2 decimals'],
    ['1234,567', '1234.567', '!more than 2 decimals'],
    ['12,34', '12.34', '12.34'],
    ["\u{2212}1,5", '-1.5', '-1.50'],
    ['.5', '0.5', '0.50'],
    ['007', '7', '7.00'],
    ['5,', '5', '5.00'],
    ["1\u{2019}204.5", '1204.5', '1204.50'],
    ['1,20,500', '!is not a number', '!is not a number'],
    ['12 34', '!is not a number', '!is not a number'],
    ['1,204 500', '!is not a number', '!is not a number'],
    ['1.2.3', '!is not a number', '!is not a number'],
    ['1, 5', '!is not a number', '!is not a number'],
    ['0.12345', '!more than 4 decimals', '!more than 2 decimals'],
    ['0.50000', '0.5', '0.50'],
]);

it('takes the unit or the currency from either side', function () {
    expect(field(new NumberKind, unit: 'm')->parse('2,05 m'))
        ->toBe('2.05')
        ->and(field(new AmountKind, unit: 'EUR')->parse('€ 1.204,50'))
        ->toBe('1204.50')
        ->and(field(new AmountKind, unit: 'GBP')->parse('1,204.50 gbp'))
        ->toBe('1204.50');
});

it('reads back what a grouped number says, or refuses it', function () {
    seeded(41);
    for ($i = 0; $i < 3_000; $i++) {
        $places = mt_rand(0, 4);
        $number = mt_rand(-(10 ** mt_rand(1, 9)), 10 ** mt_rand(1, 9)) / 10 ** $places;
        [$point, $thousands] = [['.', ','], [',', '.'], ['.', "\u{2009}"], [',', ' '], ['.', '']][mt_rand(0, 4)];
        $written = number_format($number, $places, $point, $thousands);
        if ($thousands === '.' && preg_match('/^-?[1-9]\d{0,2}\.\d{3}$/', $written) === 1) {
            // One point before three digits is a decimal point, as in data.
            continue;
        }
        $exact = rtrim(rtrim(number_format($number, 4, '.', ''), '0'), '.');
        try {
            expect(field(new NumberKind)->parse($written))->toBe($exact === '-0' ? '0' : $exact, $written);
        } catch (InvalidValue $fault) {
            // Only where one comma stands before the last three digits, and then both readings are given.
            expect(preg_match('/^-?[1-9]\d{0,2},\d{3}$/', $written))
                ->toBe(1, $written)
                ->and($fault->getMessage())
                ->toContain(ltrim($exact, '-'));
        }
    }
});

it('reads numbers, yes and no, and choices, and says what is wrong', function () {
    expect(field(new NumberKind, unit: 'm')->parse('1,250.50 m'))
        ->toBe('1250.5')
        ->and(field(new NumberKind)->parse('-0'))
        ->toBe('0')
        ->and(field(new YesNoKind)->parse('Yes'))
        ->toBe('1')
        ->and(field(new TextKind)->parse("  two\n words "))
        ->toBe('two words')
        ->and(field(new TextKind)->parse('   '))
        ->toBeNull();
    $grade = field(
        new ChoiceKind,
        vocabulary: new Vocabulary('grade', [new VocabularyTerm('a', 'Good'), new VocabularyTerm('b', 'Failing')]),
    );
    expect($grade->parse('good'))
        ->toBe('a')
        ->and($grade->display('b'))
        ->toBe('Failing')
        ->and(fn () => $grade->parse('Failling'))
        ->toThrow(InvalidValue::class, 'Did you mean “Failing”?')
        ->and(fn () => field(new NumberKind, minimum: 0.0)->parse('-1'))
        ->toThrow(InvalidValue::class, 'at least 0')
        ->and(fn () => field(new YesNoKind)->parse('maybe'))
        ->toThrow(InvalidValue::class)
        ->and(fn () => field(new TextKind)->parse("\xFF\xFE"))
        ->toThrow(InvalidValue::class);
});

it('refuses definitions that cannot work, naming the property', function (array $arguments, string $property) {
    try {
        new FieldDefinition(...$arguments);
        $this->fail('accepted');
    } catch (InvalidDefinition $fault) {
        expect($fault->property)->toBe($property);
    }
})->with([
    [['code' => 'Bad Code', 'label' => 'x', 'kind' => new TextKind], 'code'],
    [['code' => 'title', 'label' => 'x', 'kind' => new TextKind], 'code'],
    [['code' => 'x', 'label' => ' ', 'kind' => new TextKind], 'label'],
    [['code' => 'x', 'label' => 'x', 'kind' => new ChoiceKind], 'vocabulary'],
    [['code' => 'x', 'label' => 'x', 'kind' => new LongTextKind, 'faceted' => true], 'faceted'],
    [['code' => 'x', 'label' => 'x', 'kind' => new NumberKind, 'minimum' => 2.0, 'maximum' => 1.0], 'maximum'],
    [['code' => 'x', 'label' => 'x', 'kind' => new IdentifierKind, 'pattern' => 'A?9'], 'pattern'],
]);

it('reads stretches of time as people name them', function (string $words, string $first, string $last) {
    $calendar = new Calendar(new DateTimeImmutable('2024-05-15'), 4);
    $span = DateSpan::parseRange($words, $calendar);
    expect([PartialDate::ofDay($span->first)->iso(), PartialDate::ofDay($span->last)->iso()])->toBe([$first, $last]);
})->with([
    ['today', '2024-05-15', '2024-05-15'],
    ['Yesterday', '2024-05-14', '2024-05-14'],
    ['this week', '2024-05-13', '2024-05-19'],
    ['last month', '2024-04-01', '2024-04-30'],
    ['next quarter', '2024-07-01', '2024-09-30'],
    ['last year', '2023-01-01', '2023-12-31'],
    ['this fiscal year', '2024-04-01', '2025-03-31'],
    ['last fiscal year', '2023-04-01', '2024-03-31'],
    ['fiscal year 2019', '2019-04-01', '2020-03-31'],
    ['last 30 days', '2024-04-16', '2024-05-15'],
    ['2019', '2019-01-01', '2019-12-31'],
    ['2019-03/2019-06', '2019-03-01', '2019-06-30'],
    ['2019-03 2020', '2019-03-01', '2020-12-31'],
    ['14 Mar 2019 2 Apr 2019', '2019-03-14', '2019-04-02'],
    ['last year today', '2023-01-01', '2024-05-15'],
    ['week 12', '2024-03-18', '2024-03-24'],
    ['Week 1 of 2021', '2021-01-04', '2021-01-10'],
    ['week 53, 2020', '2020-12-28', '2021-01-03'],
    ['2024-W12', '2024-03-18', '2024-03-24'],
    ['2009 week 53', '2009-12-28', '2010-01-03'],
    ['12 to 18 March', '2024-03-12', '2024-03-18'],
    ['12-18 March 2023', '2023-03-12', '2023-03-18'],
    ['12 – 18 Mar. 2023', '2023-03-12', '2023-03-18'],
    ['from 12 March to 4 April 2022', '2022-03-12', '2022-04-04'],
    ['between 1st and 3rd May', '2024-05-01', '2024-05-03'],
    ['28 December to 3 January 2024', '2023-12-28', '2024-01-03'],
    ['December to February 2024', '2023-12-01', '2024-02-29'],
    ['2019 to 2021', '2019-01-01', '2021-12-31'],
    ['12 March', '2024-03-12', '2024-03-12'],
    ['March', '2024-03-01', '2024-03-31'],
]);

it('keeps a stretch of time so that it means the same next year, but for what is told from today', function () {
    $now = new Calendar(new DateTimeImmutable('2024-05-15'), 4);
    $later = new Calendar(new DateTimeImmutable('2031-02-01'), 4);
    foreach (
        [
            'Week 12' => ['2024-W12', 'week 12 of 2024'],
            '12 to  18 March' => ['2024-03-12/2024-03-18', '12 to 18 Mar 2024'],
            '28 December to 3 January' => ['2023-12-28/2024-01-03', '28 Dec 2023 to 3 Jan 2024'],
            '12 March to 4 April' => ['2024-03-12/2024-04-04', '12 Mar to 4 Apr 2024'],
            '12 March' => ['2024-03-12', '2024-03-12'],
            'Last  Year' => ['last year', 'last year'],
        ] as $typed => [$kept, $shown]
    ) {
        expect(DateSpan::kept($typed, $now))->toBe($kept)->and(DateSpan::display($kept))->toBe($shown);
        if ($kept !== 'last year') {
            expect(DateSpan::parse($kept, $later))->toEqual(DateSpan::parse($typed, $now));
        }
    }
});

it('says what is wrong with a stretch of time', function (string $words, string $fault) {
    expect(fn () => DateSpan::parse($words, new Calendar(new DateTimeImmutable('2024-05-15'))))->toThrow(InvalidValue::class, $fault);
})->with([
    ['week 60', '2024 has no week 60. Its weeks are 1 to 52.'],
    ['week 0 of 2020', 'Its weeks are 1 to 53.'],
    ['18 to 12 March', 'ends before it begins'],
    ['30 to 31 February', 'not a date'],
    ['12 to 18', 'not a date'],
    ['soon', 'not a date'],
]);

it('reads and shows amounts, stretches of time and references', function () {
    $amount = new FieldDefinition('fee', 'Fee', new AmountKind, unit: 'GBP', minimum: 0);
    foreach (['£1,250' => '1250.00', '12.5 GBP' => '12.50', '0' => '0.00', '1 000.10' => '1000.10'] as $typed => $normal) {
        expect($amount->parse((string) $typed))->toBe($normal)->and($amount->parse($amount->display($normal)))->toBe($normal);
    }
    foreach (['12.505', '-1', 'lots', '12 EUR'] as $wrong) {
        expect(fn () => $amount->parse($wrong))->toThrow(InvalidValue::class);
    }
    expect(fn () => new FieldDefinition('fee', 'Fee', new AmountKind, unit: 'pounds'))->toThrow(InvalidDefinition::class, 'ISO 4217');

    $period = new FieldDefinition('works', 'Works', new DateRangeKind);
    foreach (
        [
            '2019-03/2019-05-14' => '2019-03/2019-05-14',
            'Mar 2019 to 14 May 2019' => '2019-03/2019-05-14',
            '2019 – 2021' => '2019/2021',
            '3 Feb 2020' => '2020-02-03/2020-02-03',
        ] as $typed => $normal
    ) {
        expect($period->parse($typed))->toBe($normal)->and($period->parse($period->display($normal)))->toBe($normal);
    }
    foreach (['2021 to 2019', 'soon', '2019/2020/2021'] as $wrong) {
        expect(fn () => $period->parse($wrong))->toThrow(InvalidValue::class);
    }
    expect(DateRange::parse('2018-11/2021-02')->years())->toBe(['2018', '2019', '2020', '2021']);

    $reference = new FieldDefinition('see', 'See', new ReferenceKind);
    $ref = 'D-00042-'.CheckCharacter::for('D-00042-');
    expect($reference->parse(strtolower($ref)))
        ->toBe($ref)
        ->and(fn () => $reference->parse('D-00024-'.substr($ref, -1)))
        ->toThrow(InvalidValue::class, 'probably swapped');
});

it('keeps patterns and lengths of text, and refuses defaults that could not be given', function () {
    $code = new FieldDefinition('batch', 'Batch', new TextKind, pattern: 'A-99', maxLength: 4);
    expect($code->parse('B-07'))
        ->toBe('B-07')
        ->and(fn () => $code->parse('B7'))
        ->toThrow(InvalidValue::class, 'form')
        ->and(fn () => $code->parse('B-071'))
        ->toThrow(InvalidValue::class, 'longer than 4');
    expect(fn () => new FieldDefinition('n', 'N', new NumberKind, default: 'many'))->toThrow(InvalidDefinition::class, 'default');
});

it('shows columns in the form and under the mask of the view', function (
    FieldKind $kind,
    string $normal,
    string $format,
    string $mask,
    string $shown,
) {
    $field = new FieldDefinition('f', 'F', $kind, unit: $kind instanceof AmountKind ? 'GBP' : '');
    expect((new ColumnFormat($format, $mask))->shown($field, $normal))->toBe($shown);
})->with([
    [new DateKind, '2024-03-14', 'plain', 'none', '14 Mar 2024'],
    [new DateKind, '2024-03-14', 'year', 'none', '2024'],
    [new DateKind, '2024-03-14', 'month', 'none', 'Mar 2024'],
    [new DateKind, '2024', 'month', 'none', '2024'],
    [new DateKind, '2024-03', 'iso', 'none', '2024-03'],
    [new AmountKind, '1250.60', 'whole', 'none', "1\u{2009}251\u{00A0}GBP"],
    [new PersonKind, 'Ada Mary Lorne', 'initials', 'none', 'A. M. Lorne'],
    [new PersonKind, 'Ada Lorne', 'surname', 'none', 'Lorne'],
    [new TextKind, 'Marigold Ash', 'plain', 'all', '•••••'],
    [new TextKind, 'Marigold Ash', 'plain', 'last4', '••••• Ash'],
    [new TextKind, 'Ash', 'plain', 'last4', '•••••'],
]);

it('covers sensitive values wherever they are shown', function () {
    $open = field(new NumberKind, unit: 'm');
    $covered = field(new PersonKind, sensitive: true);
    expect(Cover::hides($open))
        ->toBeFalse()
        ->and(Cover::hides($covered))
        ->toBeTrue()
        ->and(Cover::hides(null))
        ->toBeFalse()
        ->and(Cover::text($open, ['2.05', '3']))
        ->toBe(implode(', ', array_map($open->display(...), ['2.05', '3'])))
        ->and(Cover::text($open, ['2.05'], display: fn (string $normal): string => "about {$normal}"))
        ->toBe('about 2.05')
        ->and(Cover::text($covered, ['Osric Vane', 'Amity Vane']))
        ->toBe(Cover::SIGN)
        ->and(Cover::text($covered, []))
        ->toBe('')
        ->and(Cover::each($covered, ['a', 'b']))
        ->toBe([Cover::SIGN, Cover::SIGN])
        ->and(Cover::each($open, ['a', 'b']))
        ->toBe(['a', 'b'])
        ->and(array_keys(Cover::open(['a' => $open, 'b' => $covered])))
        ->toBe(['a'])
        ->and(array_keys(Cover::hidden(['a' => $open, 'b' => $covered])))
        ->toBe(['b']);
});

it('writes days and numbers as a person has them, so that what is shown can be typed back and never means another value', function () {
    seeded(29);
    $date = new FieldDefinition('day', 'Day', new DateKind);
    $period = new FieldDefinition('period', 'Period', new DateRangeKind);
    $number = new FieldDefinition('depth', 'Depth', new NumberKind, unit: 'm');
    $amount = new FieldDefinition('fee', 'Fee', new AmountKind, unit: 'GBP');
    foreach (DateForm::cases() as $dates) {
        foreach (NumberForm::cases() as $numbers) {
            $form = new WrittenForm($dates, $numbers);
            for ($i = 0; $i < 200; $i++) {
                $iso = substr(sprintf('%04d-%02d-%02d', mt_rand(1500, 2100), mt_rand(1, 12), mt_rand(1, 28)), 0, [4, 7, 10][mt_rand(0, 2)]);
                $typed = $date->written($form)->display($iso);
                expect($date->parse($typed))->toBe($iso, $typed);
                $from = sprintf('%04d-%02d-%02d', mt_rand(1500, 1999), mt_rand(1, 12), mt_rand(1, 28));
                $normal = "{$from}/2001-02-03";
                expect($period->parse($period->written($form)->display($normal)))->toBe($normal);
                foreach ([[$number, (string) round(mt_rand(-9_999_999, 99_999_999) / 10 ** mt_rand(0, 4), 4)], [$amount, sprintf('%.2F', mt_rand(0, 9_999_999) / 100)]] as [$field, $normal]) {
                    $shown = $field->written($form)->display($normal);
                    try {
                        expect($field->parse($shown))->toBe($normal, $shown);
                    } catch (InvalidValue $fault) {
                        // A single comma before three digits may be either; it is asked about, and not guessed.
                        expect($fault->getMessage())->toContain('can be read as');
                    }
                }
            }
        }
    }
    $shown = fn (DateForm $dates, NumberForm $numbers): array => [
        $date->written(new WrittenForm($dates))->display('2024-03-04'),
        $date->written(new WrittenForm($dates))->display('2024-03'),
        $number->written(new WrittenForm(numbers: $numbers))->display('-12345.5'),
        $number->written(new WrittenForm(numbers: $numbers))->displayRange('1000', '2000.25'),
    ];
    expect($shown(DateForm::Words, NumberForm::Point))
        ->toBe(['4 Mar 2024', 'Mar 2024', "-12\u{2009}345.5\u{00A0}m", "1\u{2009}000 to 2\u{2009}000.25\u{00A0}m"])
        ->and($shown(DateForm::Slashes, NumberForm::Comma))
        ->toBe(['04/03/2024', 'Mar 2024', "-12\u{2009}345,5\u{00A0}m", "1\u{2009}000 to 2\u{2009}000,25\u{00A0}m"])
        ->and($shown(DateForm::Iso, NumberForm::CommasAndPoint))
        ->toBe(['2024-03-04', '2024-03', "-12,345.5\u{00A0}m", "1,000 to 2,000.25\u{00A0}m"]);
});
