<?php

declare(strict_types=1);

namespace Demo;

/**
 * The classification schemes of the Trust, one concept a line: `code|label|synonyms|scope note`, below what is less
 * indented. Codes with dots and capitals are notations too.
 */
final class Schemes
{
    public const WATERWAYS = <<<'TEXT'
    tarn|Tarnwick Canal
      tarn-upper|Upper reach
        tarn-summit|Summit pound|top level
        tarn-flight|Pellow flight|the ladder|Locks 3 to 14 and the pounds between them.
        tarn-feeder|Hallow feeder
        tarn-pellow-wide|Pellow wide
      tarn-middle|Middle reach
        tarn-cray|Cray cutting
        tarn-aq|Oxbeck aqueduct
        tarn-oxbeck-emb|Oxbeck embankment
        tarn-maltings|Maltings length
        tarn-limekiln|Lime kiln length
      tarn-lower|Lower reach
        tarn-sea|Sea lock pound
        tarn-gasworks|Gasworks length
        tarn-ropewalk|Ropewalk length
    basins|Basins
      basin-upper|Upper basin
      basin-lower|Lower basin
      basin-coal|Coal basin
      basin-gas|Gasworks basin
      basin-dry|Dry dock
    harbour|Tidal harbour
      hb-inner|Inner harbour
        hb-quay-west|West quay
        hb-quay-east|East quay
        hb-ferry|Ferry steps
      hb-outer|Outer harbour
        hb-roads|The roads
        hb-bar|Harbour bar
        hb-leading|Leading line
      hb-marina|Pontoon moorings
    reservoirs|Reservoirs
      res-hallow|Hallow Water
        res-hallow-dam|Hallow dam
        res-hallow-spill|Hallow spillway
      res-mere|Brinmere
        res-mere-sluice|Brinmere sluice
    TEXT;

    public const FUNCTIONS = <<<'TEXT'
    NAV|Navigation
      NAV.01|Locks and gates|paddles,sluices|Structures that pass vessels from level to level. Bridges are NAV.05.
        NAV.01.1|Gates
        NAV.01.2|Sills and chambers
        NAV.01.3|Paddle gear
        NAV.01.4|Lock keeping
      NAV.02|Channel depth|draught
        NAV.02.1|Soundings
        NAV.02.2|Weed
        NAV.02.3|Dredging|silt removal
        NAV.02.4|Disposal of silt
      NAV.03|Stoppages|closures
        NAV.03.1|Planned stoppages
        NAV.03.2|Emergency stoppages
      NAV.04|Water levels
        NAV.04.1|Reservoirs and feeders
        NAV.04.2|Weirs and overflows
        NAV.04.3|Drought orders
      NAV.05|Bridges and aqueducts
        NAV.05.1|Moving bridges
        NAV.05.2|Fixed bridges
        NAV.05.3|Aqueducts
      NAV.06|Towpath
    HAR|Harbour
      HAR.01|Moorings|berths
        HAR.01.1|Permits
        HAR.01.2|Fees
        HAR.01.3|Pontoons
      HAR.02|Pilotage and passages
        HAR.02.1|Pilots
        HAR.02.2|Passage logs
      HAR.03|Incidents
        HAR.03.1|Groundings
        HAR.03.2|Collisions
        HAR.03.3|Pollution
      HAR.04|Lights and marks
      HAR.05|Harbour works
      HAR.06|Ferry
    WRK|Works
      WRK.01|Procurement|tendering
        WRK.01.1|Tenders
        WRK.01.2|Quotations
        WRK.01.3|Contracts
        WRK.01.4|Approved suppliers
      WRK.02|Site records
        WRK.02.1|Diaries
        WRK.02.2|Certificates
        WRK.02.3|Method statements
      WRK.03|Plant and vessels
        WRK.03.1|Dredgers
        WRK.03.2|Work boats
      WRK.04|Design of works
      WRK.05|Health and safety
        WRK.05.1|Risk assessments
        WRK.05.2|Accidents
    HER|Heritage
      HER.01|Drawings
        HER.01.1|Plans
        HER.01.2|Sections
        HER.01.3|Map sheets
      HER.02|Memories|oral history
        HER.02.1|Recordings
        HER.02.2|Photographs
        HER.02.3|Card index
      HER.03|Listed structures
      HER.04|Museum
    ENV|Environment
      ENV.01|Wildlife
      ENV.02|Water quality
      ENV.03|Invasive plants
      ENV.04|Trees
    PRO|Property
      PRO.01|Land
      PRO.02|Leases
      PRO.03|Wayleaves
      PRO.04|Encroachment
    PEO|People
      PEO.01|Staff
      PEO.02|Volunteers
      PEO.03|Training
    FIN|Finance
      FIN.01|Accounts
      FIN.02|Grants
      FIN.03|Insurance
        FIN.03.1|Claims
        FIN.03.2|Policies
    GOV|Governance
      GOV.01|Board
        GOV.01.1|Minutes
        GOV.01.2|Agenda papers
      GOV.02|Byelaws
        GOV.02.1|Drafts
        GOV.02.2|Consultations
      GOV.03|Opinions of counsel
      GOV.04|Complaints
    TEXT;

    public const ASSETS = <<<'TEXT'
    A1|Water-retaining structures
      A1.1|Locks
        A1.1.1|Single locks
        A1.1.2|Staircase locks
        A1.1.3|Sea locks
      A1.2|Dams
      A1.3|Embankments
      A1.4|Weirs
    A2|Crossings
      A2.1|Bridges
        A2.1.1|Swing bridges
        A2.1.2|Lift bridges
        A2.1.3|Arch bridges
      A2.2|Aqueducts
      A2.3|Tunnels
      A2.4|Culverts
    A3|Gates and gear
      A3.1|Timber gates
      A3.2|Steel gates
      A3.3|Paddles
      A3.4|Winding gear
    A4|Quays and moorings
      A4.1|Quay walls
      A4.2|Pontoons
      A4.3|Dolphins
    A5|Marks and lights
      A5.1|Buoys
      A5.2|Leading lights
    A6|Buildings
      A6.1|Lock cottages
      A6.2|Workshops
      A6.3|Pumping stations
    TEXT;

    /** How long what a function leaves is kept: after which date, for how many years, and what comes then. */
    private const RETENTION = [
        'NAV.03' => ['document_date', 7, 'destroy'],
        'HAR.01.1' => ['valid_until', 6, 'destroy'],
        'HAR.03' => ['document_date', 25, 'review'],
        'WRK.01' => ['document_date', 12, 'destroy'],
        'WRK.02' => ['document_date', 15, 'review'],
        'HER' => ['document_date', 0, 'keep'],
        'GOV.01' => ['document_date', 0, 'keep'],
        'GOV.02' => ['document_date', 30, 'review'],
    ];

    private const RELATED = [
        'NAV.02.3' => ['NAV.02.4'],
        'NAV.02.4' => ['NAV.02.3'],
        'HAR.01.2' => ['FIN.01'],
        'NAV.05.3' => ['HER.03'],
        'FIN.03.1' => ['HAR.03'],
    ];

    /** @return list<array<string, mixed>> the terms of a scheme */
    public static function terms(string $text): array
    {
        $terms = [];
        $line = [];
        foreach (explode("\n", $text) as $entry) {
            $depth = intdiv(strlen($entry) - strlen(ltrim($entry)), 2);
            [$code, $label, $synonyms, $note] = [...explode('|', trim($entry)), '', '', ''];
            $line = [...array_slice($line, 0, $depth), $code];
            $retention = self::RETENTION[$code] ?? null;
            $terms[] = [
                'code' => $code,
                'label' => $label,
                'parent' => $line[$depth - 1] ?? null,
                'synonyms' => $synonyms === '' ? [] : explode(',', $synonyms),
                'notation' => preg_match('/^[A-Z]/', $code) === 1 ? $code : '',
                'note' => $note,
                'related' => self::RELATED[$code] ?? [],
                'retention' => $retention === null ? null : ['after' => $retention[0], 'years' => $retention[1], 'action' => $retention[2]],
            ];
        }

        return $terms;
    }
}
