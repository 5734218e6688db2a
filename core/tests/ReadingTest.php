<?php

declare(strict_types=1);

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\WordBox;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\Kinds\AmountKind;
use Brenvic\Core\Fields\Kinds\ChoiceKind;
use Brenvic\Core\Fields\Kinds\DateKind;
use Brenvic\Core\Fields\Kinds\IdentifierKind;
use Brenvic\Core\Fields\Kinds\NumberKind;
use Brenvic\Core\Fields\Kinds\PersonKind;
use Brenvic\Core\Fields\Kinds\TextKind;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Reading\Context;
use Brenvic\Core\Reading\Direction;
use Brenvic\Core\Reading\Found;
use Brenvic\Core\Reading\KindRule;
use Brenvic\Core\Reading\Outcome;
use Brenvic\Core\Reading\PatternRule;
use Brenvic\Core\Reading\PositionRule;
use Brenvic\Core\Reading\Reader;
use Brenvic\Core\Reading\ReadingRule;
use Brenvic\Core\Reading\SafePattern;
use Brenvic\Core\Reading\TooManySteps;
use Brenvic\Core\Reading\WordListRule;

function fieldNamed(string $kind): FieldDefinition
{
    return match ($kind) {
        'date' => new FieldDefinition('day', 'Day', new DateKind),
        'amount' => new FieldDefinition('fee', 'Fee', new AmountKind, unit: 'GBP'),
        'number' => new FieldDefinition('depth', 'Depth', new NumberKind),
        'person' => new FieldDefinition('who', 'Who', new PersonKind),
        'identifier' => new FieldDefinition('permit', 'Permit', new IdentifierKind, pattern: 'AA-9999-?'),
        default => new FieldDefinition('note', 'Note', new TextKind),
    };
}

/** @return list<string> what a rule reads of a text without boxes */
function valuesRead(ReadingRule $rule, FieldDefinition $field, string $text): array
{
    return Reader::read($rule, $field, [1 => new TextPage(0, 0, $text)])->values();
}

/**
 * A page with boxes: words of 6 by 10 units a sign, where they are put.
 *
 * @param  list<array{float, float, string}>  $put  left, top and words, in the order of the text
 */
function formOf(array $put): TextPage
{
    $text = '';
    $boxes = [];
    foreach ($put as [$left, $top, $line]) {
        foreach (explode(' ', $line) as $word) {
            $width = 6.0 * mb_strlen($word);
            $boxes[] = new WordBox(strlen($text), strlen($word), $left, $top, $left + $width, $top + 10);
            $text .= "{$word} ";
            $left += $width + 4;
        }
        $text = rtrim($text)."\n";
    }

    return new TextPage(600, 800, $text, $boxes);
}

it('reads whatever fits the kind of a field', function (string $kind, string $text, array $values) {
    expect(valuesRead(new KindRule(), fieldNamed($kind), $text))->toBe($values);
})->with([
    ['date', 'Seen on 14 March 2024, and again 2024-03-20; order 417-2024.', ['2024-03-14', '2024-03-20']],
    ['amount', 'Fee: £1,250.00 and GBP 30, or EUR 12, $4', ['1250.00', '30.00']],
    ['person', 'Told to Harriet Oake and to J. R. Fenn by the office', ['Harriet Oake', 'J. R. Fenn']],
    ['date', 'nothing of that kind', []],
]);

it('reads words by their other spellings, the longer before the shorter', function () {
    $rule = new WordListRule([['Lower basin', ['the basin', 'basin, lower']], ['Basin', []], ['Écluse', ['sluice']]]);
    $read = Reader::read($rule, fieldNamed('text'), [1 => new TextPage(0, 0, 'At THE  BASIN; then a basin, the ecluse and the lower basin. Basins no.')]);
    expect(array_map(static fn (Found $f): array => [$f->offset, $f->length, $f->value], $read->found))->toBe([
        [3, 10, 'Lower basin'], [22, 5, 'Basin'], [33, 6, 'Écluse'], [48, 11, 'Lower basin'],
    ]);
});

it('finds in generated texts the words that going through every place finds', function () {
    seeded(1921);
    $list = [['Gate', ['gate', 'lock gate']], ['Lock', ['lock', 'the lock']], ['Sill', ['sill of the lock']], ['Weir', ['old weir', 'weir']]];
    $spelt = [];
    foreach ($list as [$value, $spellings]) {
        foreach ([mb_strtolower($value), ...$spellings] as $spelling) {
            $spelt[$spelling] = $value;
        }
    }
    uksort($spelt, static fn (string $a, string $b): int => substr_count($b, ' ') <=> substr_count($a, ' '));
    for ($round = 0; $round < 200; $round++) {
        $words = array_map(static fn (): string => ['gate', 'lock', 'the', 'sill', 'of', 'old', 'weir', 'x'][mt_rand(0, 7)], range(1, mt_rand(1, 14)));
        $expected = [];
        for ($i = 0; $i < count($words); $i++) {
            foreach ($spelt as $spelling => $value) {
                $of = explode(' ', $spelling);
                if (array_slice($words, $i, count($of)) === $of) {
                    $expected[] = $value;
                    $i += count($of) - 1;
                    break;
                }
            }
        }
        $read = Reader::read(new WordListRule($list), fieldNamed('text'), [1 => new TextPage(0, 0, implode(' ', $words))]);
        expect(array_map(static fn (Found $f): string => $f->value, $read->found))->toBe($expected);
    }
});

it('reads what fits a pattern, of a named part that part alone, and only what the field can have', function () {
    $number = new PatternRule(SafePattern::of('depth\s+(?<value>\d+(?:\.\d+)?)\s*m\b'));
    expect(valuesRead($number, fieldNamed('number'), "depth 2.40 m\ndepth x m, depth 3 m"))->toBe(['2.4', '3']);
    $permit = new PatternRule(SafePattern::of('[A-Z]{2}-\d{4}-[A-Z\d]'));
    $right = Brenvic\Core\Fields\CheckCharacter::for('LK0417');
    expect(valuesRead($permit, fieldNamed('identifier'), "LK-0417-{$right} and LK-0418-{$right}"))->toBe(["LK-0417-{$right}"]);
    expect(valuesRead(new PatternRule(SafePattern::of('^To: (?<value>.+)$')), fieldNamed('text'), "To: The office\nFrom: x\nTo: Élan Fenn"))->toBe([
        'The office', 'Élan Fenn',
    ]);
});

it('refuses patterns that look elsewhere, refer back, or fit everywhere', function (string $pattern, string $says) {
    expect(static fn () => SafePattern::of($pattern))->toThrow(InvalidDefinition::class, $says);
})->with([
    ['', 'Enter a pattern'],
    ['(?=a)b', 'not supported'],
    ['(?<!a)b', 'not supported'],
    ['(a)\1', 'not supported'],
    ['(?R)', 'not supported'],
    ['(?i)a', 'not supported'],
    ['(?>a)b', 'not supported'],
    ['(*COMMIT)a', 'not supported'],
    ['(?#note)a', 'not supported'],
    ['a\Qb', 'not supported'],
    ['a\Kb', 'not supported'],
    ['a\g{1}', 'not supported'],
    ['\x41', 'not supported'],
    ['a++', 'not supported'],
    ['a*', 'everywhere'],
    ['(a|)', 'everywhere'],
    ['(a', 'arenthes'],
    ['[a', 'character class'],
    ['*a', 'repeatable'],
    [str_repeat('a', 501), '500 characters'],
]);

it('takes the patterns that people write', function (string $pattern, string $text, array $found) {
    expect(array_column(SafePattern::of($pattern)->matches($text), 2))->toBe($found);
})->with([
    ['[\w.+-]+@[\w-]+(?:\.[\w-]+)+', 'Write to h.oake@tarnwick.example, or x@y', ['h.oake@tarnwick.example']],
    ['\+?\d[\d ()-]{6,}\d', 'Call +44 (0)1632 960 417 today', ['+44 (0)1632 960 417']],
    ['\p{Lu}\p{Ll}+ [Bb]asin', 'Lower basin, Élan Basin', ['Lower basin', 'Élan Basin']],
    ['a~b', 'a~b', ['a~b']],
    ['[]x]+', 'a]x]', [']x]']],
    ['[(?=]+', '(?=', ['(?=']],
    ['\(\d\)', '(1) (x)', ['(1)']],
]);

it('stops a pattern that would take for ever, and names it', function () {
    $rule = new PatternRule(SafePattern::of('(x+x+)+y'));
    expect(static fn () => Reader::read($rule, fieldNamed('text'), [1 => new TextPage(0, 0, str_repeat('x', 60).'z y')]))->toThrow(TooManySteps::class, '(x+x+)+y');
});

it('reads what stands behind printed words, with a colon, dots or a new line between', function (string $text, array $values) {
    expect(valuesRead(new PositionRule('Inspected on', Direction::Behind), fieldNamed('date'), $text))->toBe($values);
})->with([
    ['Filed 1 Jan 2020. Inspected on: 14 March 2024 by Fenn', ['2024-03-14']],
    ["INSPECTED  ON ....... 14.03.2024\nnext 15.03.2024", ['2024-03-14']],
    ["Inspected on\n14 March 2024", ['2024-03-14']],
    ['Inspected on the day. And much else.', []],
    ['Reinspected on 14 March 2024', []],
    ["Inspected on 1 May 2023\nInspected on 2 May 2023", ['2023-05-01', '2023-05-02']],
]);

it('reads a term by its name, or by its code as the first word there', function (string $text, array $values) {
    $grades = new Vocabulary('grade', [new VocabularyTerm('a', 'A: as new'), new VocabularyTerm('c', 'C: fair'), new VocabularyTerm('x', 'Not seen')]);
    $field = new FieldDefinition('grade', 'Grade', new ChoiceKind, vocabulary: $grades);
    expect(valuesRead(new PositionRule('Condition grade', Direction::Behind), $field, $text))->toBe($values);
})->with([
    ['Condition grade C.', ['c']],
    ["Condition grade: C: fair\n", ['c']],
    ["Condition grade a, and more\nof it", ['a']],
    ['Condition grade not seen', ['x']],
    ['Condition grade D.', []],
]);

it('reads what stands to the right of printed words, however the text runs', function () {
    // The labels come first in the text, then the values: as forms of two columns are often read.
    $page = formOf([
        [50, 100, 'Permit no.'], [50, 120, 'Fee due'], [50, 140, 'Holder'],
        [200, 101, 'AB-0001-X'], [200, 121, '£120.00'], [200, 141, 'Harriet Oake'], [400, 141, 'Berth 4'],
    ]);
    $read = static fn (string $anchor, string $kind): array => Reader::read(new PositionRule($anchor, Direction::Right), fieldNamed($kind), [1 => $page])->values();
    expect($read('Fee due', 'amount'))->toBe(['120.00'])->and($read('Holder', 'text'))->toBe(['Harriet Oake'])->and($read('Permit no', 'text'))->toBe([
        'AB-0001-X',
    ]);
});

it('reads the line below printed words, in its column', function () {
    $page = formOf([
        [50, 100, 'To:'], [300, 100, 'Date:'],
        [50, 114, 'The harbour office'], [300, 114, '14 March 2024'],
        [50, 128, 'Tarnwick Quay'],
    ]);
    $read = static fn (string $anchor, string $kind): array => Reader::read(new PositionRule($anchor, Direction::Below), fieldNamed($kind), [1 => $page])->values();
    expect($read('To:', 'text'))->toBe(['The harbour office'])->and($read('Date', 'date'))->toBe(['2024-03-14'])->and($read('Quay', 'text'))->toBe([]);
    // Without boxes it is the next line.
    expect(valuesRead(new PositionRule('To', Direction::Below), fieldNamed('text'), "To:\nThe office\nelse"))->toBe(['The office']);
});

it('reads a long document up to a limit, and says so', function () {
    $page = new TextPage(0, 0, str_repeat("Seen on 14 March 2024.\n", 60_000));
    $reading = Reader::read(new KindRule(), fieldNamed('date'), [1 => $page, 2 => $page]);
    expect($reading->isCut)->toBeTrue()->and($reading->values())->toBe(['2024-03-14']);
    expect(Reader::read(new KindRule(), fieldNamed('date'), [1 => new TextPage(0, 0, 'Short.')])->isCut)->toBeFalse();
});

it('proposes one value, or each of several once', function () {
    $reading = Reader::read(new KindRule(), fieldNamed('date'), [1 => new TextPage(0, 0, '1 May 2023, 2 May 2023'), 2 => new TextPage(0, 0, '1 May 2023')]);
    $told = static fn (bool $several): array => array_map(static fn (Found $f): array => [$f->page, $f->value], $reading->proposed($several));
    expect($told(false))->toBe([[1, '2023-05-01']])->and($told(true))->toBe([[1, '2023-05-01'], [1, '2023-05-02']]);
});

it('holds what was read against what was given', function (array $read, array $given, Outcome $outcome) {
    expect(Outcome::of($read, $given))->toBe($outcome);
})->with([
    [['a'], ['a'], Outcome::Agrees],
    [['a', 'b'], ['b', 'a'], Outcome::Agrees],
    [['2024-03-14'], ['2024-03'], Outcome::Agrees],
    [['2024-03-14'], ['2024'], Outcome::Agrees],
    [['2024-03'], ['2024-03-14'], Outcome::Differs],
    [['a'], ['b'], Outcome::Differs],
    [['a'], ['a', 'b'], Outcome::Differs],
    [[], ['a'], Outcome::Nothing],
    [['a'], [], Outcome::New],
    [[], [], Outcome::Empty],
]);

it('shows a place with the words around it, and none that are cut', function () {
    $text = str_repeat('Much was said before. ', 9).'Inspected on 14 March 2024 by Fenn, '.str_repeat('who went on and on ', 9);
    $at = (int) strpos($text, '14 March');
    $pieces = Context::of($text, $at, 13);
    expect($pieces[0])->toBe(['Inspected on ', false])->and($pieces[1])->toBe(['14 March 2024', true])->and($pieces[2][0])->toStartWith(' by Fenn, who went');
    $long = str_repeat('électricité ', 20);
    foreach (Context::of("{$long}14 March 2024 {$long}", strlen($long), 13) as [$piece, $isIt]) {
        expect(array_diff(explode(' ', trim($piece)), ['électricité', '14', 'March', '2024']))->toBe([]);
    }
    expect(Context::of('14 March 2024', 0, 13))->toBe([['14 March 2024', true]]);
});
