<?php

declare(strict_types=1);

namespace Demo;

/** Invented names and sentences of the Trust. Nobody and nothing of these exists. */
final class Words
{
    public const VESSELS = [
        'Marigold Ash',
        'Grey Wether',
        'Lady Oxbeck',
        'Patient Heron',
        'Corran Light',
        'Tansy Row',
        'Second Thoughts',
        'Old Rope',
        'Juniper',
        'Brinmere Belle',
        'Ploughshare',
        'Quiet Hours',
        'Saltmarsh',
        'Three Kings',
        'Wren of Pellow',
        'Amber Reach',
        'Kestrel Moon',
        'Hallow Maid',
        'Fathom',
        'Blue Cordage',
        'Sorrel',
        'Iron Lark',
        'Nettle',
        'Harvest Queen',
        'Tern',
    ];

    public const CONTRACTORS = [
        'Arkle & Sons Dredging',
        'Bellway Piling Works',
        'Cragmoor Civil Ltd',
        'Dunnage Marine',
        'Eskdale Timber Gates',
        'Farrow Surveying',
        'Gannet Plant Hire',
        'Holm Masonry',
        'Ivel Steelwork',
        'Jessop Lane Engineering',
    ];

    public const PEOPLE = [
        'Ada Lorne',
        'Benedict Rooke',
        'Cecily Harg',
        'Dorian Pike',
        'Edwin Sallow',
        'Florence Quill',
        'Gareth Imrie',
        'Harriet Oake',
        'Idris Fenn',
        'Josephine Crake',
        'Kit Wardle',
        'Lorna Steep',
        'Magnus Tyle',
        'Nell Bracken',
        'Osric Vane',
        'Phoebe Ludd',
    ];

    public const PLACES = [
        'Pellow Bridge',
        'Cray Wharf',
        'Sea Lock',
        'Oxbeck Aqueduct',
        'Coal Staithe',
        'Hallow Dam',
        'Tarnwick Quay',
        'Brinmere Sluice',
        'Ferry Steps',
        'Maltings Corner',
        'Gasworks Basin',
        'Lime Kiln Turn',
        'Toll House',
        'Ropewalk',
        'Summit Cottage',
    ];

    public const BERTHS = ['A1', 'A2', 'A3', 'A4', 'B1', 'B2', 'B3', 'B7', 'C2', 'C5', 'C9', 'Quay 4', 'Quay 11', 'Pontoon 3'];

    private const INSPECTION = [
        'The upper gates were opened and closed twice without undue effort.',
        'Paddle gear greased; the offside rack shows wear on four teeth.',
        'Mitre posts meet cleanly along their full height.',
        'Coping stones on the towpath side are loose over a length of two metres.',
        'The balance beam has a longitudinal crack that has not grown since the last visit.',
        'Ladder recess clear; two rungs to be renewed.',
        'Quoins sound when struck. Pointing has washed out below the water line.',
        'Lower gates hold well with a level difference of three metres.',
        'Silt in the chamber is below the level at which it hinders the gates.',
        'Handrails repainted since the last inspection.',
        'The cill board was examined by sounding only, as the chamber could not be drained.',
        'Bolts of the collar strap were tightened on the spot.',
        'Vegetation in the wing wall should be cut back before spring.',
        'The anchor plates show surface rust and no loss of section.',
        'Depth gauges read true against the levelling staff.',
    ];

    /** What inspectors wrote about water where it should not be, each in their own words and spelling. */
    private const SEEPAGE = [
        'Seepage was seen near the sill on the towpath side, about a bucket a minute.',
        'There is some seapage close to the sill when the chamber is full.',
        'Water seeps past the cill at the hollow quoin; watch at the next visit.',
        'Slight seepage below the sill, unchanged since last year.',
        'Weeping at the sill joint. The seepage stops when the level drops by half a metre.',
        'Seeping noted near the upper sill; clay puddle suspected.',
    ];

    private const SURVEY = [
        'Soundings were taken every ten metres along the centre line and at both quarter lines.',
        'The channel keeps its advertised depth over most of the length.',
        'A shoal has formed below the outfall and narrows the fairway to nine metres.',
        'Material is soft grey silt over stiff clay.',
        'Two samples were sent for analysis; results follow under separate cover.',
        'Plant can reach the site by water only.',
        'Trees on the offside bank should be trimmed before the dredger arrives.',
        'The estimate of volume rests on the cross sections in the table below.',
        'Disposal to the licensed lagoon at Maltings Corner is proposed.',
        'No services cross the bed within the surveyed length.',
    ];

    private const OFFICE = [
        'The parties have agreed the programme set out in the schedule.',
        'Payment follows within thirty days of a valid application.',
        'All levels refer to the datum at the Toll House.',
        'Working hours are seven to five on weekdays.',
        'Access to the towpath is kept open for the public at all times.',
        'The Trust will provide drawings of the existing structure.',
        'Temporary works are designed by the contractor and checked by the engineer.',
        'Noise near the Ropewalk is limited after six in the evening.',
        'Any claim for additional time is to be notified within a week.',
        'Timber is to be sapele or greenheart from a certified source.',
        'The site is to be left clean and the hedges made good.',
        'Retention is released twelve months after completion.',
    ];

    private const HARBOUR = [
        'Wind south-west four, rising. Visibility good.',
        'The vessel took the inner berth at slack water.',
        'The master was told of the works at Sea Lock.',
        'Engine tested astern before entering.',
        'Two tugs stood by and were not needed.',
        'A fender was lost and later recovered by the harbour launch.',
        'No injury and no pollution were reported.',
        'The mooring lines were doubled for the night.',
        'Light on the outer pier was found unlit and restored within the hour.',
        'The draught on arrival was two metres and ten.',
    ];

    private const MEMORY = [
        'My father kept the lock before me and his uncle before him.',
        'In the long frost we walked across the basin to school.',
        'You could hear the horses coming before you saw the lamp.',
        'They brought coal up from the staithe and took lime back down.',
        'The night the gates failed at Pellow, everybody came out with planks and straw.',
        'My mother sold eggs to the boat families and wrote their letters.',
        'Nobody had a watch; we went by the mill hooter.',
        'When the last cargo came through we all stood on the bridge and nobody said a word.',
        'There was a woman who could steer a pair of boats through Cray cutting in the dark.',
        'The dredger was called the Duchess and she burned anything you gave her.',
    ];

    private const BOARD = [
        'Members noted the report of the engineer.',
        'It was resolved to consult harbour users before the summer.',
        'The draft byelaw on overstaying vessels was amended in clause four.',
        'Counsel advises that the power to remove sunken craft remains in force.',
        'The treasurer presented the accounts for the quarter.',
        'A member declared an interest and left the room.',
        'The risk register was reviewed; the reservoir remains at amber.',
        'The confidential annex is not to be copied.',
    ];

    private const POOLS = [
        'inspection' => self::INSPECTION,
        'survey' => self::SURVEY,
        'office' => self::OFFICE,
        'harbour' => self::HARBOUR,
        'memory' => self::MEMORY,
        'board' => self::BOARD,
    ];

    /** A paragraph on a subject, now and then with a slip of the pen. */
    public static function paragraph(Chance $chance, string $pool, int $sentences): string
    {
        $text = [];
        for ($i = 0; $i < $sentences; $i++) {
            $text[] = $chance->pick(self::POOLS[$pool]);
        }
        $text = implode(' ', $text);
        $slips = ['gates' => 'gtaes', 'channel' => 'chanel', 'vessel' => 'vessle', 'mooring' => 'morring', 'inspection' => 'inspecton'];
        $right = $chance->pick(array_keys($slips));

        return $chance->oneIn(25) ? str_replace($right, $slips[$right], $text) : $text;
    }

    public static function seepage(Chance $chance): string
    {
        return $chance->pick(self::SEEPAGE);
    }
}
