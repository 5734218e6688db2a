<?php

declare(strict_types=1);

namespace Brenvic\Core\Capture;

use Brenvic\Core\Index\Tokenizer;

/**
 * Which language a text is written in: by its script where that says it, else by the short words of grammar that no text does
 * without (G. Grefenstette, Comparing two language identification schemes, 1995, finds them as sure as runs of letters from a
 * sentence on). What it is not sure of it does not tell.
 */
final class TextLanguage
{
    /** Languages that are told, by their code (ISO 639-1). */
    public const NAMES = [
        'en' => 'English',
        'de' => 'German',
        'fr' => 'French',
        'es' => 'Spanish',
        'it' => 'Italian',
        'nl' => 'Dutch',
        'pt' => 'Portuguese',
        'sv' => 'Swedish',
        'zh' => 'Chinese',
        'ja' => 'Japanese',
        'th' => 'Thai',
    ];

    /** Words of grammar, as the index folds them. */
    private const SHORT_WORDS = [
        'en' => 'the of and to in is that it for was on are with as be this by have from or had not but what were which their has been '.
            'will would there they we he she his her its you your if when an at do can may should than then no any other such into '.
            'only below above along over under about each where between after before during off out up again also until since very some',
        'de' => 'der die das und ist nicht ein eine einen einem einer zu den dem des mit auf fur von im sich auch es wird werden sind '.
            'bei oder aus nach durch wie nur noch wenn dass kann uber zum zur am als hat haben wurde wurden sie er wir ihr ich sein '.
            'diese dieser dieses kein keine muss um vor unter zwischen bis gegen ohne',
        'fr' => 'le la les des du de et est une un en dans que qui pour par sur pas au aux ce cette ces sont avec ou se il elle nous '.
            'vous ils ne son sa ses leur leurs plus etre ete fait comme si mais sans sous lors afin peut doit donc ainsi entre apres '.
            'tout tous cela dont',
        'es' => 'el los las la de que y en un una es por con para del se no lo al como mas su sus este esta estos estas o si ha han '.
            'son sin sobre entre pero cuando hasta desde ser fue muy tambien puede pueden debe ya hay todo todos cada segun donde nos le '.
            'les unos',
        'it' => 'il lo la gli le di che e un una per con non del della dei delle nel nella al alla dal dalla si sono come da su ma piu '.
            'questo questa questi queste essere ha hanno stato anche se o quando ogni tra fra sul sulla puo deve cui ed i degli ai '.
            'agli dello nei',
        'nl' => 'de het een van en in is dat op te zijn met voor niet aan er om ook als die bij door maar naar uit dan wordt worden kan '.
            'deze dit over tot wel nog of heeft hebben was werd geen zich moet ze hij wij u hun haar meer zal onder tussen na al',
        'pt' => 'o os as a de que e do da dos das em um uma no na nos nas para por com nao se mais como ao aos sua seu suas seus ou ser '.
            'esta este estes foi sao tem pelo pela entre quando mas ja tambem pode deve sem ate isso cada sobre muito ha nem era',
        'sv' => 'och att det som en pa ar av for med den till inte om ett har de vid fran sig kan ska eller men sa var vi jag han hon nar '.
            'skall detta denna dessa upp efter under mellan hos hade blir blev maste sin sina dar mycket alla ej hur i bara an',
    ];

    /** Letters that no other of these languages writes, as texts have them. */
    private const LETTERS = [
        'de' => '/[ßäÄüÜ]/u',
        'fr' => '/[êèùûœçîÈÊÇ]/u',
        'es' => '/[ñ¿¡Ñ]/u',
        'it' => '/[àèìòù](?=\b)/u',
        'pt' => '/[ãõÃÕ]/u',
        'sv' => '/[åÅ]/u',
    ];

    /** So much of a text is looked at, in words. */
    private const WORDS = 1_500;

    /** Less than so many words of grammar is no evidence. */
    private const LEAST = 4;

    /** The share of words of grammar that a text in sentences has at the least. */
    private const SHARE = 0.12;

    /** How far the language that fits best must be before the next one. */
    private const AHEAD = 1.3;

    /** @var array<string, list<string>>|null */
    private static ?array $known = null;

    /** @return string|null code of a language; null where it is not sure */
    public static function of(string $text): ?string
    {
        $text = self::some($text);
        $script = self::byScript($text);
        if ($script !== null) {
            return $script === '' ? null : $script;
        }
        $words = array_slice(Tokenizer::words($text), 0, self::WORDS);
        $scores = self::scores($words);
        foreach (self::LETTERS as $language => $letters) {
            $scores[$language] += min(preg_match_all($letters, $text) ?: 0, count($words)) * 0.25;
        }
        arsort($scores);
        [$best, $next] = array_slice(array_values($scores), 0, 2);
        $isSure = $best >= self::LEAST && $best >= self::SHARE * count($words) && $best >= self::AHEAD * $next;

        return $isSure ? (string) array_key_first($scores) : null;
    }

    /**
     * How many words of grammar of each language there are; one that several share counts for each the less.
     *
     * @param  list<string>  $words  folded
     * @return non-empty-array<string, float>
     */
    private static function scores(array $words): array
    {
        $known = self::grammar();
        $scores = array_fill_keys(array_keys(self::SHORT_WORDS), 0.0);
        foreach (array_count_values($words) as $word => $times) {
            foreach ($known[$word] ?? [] as $language) {
                $scores[$language] += $times * max(0.3, 1.4 - 0.4 * count($known[$word]));
            }
        }

        return $scores;
    }

    /** @return array<string, list<string>> words that say nothing by themselves, folded => the languages that have them */
    public static function grammar(): array
    {
        if (self::$known === null) {
            self::$known = [];
            foreach (self::SHORT_WORDS as $language => $list) {
                foreach (array_unique(explode(' ', $list)) as $word) {
                    self::$known[$word][] = $language;
                }
            }
        }

        return self::$known;
    }

    /** @return string|null code of a language; empty for another script; null for the Latin one and for what has too few letters */
    private static function byScript(string $text): ?string
    {
        $letters = preg_match_all('/\p{L}/u', $text) ?: 0;
        if ($letters === 0) {
            return '';
        }
        $share = static fn (string $scripts): float => (preg_match_all("/{$scripts}/u", $text) ?: 0) / $letters;

        return match (true) {
            $share('\p{Latin}') > 0.6 => null,
            $share('[\p{Hiragana}\p{Katakana}]') > 0.15 => 'ja',
            $share('\p{Han}') > 0.5 => 'zh',
            $share('\p{Thai}') > 0.5 => 'th',
            default => '',
        };
    }

    /** The beginning, and of a long text as much from its middle: forms begin with names and addresses. */
    private static function some(string $text): string
    {
        $most = self::WORDS * 8;
        $text = strlen($text) <= $most ? $text : substr($text, 0, intdiv($most, 2)).' '.substr($text, intdiv(strlen($text), 2), intdiv($most, 2));

        return mb_scrub($text);
    }
}
