<?php

declare(strict_types=1);

namespace Demo;

/** Invented names of the Trust. Nobody and nothing of these exists. */
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
}
