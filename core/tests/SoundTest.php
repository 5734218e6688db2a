<?php

declare(strict_types=1);

use Brenvic\Core\Index\Sound;

/** Pairs of names and words that people take for each other when they hear them. */
const ALIKE = [
    'marigold merigold',
    'smith smyth',
    'catherine katherine',
    'stephen steven',
    'philip filip',
    'clark clarke',
    'reed read',
    'grey gray',
    'thompson thomson',
    'allen allan',
    'hughes hews',
    'lock loch',
    'tern turn',
    'silt sylt',
    'weir wier',
    'mackay mckay',
    'knight night',
    'wright rite',
    'kathryn catherine',
    'jon john',
    'sean shaun',
    'geoffrey jeffrey',
    'lesley leslie',
    'michelle mishell',
    'francis frances',
    'bailey bayley',
    'cooper kooper',
    'nicholls nichols',
    'phelan felan',
    'whyte white',
    'pearce pierce',
    'lloyd loyd',
    'rees reece',
    'ashe ash',
    'osric ozric',
    'kerr carr',
    'burgess birgess',
    'maddock madock',
    'wickham wikham',
    'stewart stuart',
    'meier mayer',
    'schmidt schmitt',
    'tailor taylor',
    'carmichael karmikel',
    'dixon dickson',
    'alison allyson',
    'deborah debra',
    'brian bryan',
    'eliott elliot',
    'gate gait',
];

/** Pairs that are different names, some of which a rough method joins. */
const DIFFERENT = [
    'smith schmidt',
    'tern tarn',
    'lock lake',
    'gate goat',
    'sill sail',
    'weir war',
    'marigold margaret',
    'ash oak',
    'canal kennel',
    'harbour herbert',
    'basin bison',
    'barge bridge',
    'pilot pallet',
    'dock duck',
    'quay key',
    'reach rich',
    'sluice slice',
    'towpath tapeth',
    'mooring marine',
    'crane crown',
    'bell bill',
    'holm home',
    'wharf wharfe',
    'keel kale',
    'mast mist',
    'rope ripe',
    'sail soil',
    'tide toad',
    'wave weave',
    'boat bait',
    'robert rupert',
    'james jones',
    'martin morton',
    'helen alan',
    'peter patrick',
    'david davy',
    'anna ian',
    'ruth roth',
    'george gorge',
    'simon salmon',
    'paul pole',
    'mark murk',
    'luke lake',
    'john jane',
    'carol carl',
    'derek dark',
    'edna adana',
    'frank fernick',
    'graham gram',
    'harry hare',
];

it('catches what is said to be caught, and joins no more than is said', function () {
    $joined = static fn (array $pairs): int => count(
        array_filter($pairs, static function (string $pair): bool {
            [$a, $b] = explode(' ', $pair);

            return Sound::of($a) === Sound::of($b) && Sound::of($a) !== '';
        }),
    );
    // The figures that docs/search.md gives.
    expect([$joined(ALIKE), count(ALIKE), $joined(DIFFERENT), count(DIFFERENT)])->toBe([40, 50, 34, 50]);
});

it('is in small letters, as what it is filed under is compared', function () {
    expect(Sound::of('Marigold'))
        ->toBe('mrklt')
        ->and(Sound::of('merigold'))
        ->toBe('mrklt')
        ->and(Sound::of('漢'))
        ->toBe('')
        ->and(Sound::of('417'))
        ->toBe('');
});
