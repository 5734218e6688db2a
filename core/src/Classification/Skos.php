<?php

declare(strict_types=1);

namespace Brenvic\Core\Classification;

use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\Terms;

/**
 * Vocabularies and classification schemes as SKOS (W3C Recommendation, 18 August 2009), in both directions. What SKOS has
 * no property for (retention rules, retirement) is written with properties of Brenvic's own, which other systems pass over.
 */
final class Skos
{
    private const SKOS = 'http://www.w3.org/2004/02/skos/core#';

    private const TYPE = 'http://www.w3.org/1999/02/22-rdf-syntax-ns#type';

    private const TITLES = [
        'http://purl.org/dc/terms/title',
        'http://purl.org/dc/elements/1.1/title',
        self::SKOS.'prefLabel',
        'http://www.w3.org/2000/01/rdf-schema#label',
    ];

    private const DEPRECATED = 'http://www.w3.org/2002/07/owl#deprecated';

    private const REPLACED = 'http://purl.org/dc/terms/isReplacedBy';

    private const OWN = 'urn:brenvic:scheme#';

    /** What the short form of a retention rule says, and what else a rule may say. */
    private const SHORT = ['after' => true, 'years' => true, 'action' => true];

    private const MORE = ['of' => true, 'months' => true, 'from' => true, 'authority' => true, 'restarts' => true, 'lifted_by' => true];

    private const TRUE = 'true';

    private const XL = 'http://www.w3.org/2008/05/skos-xl#';

    /** The language of labels where a vocabulary names none. */
    private const LANGUAGE = 'en';

    /**
     * All that a vocabulary says: what it has of its own, and what was kept of the file it came from.
     *
     * @param  array<string, mixed>  $vocabulary  its content in the design
     * @return list<Triple>
     */
    public static function triples(string $code, array $vocabulary): array
    {
        return SkosRest::given($vocabulary, self::own($code, $vocabulary), self::addresses($code, $vocabulary));
    }

    /**
     * @param  array<string, mixed>  $vocabulary
     * @return array<string, string> code of a concept => its address
     */
    private static function addresses(string $code, array $vocabulary): array
    {
        $base = self::base($code, $vocabulary);
        $addresses = [];
        foreach ((new Terms(Design::entries($vocabulary, 'terms')))->byCode as $id => $term) {
            $addresses[(string) $id] = self::string($term, 'uri') ?: $base.rawurlencode((string) $id);
        }

        return $addresses;
    }

    /**
     * @param  array<string, mixed>  $vocabulary
     * @return list<Triple>
     */
    private static function own(string $code, array $vocabulary): array
    {
        $addresses = self::addresses($code, $vocabulary);
        $scheme = self::string($vocabulary, 'uri') ?: rtrim(self::base($code, $vocabulary), '/#');
        $language = is_string($vocabulary['language'] ?? null) ? $vocabulary['language'] : self::LANGUAGE;
        $at = static fn (string $id): string => $addresses[$id] ?? "urn:brenvic:missing#{$id}";
        $terms = new Terms(Design::entries($vocabulary, 'terms'));
        $triples = [
            new Triple($scheme, self::TYPE, self::SKOS.'ConceptScheme'),
            new Triple($scheme, self::TITLES[0], self::string($vocabulary, 'name'), true, $language),
        ];
        foreach ($terms->byCode as $id => $term) {
            $concept = $at((string) $id);
            $say = static function (string $property, string $text, string $language = '') use (&$triples, $concept): void {
                if ($text !== '') {
                    $triples[] = new Triple($concept, $property, $text, true, $language);
                }
            };
            $link = static function (string $property, string $to) use (&$triples, $concept): void {
                $triples[] = new Triple($concept, $property, $to);
            };
            $link(self::TYPE, self::SKOS.'Concept');
            $link(self::SKOS.'inScheme', $scheme);
            $say(self::SKOS.'prefLabel', self::string($term, 'label'), $language);
            foreach (is_array($term['labels'] ?? null) ? $term['labels'] : [] as $tag => $label) {
                is_string($label) && $say(self::SKOS.'prefLabel', $label, (string) $tag);
            }
            foreach (self::strings($term, 'synonyms') as $synonym) {
                $say(self::SKOS.'altLabel', $synonym, $language);
            }
            $say(self::SKOS.'notation', self::string($term, 'notation'));
            $say(self::SKOS.'scopeNote', self::string($term, 'note'), $language);
            $parents = array_filter([self::string($term, 'parent'), ...self::strings($term, 'also_below')]);
            if ($parents === []) {
                $link(self::SKOS.'topConceptOf', $scheme);
                $triples[] = new Triple($scheme, self::SKOS.'hasTopConcept', $concept);
            }
            foreach ($parents as $parent) {
                $link(self::SKOS.'broader', $at($parent));
                $triples[] = new Triple($at($parent), self::SKOS.'narrower', $concept);
            }
            foreach (self::strings($term, 'related') as $related) {
                $link(self::SKOS.'related', $at($related));
            }
            foreach (self::strings($term, 'matches') as $match) {
                $link(self::SKOS.'exactMatch', $match);
            }
            if (($term['retired'] ?? false) === true) {
                $say(self::DEPRECATED, self::TRUE);
            }
            if (self::string($term, 'replaced_by') !== '') {
                $link(self::REPLACED, $at(self::string($term, 'replaced_by')));
            }
            $retention = $term['retention'] ?? null;
            if (is_array($retention)) {
                $say(
                    self::OWN.'retention',
                    self::string($retention, 'after').
                        ' P'.
                        self::string($retention, 'years').
                        'Y '.
                        self::string($retention, 'action'),
                );
                // The short form is for people and older readers; what it cannot say stands beside it.
                if (array_diff_key(array_filter($retention), self::SHORT) !== []) {
                    $say(self::OWN.'retentionRule', (string) json_encode($retention, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES));
                }
            }
        }

        return $triples;
    }

    /**
     * Reads a concept scheme. Concepts known by their address or code keep their codes, so that documents keep theirs.
     *
     * What it says beyond what a vocabulary has is kept with it (SkosRest).
     *
     * @param  list<Triple>  $triples
     * @param  array<string, mixed>|null  $present  the vocabulary it is taken into
     * @param  string  $language  the one whose labels come first, if there are any
     * @param  string  $chosen  address of the scheme to read, where the file holds several; empty for all of it
     */
    public static function read(
        array $triples,
        string $code,
        ?array $present = null,
        string $language = self::LANGUAGE,
        string $chosen = '',
    ): SkosImport {
        if ($chosen !== '') {
            $triples = self::ofScheme($triples, $chosen);
        }
        $of = [];
        foreach ([...$triples, ...self::plainLabels($triples)] as $triple) {
            $of[$triple->subject][$triple->predicate][] = $triple;
        }
        $language = self::mainLanguage($of, $language);
        $concepts = $schemes = [];
        foreach ($of as $subject => $properties) {
            foreach ($properties[self::TYPE] ?? [] as $type) {
                if ($type->object === self::SKOS.'Concept') {
                    $concepts[$subject] = true;
                } elseif ($type->object === self::SKOS.'ConceptScheme') {
                    $schemes[] = (string) $subject;
                }
            }
            // What is said to be in a scheme, or below something, is a concept whether or not the file says so.
            if (
                isset($properties[self::SKOS.'broader']) ||
                isset($properties[self::SKOS.'inScheme']) ||
                isset($properties[self::SKOS.'topConceptOf'])
            ) {
                $concepts[$subject] = true;
            }
        }
        $base = self::base($code, $present ?? []);
        $known = (new Terms(Design::entries($present, 'terms')))->byCode;
        $codes = self::codes(array_map(strval(...), array_keys($concepts)), $base, $known, $of);
        [$above, $circles] = self::withoutCircles(self::above($of, $codes));
        $terms = [];
        $faults =
            count($schemes) > 1
                ? [
                    'The file holds '.
                    count($schemes).
                    ' schemes, which are taken as one: '.
                    implode(', ', array_map(static fn (string $scheme): string => "<{$scheme}>", $schemes)).
                    '. One of them can be chosen.',
                ]
                : [];
        array_push($faults, ...$circles);
        foreach ($codes as $subject => $id) {
            $properties = $of[$subject];
            [$label, $labels] = self::labels($properties[self::SKOS.'prefLabel'] ?? [], $language);
            if ($label === '') {
                $faults[] = "<{$subject}> has no prefLabel; its code stands in for it.";
                $label = $id;
            }
            // RDF has no order: what has its place below one of them keeps it.
            $parents = $above[$id] ?? [];
            $first = in_array($known[$id]['parent'] ?? null, $parents, true) ? self::string($known[$id], 'parent') : $parents[0] ?? null;
            foreach ($properties[self::SKOS.'broader'] ?? [] as $broader) {
                if (! isset($codes[$broader->object])) {
                    $faults[] = "“{$label}” is below <{$broader->object}>, which the file does not hold; it is put at the top.";
                }
            }
            $texts = static fn (string $property): array => array_values(
                array_unique(array_map(static fn (Triple $t): string => $t->object, $properties[$property] ?? [])),
            );
            $refer = static fn (string $property): array => array_values(
                array_filter(array_map(static fn (string $to): ?string => $codes[$to] ?? null, $texts($property))),
            );
            // RDF has no order: what is the same stays in the order it has.
            $was = $known[$id] ?? [];
            $terms[] = [
                ...$known[$id] ?? [],
                'code' => $id,
                ...$subject === $base.rawurlencode($id) || str_starts_with((string) $subject, '_:') ? [] : ['uri' => (string) $subject],
                'label' => mb_strcut($label, 0, 200),
                'parent' => $first,
                'also_below' => self::inOrderOf(
                    self::strings($known[$id] ?? [], 'also_below'),
                    array_values(array_diff($parents, [$first])),
                ),
                'synonyms' => self::inOrderOf(
                    self::strings($was, 'synonyms'),
                    array_values(array_unique([...$texts(self::SKOS.'altLabel'), ...$texts(self::SKOS.'hiddenLabel')])),
                ),
                'notation' => $texts(self::SKOS.'notation')[0] ?? '',
                'note' => implode("\n", [...$texts(self::SKOS.'scopeNote'), ...$texts(self::SKOS.'definition')]),
                'labels' => $labels,
                'related' => self::inOrderOf(self::strings($was, 'related'), $refer(self::SKOS.'related')),
                'matches' => self::inOrderOf(self::strings($was, 'matches'), $texts(self::SKOS.'exactMatch')),
                'retired' => in_array(self::TRUE, $texts(self::DEPRECATED), true),
                'replaced_by' => $refer(self::REPLACED)[0] ?? null,
                'retention' => self::wholeRule($texts(self::OWN.'retentionRule')[0] ?? '') ??
                    (self::retention($texts(self::OWN.'retention')[0] ?? '') ?? ($known[$id]['retention'] ?? null)),
            ];
        }
        if ($terms === []) {
            $faults[] = 'The file holds no concept (skos:Concept).';
        }
        $name = '';
        foreach ($schemes as $scheme) {
            foreach (self::TITLES as $title) {
                $name = $name === '' ? self::labels($of[$scheme][$title] ?? [], $language)[0] : $name;
            }
        }
        $vocabulary = [
            ...$present ?? ['scheme' => true],
            'name' => $present['name'] ?? ($name === '' ? $code : mb_strcut($name, 0, 200)),
            'terms' => self::inOrder($terms, array_keys($known)),
        ];
        if ($present === null && $codes !== []) {
            $vocabulary['base'] = self::commonBase(array_map(strval(...), array_keys($codes)));
        }
        $vocabulary = self::told($vocabulary, $code, $language, $schemes);
        $vocabulary = SkosRest::kept($vocabulary, $triples, self::own($code, $vocabulary), $codes);

        return new SkosImport(
            $vocabulary,
            [...$faults, ...(new Terms(Design::entries($vocabulary, 'terms')))->faults()],
            $present ?? ['terms' => []],
        );
    }

    /**
     * The vocabulary with the address of its scheme, its language and the addresses of its concepts, where these are not as
     * they would be made.
     *
     * @param  array<string, mixed>  $vocabulary
     * @param  list<string>  $schemes
     * @return array<string, mixed>
     */
    private static function told(array $vocabulary, string $code, string $language, array $schemes): array
    {
        $base = self::base($code, $vocabulary);
        $told = array_diff_key($vocabulary, ['uri' => 0, 'language' => 0]);
        if (count($schemes) === 1 && $schemes[0] !== rtrim($base, '/#') && ! str_starts_with($schemes[0], '_:')) {
            $told['uri'] = $schemes[0];
        }
        if ($language !== self::LANGUAGE) {
            $told['language'] = $language;
        }
        $told['terms'] = array_map(
            static fn (array $term): array => ($term['uri'] ?? '') === $base.rawurlencode(self::string($term, 'code'))
                ? array_diff_key($term, ['uri' => 0])
                : $term,
            Design::entries($vocabulary, 'terms'),
        );

        return $told;
    }

    /**
     * The schemes that a file declares or puts concepts into.
     *
     * @param  list<Triple>  $triples
     * @return list<array{uri: string, name: string, concepts: int}> in the order of their addresses; the name may be empty
     */
    public static function schemes(array $triples, string $language = self::LANGUAGE): array
    {
        $schemes = $in = $titles = [];
        foreach ($triples as $triple) {
            if ($triple->predicate === self::TYPE && $triple->object === self::SKOS.'ConceptScheme') {
                $schemes[$triple->subject] = true;
            } elseif (in_array($triple->predicate, [self::SKOS.'inScheme', self::SKOS.'topConceptOf'], true)) {
                $schemes[$triple->object] = true;
                $in[$triple->object][$triple->subject] = true;
            } elseif ($triple->predicate === self::SKOS.'hasTopConcept') {
                $in[$triple->subject][$triple->object] = true;
            } elseif (in_array($triple->predicate, self::TITLES, true)) {
                $titles[$triple->subject][$triple->predicate][] = $triple;
            }
        }
        ksort($schemes, SORT_STRING);
        $found = [];
        foreach (array_keys($schemes) as $scheme) {
            $names = array_map(
                static fn (string $title): string => self::labels($titles[$scheme][$title] ?? [], $language)[0],
                self::TITLES,
            );
            $found[] = [
                'uri' => (string) $scheme,
                'name' => array_values(array_filter($names))[0] ?? '',
                'concepts' => count($in[$scheme] ?? []),
            ];
        }

        return $found;
    }

    /**
     * What a file says of one of its schemes: the scheme, the concepts in it, and what has no subject in any other.
     *
     * @param  list<Triple>  $triples
     * @return list<Triple>
     */
    private static function ofScheme(array $triples, string $chosen): array
    {
        $in = $elsewhere = [];
        foreach ($triples as $triple) {
            $isIn = in_array($triple->predicate, [self::SKOS.'inScheme', self::SKOS.'topConceptOf'], true);
            if ($isIn && $triple->object === $chosen) {
                $in[$triple->subject] = true;
            } elseif (
                $isIn ||
                ($triple->predicate === self::TYPE && $triple->object === self::SKOS.'ConceptScheme' && $triple->subject !== $chosen)
            ) {
                $elsewhere[$triple->subject] = true;
            } elseif ($triple->predicate === self::SKOS.'hasTopConcept') {
                if ($triple->subject === $chosen) {
                    $in[$triple->object] = true;
                } else {
                    $elsewhere[$triple->object] = true;
                }
            }
        }

        return array_values(
            array_filter($triples, static fn (Triple $triple): bool => isset($in[$triple->subject]) || ! isset($elsewhere[$triple->subject])),
        );
    }

    /**
     * Labels that are resources of their own (SKOS-XL, appendix B of the recommendation), as the plain labels they stand for.
     *
     * @param  list<Triple>  $triples
     * @return list<Triple>
     */
    private static function plainLabels(array $triples): array
    {
        $forms = $labels = [];
        foreach ($triples as $triple) {
            if ($triple->predicate === self::XL.'literalForm') {
                $forms[$triple->subject] = $triple;
            }
        }
        foreach ($forms === [] ? [] : $triples as $triple) {
            if (str_starts_with($triple->predicate, self::XL) && ! $triple->isText && isset($forms[$triple->object])) {
                $form = $forms[$triple->object];
                $labels[] = new Triple(
                    $triple->subject,
                    self::SKOS.substr($triple->predicate, strlen(self::XL)),
                    $form->object,
                    true,
                    $form->language,
                );
            }
        }

        return $labels;
    }

    /**
     * @param  array<string, array<string, list<Triple>>>  $of
     * @param  string  $wanted  the language that is taken if any label is in it
     */
    private static function mainLanguage(array $of, string $wanted): string
    {
        $counts = [];
        foreach ($of as $properties) {
            foreach ($properties[self::SKOS.'prefLabel'] ?? [] as $label) {
                $counts[$label->language] = ($counts[$label->language] ?? 0) + 1;
            }
        }
        arsort($counts);

        return $counts === [] || isset($counts[$wanted]) ? $wanted : (string) array_key_first($counts);
    }

    /**
     * The same without what closes a circle, and the circles in words: first along the first parents, of which the step out
     * of the concept where a circle is met is left out, then each further parent that is below the concept already.
     *
     * @param  array<string, list<string>>  $above
     * @return array{array<string, list<string>>, list<string>}
     */
    private static function withoutCircles(array $above): array
    {
        $faults = $firsts = [];
        foreach ($above as $id => $parents) {
            $firsts[$id] = [$parents[0]];
        }
        $state = [];
        foreach (array_keys($above) as $start) {
            $path = [];
            for ($at = (string) $start; $at !== '' && ($state[$at] ?? '') === ''; $at = $firsts[$at][0] ?? '') {
                $state[$at] = 'open';
                $path[] = $at;
            }
            if ($at !== '' && $state[$at] === 'open') {
                $circle = array_slice($path, (int) array_search($at, $path, true));
                $faults[$at] =
                    'These stand below each other in a circle: '.
                    implode(' → ', [...$circle, $at]).
                    '; “'.
                    $at.
                    '” is '.
                    (count($above[$at]) > 1 ? "not put below “{$above[$at][0]}”." : 'put at the top.');
                $firsts[$at] = [];
            }
            foreach ($path as $passed) {
                $state[$passed] = 'done';
            }
        }
        foreach ($above as $id => $parents) {
            foreach (array_slice($parents, 1) as $parent) {
                $way = self::way($firsts, $parent, (string) $id);
                if ($way === []) {
                    $firsts[$id][] = $parent;
                } else {
                    $faults[] =
                        'These stand below each other in a circle: '.
                        implode(' → ', [$id, ...$way]).
                        "; “{$id}” is not put below “{$parent}”.";
                }
            }
        }

        return [$firsts, array_values($faults)];
    }

    /**
     * A way up from one concept to another, both with it; none if there is none.
     *
     * @param  array<string, list<string>>  $above
     * @return list<string>
     */
    private static function way(array $above, string $from, string $to): array
    {
        $steps = [[$from]];
        $seen = [$from => true];
        while (($way = array_pop($steps)) !== null) {
            $at = $way[count($way) - 1];
            if ($at === $to) {
                return $way;
            }
            foreach ($above[$at] ?? [] as $parent) {
                if (! isset($seen[$parent])) {
                    $seen[$parent] = true;
                    $steps[] = [...$way, $parent];
                }
            }
        }

        return [];
    }

    /**
     * @param  array<string, array<string, list<Triple>>>  $of
     * @param  array<string, string>  $codes
     * @return array<string, list<string>> code => codes of what is above it
     */
    private static function above(array $of, array $codes): array
    {
        $above = [];
        foreach ($codes as $subject => $id) {
            foreach ($of[$subject][self::SKOS.'broader'] ?? [] as $broader) {
                isset($codes[$broader->object]) && ($above[$id][] = $codes[$broader->object]);
            }
        }
        foreach ($codes as $subject => $id) {
            foreach ($of[$subject][self::SKOS.'narrower'] ?? [] as $narrower) {
                isset($codes[$narrower->object]) && ($above[$codes[$narrower->object]][] = $id);
            }
        }

        return array_map(static fn (array $parents): array => array_values(array_unique($parents)), $above);
    }

    /**
     * A code for each concept: the one it has here, else the last part of its address, else its notation.
     *
     * @param  list<string>  $subjects
     * @param  array<string, array<string, mixed>>  $known
     * @param  array<string, array<string, list<Triple>>>  $of
     * @return array<string, string> address => code
     */
    private static function codes(array $subjects, string $base, array $known, array $of): array
    {
        $byMatch = $byAddress = [];
        foreach ($known as $code => $term) {
            if (self::string($term, 'uri') !== '') {
                $byAddress[self::string($term, 'uri')] = (string) $code;
            }
            foreach (self::strings($term, 'matches') as $match) {
                $byMatch[$match] = (string) $code;
            }
        }
        $codes = $taken = [];
        foreach ($subjects as $subject) {
            $end = rawurldecode((string) preg_replace('~^.*[/#:]~s', '', rtrim($subject, '/#')));
            $notation = isset($of[$subject][self::SKOS.'notation'][0]) ? $of[$subject][self::SKOS.'notation'][0]->object : '';
            $code = match (true) {
                isset($byAddress[$subject]) => $byAddress[$subject],
                str_starts_with($subject, $base) => rawurldecode(substr($subject, strlen($base))),
                isset($byMatch[$subject]) => $byMatch[$subject],
                str_starts_with($subject, '_:') => $notation,
                default => $end,
            };
            $code = mb_strcut(trim($code), 0, 76);
            $code = $code === '' ? 'concept' : $code;
            for ($try = $code, $i = 2; isset($taken[$try]); $i++) {
                $try = "{$code}-{$i}";
            }
            $taken[$try] = true;
            $codes[$subject] = $try;
        }

        return $codes;
    }

    /**
     * @param  list<Triple>  $labels
     * @return array{string, array<string, string>} the one in the wanted language (else without one, else the first), and the others by language
     */
    private static function labels(array $labels, string $language): array
    {
        $byTag = [];
        foreach ($labels as $label) {
            $byTag[$label->language] ??= trim($label->object);
        }
        $tag = isset($byTag[$language]) ? $language : (isset($byTag['']) ? '' : array_key_first($byTag));
        $first = $tag === null ? '' : $byTag[$tag];
        if ($tag !== null) {
            unset($byTag[$tag], $byTag['']);
        }

        return [$first, $byTag];
    }

    /** @return array<string, mixed>|null what is no rule is left out: the check of the design would refuse all of the scheme */
    private static function wholeRule(string $json): ?array
    {
        $rule = json_decode($json, true, 8);
        if (! is_array($rule) || ! is_string($rule['after'] ?? null) || ! is_int($rule['years'] ?? null) || ! is_string($rule['action'] ?? null)) {
            return null;
        }

        return array_intersect_key($rule, self::SHORT + self::MORE);
    }

    /** @return array{after: string, years: int, action: string}|null */
    private static function retention(string $text): ?array
    {
        return preg_match('/^(\S+) P(\d{1,3})Y (review|destroy|hand_over|keep)$/', $text, $m) === 1
            ? ['after' => $m[1], 'years' => (int) $m[2], 'action' => $m[3]]
            : null;
    }

    /**
     * @param  list<string>  $kept
     * @param  list<string>  $list
     * @return list<string>
     */
    private static function inOrderOf(array $kept, array $list): array
    {
        return count($list) === count($kept) && array_diff($list, $kept) === [] ? $kept : $list;
    }

    /**
     * Known terms in the order they had, new ones behind.
     *
     * @param  list<array<string, mixed>>  $terms
     * @param  list<int|string>  $known
     * @return list<array<string, mixed>>
     */
    private static function inOrder(array $terms, array $known): array
    {
        $place = array_flip(array_map(strval(...), $known));
        $order = static fn (array $term): array => [$place[self::string($term, 'code')] ?? PHP_INT_MAX, self::string($term, 'notation')];
        usort($terms, static fn (array $a, array $b): int => $order($a)[0] <=> $order($b)[0] ?: strnatcmp($order($a)[1], $order($b)[1]));

        return $terms;
    }

    /** @param  non-empty-list<string>  $addresses */
    private static function commonBase(array $addresses): string
    {
        $bases = array_unique(
            array_map(static fn (string $a): string => (string) preg_replace('~[^/#]*$~', '', rtrim($a, '/#')), $addresses),
        );

        return count($bases) === 1 && ! str_starts_with($bases[0], '_') ? mb_strcut($bases[0], 0, 300) : '';
    }

    /** @param  array<string, mixed>  $vocabulary */
    private static function base(string $code, array $vocabulary): string
    {
        $base = self::string($vocabulary, 'base');

        return $base === '' ? "urn:brenvic:{$code}#" : (str_ends_with($base, '/') || str_ends_with($base, '#') ? $base : "{$base}/");
    }

    /** @param  array<array-key, mixed>  $of */
    private static function string(array $of, string $property): string
    {
        return is_scalar($of[$property] ?? null) ? (string) $of[$property] : '';
    }

    /**
     * @param  array<string, mixed>  $of
     * @return list<string>
     */
    private static function strings(array $of, string $property): array
    {
        return array_values(array_filter(is_array($of[$property] ?? null) ? $of[$property] : [], is_string(...)));
    }
}
