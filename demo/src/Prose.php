<?php

declare(strict_types=1);

namespace Demo;

/**
 * Invented sentences of the Trust: each office has its subjects, and says each of them in many ways. In the sentences `{a|b}` is one of
 * both, `<person>`, `<place>`, `<vessel>`, `<contractor>`, `<year>` and `<month>` are names of the kind, and `<2-9>` is a number.
 */
final readonly class Prose
{
    private const MONTHS = ['January', 'March', 'April', 'May', 'June', 'September', 'October', 'November'];

    private const INSPECTION = [
        [
            'The upper gates were {opened and closed|worked|tried} {twice|three times|once each way} without {undue effort|strain|help}.',
            '{Both|The two} upper gates {swing|move} {freely|without binding}; {one person|<person>} could {close|work} them alone.',
            'The upper gates {needed|took} {two people|a bar and two people} to {start|open} and then {ran|moved} well.',
        ],
        [
            'Paddle gear greased; the {offside|towpath|nearside} rack shows wear on {two|three|four|five} teeth.',
            'The paddle {gear|rack} on the {offside|towpath side} {slips|jumps} at <4-15> turns and should be {rebushed|replaced}.',
            'Paddles {drop cleanly|fall by their own weight}. {New pawl fitted|The pawl was changed} by <person> in <month>.',
        ],
        [
            'Mitre posts meet {cleanly|well} along their {full|whole} height.',
            'Mitre posts {are out by|stand apart by} <3-18> mm at the {top|foot}; {a spray|a thread} of water passes there.',
            'The mitre {was dressed|has been planed} since <year> and {closes|shuts} {tight|without a gap}.',
        ],
        [
            'Coping stones on the {towpath|offside} side are loose over a length of {two|three|four} metres.',
            '{Two|Three|Five} coping stones {rock under foot|have shifted}; {barriers|cones} were {put out|left in place} until <contractor> can {bed|reset} them.',
            'Coping {sound|firm} {throughout|on both sides}, {joints|pointing} renewed by <contractor> in <year>.',
        ],
        [
            'The balance beam has a longitudinal crack that has not grown since {the last visit|<year>}.',
            'Balance beam {soft|rotten} at the {heel|shoulder} over <10-60> cm; {a steel shoe|a new beam} is {advised|recommended}.',
            'The {offside|nearside} balance beam was {replaced|scarfed} by <contractor> and {sits|rides} level.',
        ],
        [
            'Ladder recess clear; {two|three|four} rungs to be renewed.',
            '{Ladder|The escape ladder} {safe|sound}, though the {top|third} rung {turns|is loose}.',
            'One ladder {is|was found} {bent|struck}, {probably|it seems} by the {bow|stern} of <vessel>.',
        ],
        [
            'Quoins sound when struck. Pointing has washed out below the water line.',
            'The hollow quoin {rings dull|sounds hollow} <1-3> m above the {floor|invert}; {grout|a core} is {wanted|suggested}.',
            'Quoins {worn|grooved} to <5-30> mm {where the heel post turns|at the heel}, {within|inside} the limit.',
        ],
        [
            'Lower gates hold well with a level difference of {two|three} metres.',
            'The lower gates {leak|weep} at the {meeting posts|bottom rail}, about <10-90> litres a minute by the {bucket|gauge}.',
            '{With the chamber full|At a full lock} the lower gates {show|have} {no movement|a slight bow}.',
        ],
        [
            'Silt in the chamber is below the level at which it hinders the gates.',
            'Silt {lies|stands} <20-90> cm deep {behind|in front of} the {upper|lower} gates and {should be|is to be} {flushed|grabbed out}.',
            '{A diver|<person>} {felt|found} {stones|a bicycle|timber} on the {floor|cill}; {removed|lifted out} the same day.',
        ],
        [
            'Handrails repainted since {the last inspection|<year>}.',
            'The handrail at the {tail|head} {is missing|has lost} a {stanchion|length of chain}; {reported to|told to} <person>.',
            'Handrails {firm|tight}; {the white ends|the paint} {have faded|want renewing}.',
        ],
        [
            'The cill board was examined by sounding only, as the chamber could not be drained.',
            'With the {chamber|pound} drained the cill board was {seen|found} to be {whole|split at one end}.',
            'The cill {could not be seen|was under water}; {the rod|a pole} met {sound timber|hard wood} {all along|throughout}.',
        ],
        [
            'Bolts of the collar strap were tightened on the spot.',
            'The collar strap {has|shows} <2-9> mm of {play|wear}; {to be watched|measure again in} <month>.',
            'Anchor and collar {tight|in order}; {the wedges|both wedges} {driven|checked} by <person>.',
        ],
        [
            'Vegetation in the wing wall should be cut back before spring.',
            '{Buddleia|An elder|A willow} has {rooted|taken hold} in the wing wall {near|opposite} <place>.',
            'The wing wall {bulges|leans} by <10-70> mm {over|in} {two|three} metres, {as in|no more than in} <year>.',
        ],
        [
            'The anchor plates show surface rust and no loss of section.',
            'Anchor plates {cleaned|wire-brushed} and {painted|coated}; {section|thickness} <10-19> mm {where|at the place} measured.',
            '{One|The downstream} anchor plate {is buried|lies} under {the new surface|tarmac} and {was not seen|could not be seen}.',
        ],
        [
            'Depth gauges read true against the levelling staff.',
            'The gauge at the {head|tail} reads <1-9> cm {high|low} and {was|is to be} reset.',
            '{Levels|Depths} were {read|taken} by <person> with {the staff|a new staff} and {agree|tally} with the gauge.',
        ],
    ];

    /** What inspectors wrote about water where it should not be, each in their own words and spelling. */
    private const SEEPAGE = [
        ['Seepage was seen near the sill on the {towpath|offside} side, about {a bucket|two buckets} a minute.'],
        ['There is some seapage close to the sill when the chamber is full.'],
        ['Water seeps past the cill at the hollow quoin; watch at the next visit.'],
        ['Slight seepage below the sill, unchanged since {last year|<year>}.'],
        ['Weeping at the sill joint. The seepage stops when the level drops by half a metre.'],
        ['Seeping noted near the upper sill; {clay puddle|a void} suspected.'],
    ];

    /** What all offices wrote about the night of 17 February 2019 and what came of it. */
    private const BREACH = [
        'The {breach|break in the bank} at the Oxbeck aqueduct of 17 February 2019 {began|was first seen} on the {towpath|offside} side.',
        '<person> {closed|dropped} the stop planks within <20-90> minutes of the breach at the Oxbeck aqueduct; <vessel> {lay aground|was left dry}.',
        'Since the breach at the Oxbeck aqueduct the {clay|puddle} was {renewed|cut back} over <12-60> metres by <contractor>.',
        'The {claim|letter} of <person> for {flooded fields|a drowned cellar|spoiled hay} after the breach at the Oxbeck aqueduct is {not settled|with the insurer}.',
        'A {culvert|badger sett|tree root} below the trough is {thought|believed} to have caused the breach at the Oxbeck aqueduct.',
        'Levels {fell|dropped} by <30-140> cm {above|below} the breach at the Oxbeck aqueduct before dawn, as <person> {noted|wrote down}.',
        'The insurer’s engineer saw the breach at the Oxbeck aqueduct with <person> and asked for the inspections of {ten|five} years.',
    ];

    private const SURVEY = [
        [
            'Soundings were taken every {five|ten|twenty} metres along the centre line and at both quarter lines.',
            '{The line|A line} was {run|sounded} by {echo sounder|lead} from <place> {upstream|towards the sea}, with <person> {in the boat|keeping the book}.',
        ],
        [
            'The channel keeps its advertised depth over {most of the length|all but <20-90> metres}.',
            'The advertised depth is {not met|missed by <5-40> cm} {near|off} <place>.',
        ],
        [
            'A shoal has formed below the outfall and narrows the fairway to {seven|nine|eleven} metres.',
            'A bar of {gravel|silt} {lies|has grown} across {half|a third of} the channel at <place>.',
        ],
        [
            'Material is soft {grey|brown|black} silt over stiff clay.',
            'The bed is {gravel|shells and mud|peat} {under|beneath} <10-60> cm of {slurry|fresh silt}.',
        ],
        [
            '{Two|Four|Six} samples were sent for analysis; results follow under separate cover.',
            'Sample <2-14> {smelt of|showed} {oil|tar} and {is held|was sealed} for the {Trust|laboratory}.',
        ],
        [
            'Plant can reach the site by water only.',
            '{A long-reach excavator|A pontoon and grab} from <contractor> {can stand|could be set up} at <place>.',
        ],
        [
            'Trees on the offside bank should be trimmed before the dredger arrives.',
            '{Willows|Alders} {hang|lean} over {the channel|the line} for <30-200> metres and will {foul|catch} the {jib|boom}.',
        ],
        [
            'The estimate of volume rests on the cross sections in the table below.',
            'Some <300-9000> cubic metres {are to be|must be} {removed|dredged} {to restore|for} the {design|advertised} depth.',
        ],
        [
            'Disposal to the licensed lagoon at Maltings Corner is proposed.',
            'Spoil {may|can} go to {the fields behind|the tip near} <place> if the {owner|analysis} {allows|permits}.',
        ],
        [
            'No services cross the bed within the surveyed length.',
            'A {cable|water main|gas pipe} crosses <1-3> m below the bed {by|near} <place>; {keep clear|no grab there}.',
        ],
    ];

    private const OFFICE = [
        [
            'The parties have agreed the programme set out in the schedule.',
            '{Work|The work} {begins|is to begin} in <month> and {ends|is complete} within <4-30> weeks.',
        ],
        [
            'Payment follows within {thirty|twenty-one|forty-five} days of a valid application.',
            '{Interim|Monthly} payments are {made|certified} by <person> on the {last|first} working day.',
        ],
        [
            'All levels refer to the datum at the Toll House.',
            'Levels are {taken|given} from the bench mark at <place> and {were|have been} {checked|agreed} by <person>.',
        ],
        [
            'Working hours are seven to five on weekdays.',
            'No work {is done|is allowed} on Sundays, nor {after dark|within sight of} {houses|moored boats}.',
        ],
        [
            'Access to the towpath is kept open for the public at all times.',
            'The towpath {is|will be} {diverted|closed} {by|round} <place> for {at most|no more than} <3-20> days.',
        ],
        [
            'The Trust will provide drawings of the existing structure.',
            'Drawings of <year> are {in|kept in} the plan chest and {are lent|may be copied}; {they are|none is} to scale.',
        ],
        [
            'Temporary works are designed by the contractor and checked by the engineer.',
            '{Stop planks|A cofferdam} {will be|are to be} {set|placed} under the eye of <person>.',
        ],
        [
            'Noise near the Ropewalk is limited after six in the evening.',
            'Piling {near|within hearing of} <place> is {limited|kept} to {three|four} hours a day.',
        ],
        [
            'Any claim for additional time is to be notified within a week.',
            'Delay by {frost|flood|want of water} is {allowed for|counted} by the day, {other delay|none else} {only in writing|on application}.',
        ],
        [
            'Timber is to be sapele or greenheart from a certified source.',
            '{Oak|Larch|Elm} is {accepted|allowed} for {fenders|walings} if {seasoned|dry} for <1-4> years.',
        ],
        [
            'The site is to be left clean and the hedges made good.',
            '{Ruts|Tracks} are {filled|levelled} and {grass sown|seeded} before the {last|final} payment.',
        ],
        [
            'Retention is released {twelve|eighteen|twenty-four} months after completion.',
            'Defects {noted|found} within <6-24> months are {mended|made good} {free of charge|at the contractor’s cost}.',
        ],
    ];

    private const HARBOUR = [
        [
            'Wind {south-west|west|north-east} {three|four|five}, {rising|falling|steady}. Visibility {good|moderate|poor}.',
            '{Fog|Rain|Sleet} {until|since} {dawn|noon|the turn of the tide}; {the lamp|the light} at <place> {could not be seen|was seen late}.',
        ],
        [
            'The vessel took the {inner|outer} berth at {slack|high|low} water.',
            '{She|The vessel} {lay|waited} {outside|off <place>} for <1-6> hours until {<vessel>|the ferry} {had cleared|was away}.',
        ],
        [
            'The master was told of the works at Sea Lock.',
            'The master {had not seen|did not know} the notice {of|about} <place> and was {given|handed} a copy by <person>.',
        ],
        [
            'Engine tested astern before entering.',
            'The engine {stopped|failed to go astern} {off|close to} <place>; an anchor {held|was let go} in time.',
        ],
        [
            'Two tugs stood by and were not needed.',
            '<vessel> {took|passed} a line and {towed|drew} her {clear|to the quay}.',
        ],
        [
            'A fender was lost and later recovered by the harbour launch.',
            '{A bollard|The rubbing strake|A ladder} {was bent|was marked} and {is to be|will be} {seen to|mended} by <contractor>.',
        ],
        [
            'No injury and no pollution were reported.',
            'A {deckhand|passenger} {cut a hand|fell on the steps} and was {seen|bandaged} at <place>.',
        ],
        [
            'The mooring lines were doubled for the night.',
            'Lines were {slack|chafed} at the {bow|stern} and {changed|doubled} by {the watchman|<person>} at {ten|midnight|four}.',
        ],
        [
            'Light on the outer pier was found unlit and restored within the hour.',
            'The {green|red} {light|buoy} {off|near} <place> {was out|showed white}; {told to|reported to} <person>.',
        ],
        [
            'The draught on arrival was two metres and ten.',
            '{Loaded with|Carrying} {timber|stone|lime}, she {drew|needed} <12-31> decimetres and {touched|cleared} the {sill|bar}.',
        ],
    ];

    private const MEMORY = [
        [
            'My father kept the lock before me and his uncle before him.',
            'We were {four|five|seven} in the cottage at <place>, and {the dog|a lodger called <person>}.',
        ],
        [
            'In the long frost we walked across the basin to school.',
            'The winter of <year> {stopped everything|froze us in}; they {broke the ice|took bread} {by hand|on a sledge} to <place>.',
        ],
        [
            'You could hear the horses coming before you saw the lamp.',
            'The {last|old} horse was called {Captain|Dolly|Prince} and {would not|never would} cross <place> {after dark|in the rain}.',
        ],
        [
            'They brought coal up from the staithe and took lime back down.',
            '<vessel> carried {grain|coal|bricks} {for|to} <contractor>, and {came back|went home} {empty|with timber}.',
        ],
        [
            'The night the gates failed at Pellow, everybody came out with planks and straw.',
            'When the bank {went|gave way} {near|above} <place> in <year> you could {smell|hear} it {from|as far as} the mill.',
        ],
        [
            'My mother sold eggs to the boat families and wrote their letters.',
            '{Mrs|Old Mrs} {Tyle|Crake|Fenn} {taught|showed} the boat children their {letters|sums} {for a penny|on Sundays}.',
        ],
        [
            'Nobody had a watch; we went by the mill hooter.',
            'We {ate|had dinner} when {<vessel>|the packet} {came by|had passed}, {never|not a minute} before.',
        ],
        [
            'When the last cargo came through we all stood on the bridge and nobody said a word.',
            '<person> {painted|lettered} the {name|roses} on {her|<vessel>} and {signed it|put the year} under the {bow|cabin}.',
        ],
        [
            'There was a woman who could steer a pair of boats through Cray cutting in the dark.',
            '{My aunt|<person>} {fell in|went under} at <place> {twice|three times} and {never|did not} learn to swim.',
        ],
        [
            'The dredger was called the Duchess and she burned anything you gave her.',
            'They {found|dug up} {a bell|an anchor|a safe} {by|below} <place> when they {deepened|cleaned} it, in <year> I think.',
        ],
    ];

    private const BOARD = [
        [
            'Members noted the report of {the engineer|<person>}.',
            '<person> reported on {the breach near|works at|the lease of} <place>; members {asked for|wanted} {figures|a plan} by <month>.',
        ],
        [
            'It was resolved to consult harbour users before the {summer|winter|season}.',
            'It was {agreed|resolved}, <3-8> to <1-2>, to {defer|approve} the {tender|offer} of <contractor>.',
        ],
        [
            'The draft byelaw on overstaying vessels was amended in clause {two|four|nine}.',
            'Clause <2-14> {is|was} {struck out|redrafted} so that {a notice|a fine} {follows|is due} after <7-28> days.',
        ],
        [
            'Counsel advises that the power to remove sunken craft remains in force.',
            'Counsel {doubts|is sure} that {a licence|the Act} {covers|reaches} <place>; {a case|an opinion} of <year> {is cited|was read}.',
        ],
        [
            'The treasurer presented the accounts for the {quarter|year}.',
            'The treasurer {expects|fears} a shortfall of <12-90> thousand, chiefly for {dredging|gates|insurance}.',
        ],
        [
            'A member declared an interest and left the room.',
            '<person> {declared|has} an interest in <contractor> and did not {vote|speak}.',
        ],
        [
            'The risk register was reviewed; the reservoir remains at {amber|red}.',
            'The {drain|spillway|valve} at {Hallow Dam|Brinmere Sluice} {moves|is moved} to {amber|green} on the risk register.',
        ],
        [
            'The confidential annex is not to be copied.',
            'Copies of the annex are {numbered|signed for} and {come back|return} to <person>.',
        ],
    ];

    private const GERMAN = [
        'Das Schiff <vessel> {lief|kam} bei {ruhigem Wetter|starkem Wind} in den Hafen ein und {machte|legte} am Kai fest.',
        'Der Lotse <person> kam {vor|bei} <place> an Bord; die Maschine {lief|arbeitete} {ohne Störung|einwandfrei}.',
        'Der Tiefgang betrug {vorne und hinten|mittschiffs} <17-29> Dezimeter.',
        'Wegen des Nebels mussten wir {eine Stunde|zwei Stunden|bis zum Morgen} vor der Einfahrt warten.',
        'Ein Schlepper stand bereit, wurde aber nicht gebraucht.',
        'Die Leinen wurden {für die Nacht|wegen der Strömung} verdoppelt, Schäden sind nicht entstanden.',
        'Über die Arbeiten an der Seeschleuse wurde der Kapitän {rechtzeitig|erst spät} unterrichtet.',
    ];

    private const FRENCH = [
        'Le navire <vessel> est entré dans le port {par temps calme|avec un vent fort} et s’est amarré au quai.',
        'Le pilote <person> est monté à bord {devant|près de} <place> ; la machine {fonctionnait|marchait} sans défaut.',
        'Le tirant d’eau était de <17-29> décimètres à l’arrivée.',
        'À cause de la brume nous avons attendu {une heure|deux heures|jusqu’au matin} devant l’entrée.',
        'Un remorqueur se tenait prêt mais n’a pas été nécessaire.',
        'Les amarres ont été doublées {pour la nuit|à cause du courant}, aucun dommage n’est à signaler.',
        'Le capitaine a été informé {à temps|trop tard} des travaux à l’écluse de mer.',
    ];

    private const POOLS = [
        'inspection' => self::INSPECTION,
        'survey' => self::SURVEY,
        'office' => self::OFFICE,
        'harbour' => self::HARBOUR,
        'memory' => self::MEMORY,
        'board' => self::BOARD,
    ];

    /** What a machine that reads a bad copy takes for another. */
    private const MISREAD = ['rn' => 'm', 'l' => '1', 'e' => 'c', 'h' => 'b', 'cl' => 'd', 'tt' => 'lt', 'u' => 'ii', 'f' => 't', 'O' => '0'];

    /**
     * @param  Chance  $subjects  of which subjects a paper speaks
     * @param  Chance  $words  how it says so
     */
    public function __construct(private Chance $subjects, private Chance $words)
    {
    }

    /** A paragraph of an office, now and then with a slip of the pen. */
    public function paragraph(string $pool, int $sentences): string
    {
        $text = [];
        for ($i = 0; $i < $sentences; $i++) {
            $text[] = $this->said($this->subjects->pick(self::POOLS[$pool]));
        }

        return $this->slips(implode(' ', $text));
    }

    public function seepage(): string
    {
        return $this->said($this->subjects->pick(self::SEEPAGE));
    }

    /** What a paper says of the breach at the aqueduct, if it is of the time and place; nothing if not. */
    public function breach(string $reach, string $date): string
    {
        $isOfIt = $reach === 'tarn-aq' && strcmp($date, '2019-02-17') >= 0 && strcmp($date, '2022-12-31') <= 0;

        return $isOfIt ? $this->said(self::BREACH).' '.$this->said(self::BREACH) : '';
    }

    /** A paragraph from abroad, in German or French. */
    public function foreign(string $language, int $sentences): string
    {
        $text = [];
        for ($i = 0; $i < $sentences; $i++) {
            $text[] = $this->said($language === 'de' ? self::GERMAN : self::FRENCH);
        }

        return implode(' ', $text);
    }

    /**
     * A text as it was before somebody went over it: a sentence is missing, a few words are others.
     *
     * @param  list<string>  $paragraphs
     * @return list<string>
     */
    public function redrafted(array $paragraphs, string $pool): array
    {
        $at = $this->words->int(0, count($paragraphs) - 1);
        $sentences = preg_split('/(?<=[.;])\s+/', $paragraphs[$at]) ?: [];
        if (count($sentences) > 1) {
            array_splice($sentences, $this->words->int(0, count($sentences) - 1), 1);
        }
        $sentences[] = $this->said($this->words->pick(self::POOLS[$pool]));
        array_splice($paragraphs, $at, 1, [implode(' ', $sentences)]);

        return $paragraphs;
    }

    /** A text as a machine reads it from a bad copy: one of so many words has a letter that is another one. */
    public function misread(string $text, int $oneIn = 14): string
    {
        return (string) preg_replace_callback(
            '/\S{3,}/',
            function (array $word) use ($oneIn): string {
                $mistaken = $this->words->pick(array_keys(self::MISREAD));
                if (! $this->words->oneIn($oneIn) || ! str_contains($word[0], $mistaken)) {
                    return $word[0];
                }

                return substr_replace($word[0], self::MISREAD[$mistaken], (int) strpos($word[0], $mistaken), strlen($mistaken));
            },
            $text,
        );
    }

    /** @param  non-empty-list<string>  $ways */
    private function said(array $ways): string
    {
        $text = (string) preg_replace_callback(
            '/\{([^{}]*)\}/',
            fn (array $of): string => $this->words->pick(explode('|', $of[1])),
            $this->words->pick($ways),
        );

        return (string) preg_replace_callback(
            '/<(\w+)(?:-(\d+))?>/',
            fn (array $of): string => match ($of[1]) {
                'person' => $this->words->pick(Words::PEOPLE),
                'place' => $this->words->pick(Words::PLACES),
                'vessel' => $this->words->pick(Words::VESSELS),
                'contractor' => $this->words->pick(Words::CONTRACTORS),
                'month' => $this->words->pick(self::MONTHS),
                'year' => (string) $this->words->int(1958, 2011),
                default => (string) $this->words->int((int) $of[1], (int) ($of[2] ?? $of[1])),
            },
            $text,
        );
    }

    /** One of some paragraphs has a word that was written in a hurry. */
    private function slips(string $text): string
    {
        $kind = $this->subjects->int(0, 4);
        if (! $this->subjects->oneIn(25) || preg_match_all('/\b[a-z]{6,}\b/', $text, $words, PREG_OFFSET_CAPTURE) < 1) {
            return $text;
        }
        [$word, $offset] = $words[0][$this->words->int(0, count($words[0]) - 1)];
        $at = $this->words->int(1, strlen($word) - 3);
        $slip = match ($kind) {
            0, 1 => substr_replace($word, $word[$at + 1].$word[$at], $at, 2),
            2 => substr_replace($word, '', $at, 1),
            3 => substr_replace($word, $word[$at].$word[$at], $at, 1),
            default => substr_replace($word, ' ', $at + 1, 0),
        };

        return substr_replace($text, $slip, $offset, strlen($word));
    }
}
