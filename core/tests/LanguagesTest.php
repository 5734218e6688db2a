<?php

declare(strict_types=1);

use Brenvic\Core\Capture\TextLanguage;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\MemoryStore;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Index\Snowball;
use Brenvic\Core\Index\Tokenizer;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Search\Asking\Asker;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Order\DocumentNames;
use Brenvic\Core\Search\Searcher;

const SENTENCES = [
    'en' => 'The keeper of the lock has been told to draw the paddles at night, and boats pass at their own risk until the level falls.',
    'de' => 'Der Schleusenwärter wurde angewiesen, die Schütze in der Nacht zu ziehen, und die Boote fahren auf eigene Gefahr, bis der Pegel fällt.',
    'fr' => 'L’éclusier a été prié de lever les vannes pendant la nuit, et les bateaux passent à leurs risques jusqu’à ce que le niveau baisse.',
    'es' => 'El encargado de la esclusa debe abrir las compuertas por la noche, y los barcos pasan por su cuenta hasta que baje el nivel del agua.',
    'it' => 'Il guardiano della chiusa deve alzare le paratoie di notte, e le barche passano a loro rischio fino a quando il livello non scende.',
    'nl' => 'De sluiswachter moet de schuiven in de nacht trekken, en de boten varen op eigen risico totdat het peil van het water daalt.',
    'pt' => 'O guarda da eclusa deve abrir as comportas durante a noite, e os barcos passam por sua conta até que o nível da água não suba mais.',
    'sv' => 'Slussvakten ska dra luckorna på natten, och båtarna går på egen risk till dess att vattnet har sjunkit och det är lugnt igen.',
    'zh' => '船闸管理员已被告知夜间提起闸门，在水位下降之前，船只自行承担通过的风险。运河的水位由水务局每天测量并公布。',
    'ja' => '閘門の管理人は夜間に水門を上げるように指示されており、水位が下がるまで船は自己の責任で通過する。',
    'th' => 'ผู้ดูแลประตูน้ำได้รับคำสั่งให้ยกบานประตูในเวลากลางคืน และเรือจะผ่านโดยรับความเสี่ยงเองจนกว่าระดับน้ำจะลดลง',
];

/**
 * @param  list<array{string, string}>  $texts  language and text
 * @return Closure(string): list<int> the numbers of those that a query finds, from 1
 */
function findsIn(array $texts): Closure
{
    $store = new MemoryStore();
    $writer = new IndexWriter($store);
    foreach ($texts as $i => [$language, $text]) {
        $writer->put([new IndexedDocument($i + 1, [Part::Text->value => [$text]], ['library' => ['a']], [], [], $language)]);
    }
    $writer->flush();
    $names = new class implements DocumentNames
    {
        public function of(string $name, array $documents): array
        {
            return [];
        }
    };
    $searcher = new Searcher(new IndexReader($store), new SearchSchema([]), $names);

    return static fn (string $cql): array => $searcher->documents(new Asker(['a']), Parser::parse($cql)->root)->documents();
}

it('tells the language of a text', function (string $language, string $text) {
    expect(TextLanguage::of($text))->toBe($language)->and(TextLanguage::of(mb_strtoupper($text)))->toBe($language);
})->with(fn () => array_map(null, array_keys(SENTENCES), SENTENCES));

it('tells no language of what has no sentences, or is written otherwise', function (string $text) {
    expect(TextLanguage::of($text))->toBeNull();
})->with(['', '417 0.5 12.03.2024', 'LK-0417-T Eastwick 1200 mm', 'Шлюзовой сторож поднимает затвор ночью', "\xFF\xFE broken", 'Received']);

it('stems as libstemmer’s own program does', function (string $language, string $algorithm, array $words) {
    if (trim((string) shell_exec('command -v stemwords')) === '') {
        $this->markTestSkipped('stemwords (libstemmer-tools) is not there.');
    }
    $file = (string) tempnam(sys_get_temp_dir(), 'stem');
    file_put_contents($file, implode("\n", $words)."\n");
    $theirs = array_map(Tokenizer::fold(...), explode("\n", trim((string) shell_exec("stemwords -l {$algorithm} -i ".escapeshellarg($file)))));
    unlink($file);
    expect(array_map(static fn (string $word): string => Snowball::all($word)[$language], $words))->toBe($theirs);
})->with([
    ['de', 'german', ['häuser', 'hauses', 'schleusen', 'schleuse', 'wasserstände', 'prüfungen', 'straße']],
    ['fr', 'french', ['écluses', 'éclusier', 'réparations', 'réparée', 'vérifiées', 'niveaux']],
    ['es', 'spanish', ['esclusas', 'reparaciones', 'inspección', 'niveles']],
    ['it', 'italian', ['chiuse', 'riparazioni', 'livelli', 'verificato']],
    ['nl', 'dutch', ['sluizen', 'sluis', 'reparaties', 'waterstanden']],
    ['pt', 'portuguese', ['eclusas', 'reparações', 'inspeção', 'níveis']],
    ['sv', 'swedish', ['slussarna', 'slussen', 'reparationer', 'nivåer']],
]);

it('finds words by the stem of the language of their text, with accents or without', function (string $language, string $text, array $finds, array $not) {
    $found = findsIn([[$language, $text], ['en', 'Gates, locks and levels; the repairs are verified.']]);
    foreach ($finds as $word) {
        expect($found("text =/stem \"{$word}\""))->toBe([1], $word);
    }
    foreach ($not as $word) {
        expect($found("text =/stem \"{$word}\""))->toBe([], $word);
    }
})->with([
    ['de', 'Die Schleusen wurden geprüft. Zwei Häuser stehen am Ufer.', ['Schleuse', 'hauser', 'Häuser', 'geprüfte'], ['Mauer']],
    ['fr', 'Les écluses ont été réparées.', ['écluse', 'ecluse', 'réparée', 'reparee', 'réparé'], ['éclair']],
    ['es', 'Las esclusas fueron reparadas.', ['esclusa', 'reparada'], ['exclusa']],
    ['it', 'Le chiuse sono state riparate.', ['chiusa', 'riparato'], ['chiave']],
    ['nl', 'De reparaties aan de sluizen zijn klaar.', ['reparatie', 'sluizen'], ['repareerbaar']],
    ['pt', 'As reparações das comportas foram adiadas.', ['reparação', 'comporta'], ['porta']],
    ['sv', 'Slussarna är stängda för reparationer.', ['slussar', 'reparation'], ['repris']],
]);

it('finds every word that the Unicode rules cut out of scripts without blanks', function (string $language, string $text) {
    $found = findsIn([[$language, $text], ['en', 'Something else, in English.']]);
    $breaks = IntlBreakIterator::createWordInstance($language);
    $breaks->setText($text);
    $words = [];
    foreach ($breaks->getPartsIterator() as $part) {
        if (preg_match('/\p{L}/u', $part) === 1) {
            $words[] = $part;
        }
    }
    expect(count($words))->toBeGreaterThan(12);
    foreach ($words as $word) {
        expect($found("text = \"{$word}\""))->toBe([1], $word);
    }
})->with([['zh', SENTENCES['zh']], ['ja', SENTENCES['ja']], ['th', SENTENCES['th']]]);
