<?php

declare(strict_types=1);

use Brenvic\Core\Capture\LineBreaks;
use Brenvic\Core\Capture\MarkupText;
use Brenvic\Core\Capture\PageBuilder;
use Brenvic\Core\Capture\PlainPages;
use Brenvic\Core\Capture\PopplerLayout;
use Brenvic\Core\Capture\TesseractTable;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Capture\WordBox;

/** @return list<string> the words of a page by their boxes */
function boxed(TextPage $page): array
{
    return array_map(static fn (WordBox $w): string => substr($page->text, $w->offset, $w->length), $page->words);
}

it('cuts long texts so that nothing is lost at a cut', function () {
    seeded(93);
    for ($round = 0; $round < 60; $round++) {
        $text = '';
        for ($n = mt_rand(0, 3000); $n > 0; $n--) {
            $text .= ['weir', 'écluse', '東京港', str_repeat('x', mt_rand(1, 40))][mt_rand(0, 3)].[' ', "\n", '', "\r\n", "\n\n", ' '][mt_rand(0, 5)];
        }
        $pages = PlainPages::of($text);
        $whole = str_replace(["\r\n", "\r"], "\n", $text);
        $joined = PlainPages::joined(array_map(static fn (TextPage $page): array => [$page->text, true], $pages));
        // What is only white space at the end is no piece of its own.
        expect(rtrim($joined))->toBe(rtrim($whole));
        foreach ($pages as $page) {
            expect(strlen($page->text))->toBeLessThanOrEqual(6002)->and(mb_check_encoding($page->text, 'UTF-8'))->toBeTrue();
        }
    }
    $text = static fn (TextPage $page): string => $page->text;
    expect(array_map($text, PlainPages::of("one\ftwo")))
        ->toBe(["one\n\n", 'two'])
        ->and(array_map($text, PlainPages::of('')))
        ->toBe([''])
        // A sign is never cut in two, and a word only where it is longer than a piece.
        ->and(strlen(PlainPages::of(str_repeat('港', 5000))[0]->text) % 3)
        ->toBe(0)
        ->and(PlainPages::of(str_repeat('weir ', 3000))[0]->text)
        ->toEndWith('weir ')
        ->and(PlainPages::joined([['one', false], ['two', false]]))
        ->toBe("one\ntwo\n");
});

it('puts pages together so that text and boxes agree', function () {
    $builder = new PageBuilder(595.0, 842.0);
    $builder->endParagraph();
    foreach (['Lock', '  ', 'écluse'] as $i => $word) {
        $builder->word($word, $i, 0, $i + 1, 1);
    }
    $builder->endLine();
    $builder->endLine();
    $builder->word("ga\xFFte", 0, 2, 1, 3);
    $builder->endParagraph();
    $builder->endParagraph();
    $builder->word('end', 0, 4, 1, 5);
    $builder->endParagraph();
    $page = $builder->page();
    expect($page->text)
        ->toBe("Lock écluse\nga?te\n\nend")
        ->and(boxed($page))
        ->toBe(['Lock', 'écluse', 'ga?te', 'end'])
        ->and([$page->width, $page->height, $page->words[1]->left])
        ->toBe([595.0, 842.0, 2.0]);
});

it('reads the pages of a PDF as the program that lays them out writes them', function () {
    $layout = <<<'XML'
        <!DOCTYPE html PUBLIC "-//W3C//DTD XHTML 1.0 Transitional//EN" "http://www.w3.org/TR/xhtml1/DTD/xhtml1-transitional.dtd">
        <html xmlns="http://www.w3.org/1999/xhtml"><body><doc>
          <page width="595.0" height="842.0"><flow>
            <block><line><word xMin="56.7" yMin="60.1" xMax="90.2" yMax="72.0">Lock &amp; gate</word>
            <word xMin="92" yMin="60" xMax="99" yMax="72">7</word></line>
            <line><word xMin="56.7" yMin="80" xMax="90.2" yMax="92">leaks</word></line></block>
            <block><line><word xMin="1" yMin="2" xMax="3" yMax="4">Sill</word></line></block>
          </flow></page>
          <page width="842.0" height="595.0"/>
          <page width="100" height="50"><flow><block><line><word xMin="0" yMin="0" xMax="1" yMax="1">End</word></line></block></flow></page>
        </doc></body></html>
        XML;
    $pages = iterator_to_array(PopplerLayout::pages($layout), false);
    expect(array_map(static fn (TextPage $page): string => $page->text, $pages))
        ->toBe(["Lock & gate 7\nleaks\n\nSill", '', 'End'])
        ->and(boxed($pages[0]))
        ->toBe(['Lock & gate', '7', 'leaks', 'Sill'])
        ->and([$pages[0]->words[0]->left, $pages[0]->words[0]->bottom, $pages[1]->width])
        ->toBe([56.7, 72.0, 842.0])
        ->and(iterator_to_array(PopplerLayout::pages('no markup at all'), false))
        ->toBe([]);
});

it('reads a page as OCR writes it, without what it is not sure of', function () {
    $row = static fn (string $place, string $box, string $sure, string $text): string => "{$place}\t{$box}\t{$sure}\t{$text}";
    $table = implode("\n", [
        "level\tpage_num\tblock_num\tpar_num\tline_num\tword_num\tleft\ttop\twidth\theight\tconf\ttext",
        $row("1\t1\t0\t0\t0\t0", "0\t0\t1000\t800", '-1', ''),
        $row("5\t1\t1\t1\t1\t1", "100\t50\t80\t20", '96.1', 'Lock'),
        $row("5\t1\t1\t1\t1\t2", "190\t50\t10\t20", '12', '|'),
        $row("5\t1\t1\t1\t1\t3", "210\t50\t70\t20", '91', 'gate'),
        $row("5\t1\t1\t1\t2\t1", "100\t80\t70\t20", '88', 'leaks')."\r",
        $row("5\t1\t2\t1\t1\t1", "100\t200\t70\t20", '20', 'Sill'),
        'a line that is cut',
    ]);
    $page = TesseractTable::page($table, 1000, 800);
    expect($page->text)
        ->toBe("Lock gate\nleaks\n\nSill")
        ->and(boxed($page))
        ->toBe(['Lock', 'gate', 'leaks', 'Sill'])
        ->and([$page->words[0]->left, $page->words[0]->top, $page->words[0]->right, $page->words[0]->bottom])
        ->toBe([100.0, 50.0, 180.0, 70.0])
        // By letters, with what is left out: (4 · 96.1 + 1 · 12 + 4 · 91 + 5 · 88 + 4 · 20) / 18.
        ->and($page->confidence)
        ->toEqualWithDelta(1280.4 / 18, 1e-9)
        ->and(TesseractTable::page('', 1, 1)->text)
        ->toBe('')
        ->and(TesseractTable::page('', 1, 1)->confidence)
        ->toBeNull();
});

it('reads what a person would read of HTML', function (string $html, string $text) {
    expect(MarkupText::ofHtml($html))->toBe($text);
})->with([
    'blocks' => ['<h1>Gates</h1><p>One <b>lock</b>,<br>two</p><ul><li>a</li><li>b</li></ul>', "Gates\n\nOne lock,\ntwo\n\na\n\nb"],
    'what is not read' => ['<style>p{}</style><script>alert(1)</script><p>sill</p><template>x</template>', 'sill'],
    'entities and blanks' => ["<p>a&nbsp;&amp;\n   b &eacute;</p>", 'a & b é'],
    'an encoding that is declared and not so' => ['<meta charset="iso-8859-1"><p>écluse</p>', 'écluse'],
    'a title' => ['<html><head><title>Weir</title></head><body>7</body></html>', "Weir\n7"],
    'cells' => ['<table><tr><td>a</td><td>b</td></tr></table>', "a\n\nb"],
    'nothing' => [" \n", ''],
    'what is not closed' => ['<p>one<p>two<div>three', "one\n\ntwo\n\nthree"],
]);

it('knows the hyphens that a line carries over, and no others', function (string $text, string $joined, string $parts) {
    expect(LineBreaks::joined($text))->toBe([$joined, $parts]);
    foreach (LineBreaks::places($text) as $offset => $length) {
        expect(substr($text, $offset, $length))->toMatch('/^[-\x{AD}\x{2010}]\n$/u');
    }
})->with([
    ["navi-\ngation", 'navigation', 'navi-gation'],
    ["navi\u{AD}\ngation", 'navigation', 'navi-gation'],
    ["Anglo-\nSaxon", "Anglo-\nSaxon", ''],
    ["1990-\n2000", "1990-\n2000", ''],
    ["a dash -\nthen", "a dash -\nthen", ''],
    ["écl-\nuse and navi-\ngation and écl-\nuse", 'écluse and navigation and écluse', "écl-use\n\nnavi-gation"],
    ['plain', 'plain', ''],
]);
