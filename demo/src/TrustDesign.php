<?php

declare(strict_types=1);

namespace Demo;

use App\Catalog\DesignTables;
use App\Design\PartShape;
use App\Models\Group;
use App\Models\User;
use App\People\Groups;
use App\People\People;
use App\People\PersonGiven;
use App\People\SignIn;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;
use Demo\Exchange\SurveyExchange;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** The design of the Tarnwick Canal & Harbour Trust, and its people. */
final class TrustDesign
{
    public const PASSWORD = SignIn::OF_THE_DEMO;

    private const GROUPS = ['Everyone', 'Records office', 'Board office', 'Harbour office'];

    /** sign-in name => name, role, groups */
    public const PEOPLE = [
        'librarian' => ['Ottoline Marsh', 'librarian', ['Everyone', 'Records office', 'Board office']],
        'clerk' => ['Fenwick Dale', 'clerk', ['Everyone', 'Records office']],
        'reader' => ['Isla Thorne', 'reader', ['Everyone']],
        'manager' => ['Corin Bexley', 'manager', ['Everyone', 'Board office']],
        'admin' => ['Wystan Clough', 'administrator', ['Everyone']],
    ];

    /** @var array<string, array{string, array<string, array{string, string, list<string>}>}> */
    private const REPOSITORIES = [
        'operations' => [
            'Operations',
            [
                'waterways' => [
                    'Waterways',
                    'Inspections, surveys and notices of the canal and reservoirs',
                    ['lock_inspection', 'dredging_survey', 'weed_silt_report', 'stoppage_notice'],
                ],
                'harbour' => [
                    'Harbour',
                    'Moorings, passages and incidents in the tidal harbour',
                    ['mooring_permit', 'passage_log', 'pilotage_note', 'incident_report'],
                ],
                'works' => [
                    'Works',
                    'Tenders, contracts and site records',
                    ['tender', 'quotation', 'contract', 'site_diary', 'completion_certificate'],
                ],
            ],
        ],
        'heritage' => [
            'Heritage',
            [
                'plans' => ['Plans and drawings', 'Plans, sections and map sheets since 1790', ['plan', 'section', 'map_sheet']],
                'voices' => [
                    'Photographs and voices',
                    'Photographs, recorded memories and the old card index',
                    ['photograph', 'oral_history', 'catalogue_card'],
                ],
            ],
        ],
        'board' => [
            'Board',
            [
                'board' => ['Board and byelaws', 'Confidential to the board office', ['minute', 'agenda_paper', 'byelaw', 'legal_advice']],
            ],
        ],
    ];

    /** name, and terms as code, label, synonyms, and (of a dependent one) the values they belong under */
    private const VOCABULARIES = [
        'condition' => [
            'Condition grades',
            [['a', 'A: as new'], ['b', 'B: good'], ['c', 'C: fair'], ['d', 'D: poor'], ['e', 'E: failing']],
        ],
        'severity' => [
            'Severity',
            [['minor', 'Minor'], ['moderate', 'Moderate'], ['serious', 'Serious', ['major']], ['critical', 'Critical']],
        ],
        'confidentiality' => ['Confidentiality', [['open', 'Open'], ['internal', 'Internal'], ['confidential', 'Confidential']]],
        'language' => ['Languages', [['en', 'English'], ['cy', 'Welsh', ['Cymraeg']], ['de', 'German'], ['fr', 'French']]],
        'redaction_reason' => [
            'Reasons for redaction',
            [
                ['personal', 'Personal data'],
                ['commercial', 'Commercial confidence'],
                ['legal', 'Legal privilege'],
                ['security', 'Security of works'],
            ],
        ],
        'stamp' => [
            'Stamps',
            [
                ['received', 'Received {date}, {name}'],
                ['checked', 'Checked against the original, {name}, {date}'],
                ['superseded', 'Superseded {date}'],
            ],
        ],
        'weather' => ['Weather', [['dry', 'Dry'], ['rain', 'Rain'], ['frost', 'Frost'], ['spate', 'Spate']]],
        'stretch' => [
            'Stretches',
            [
                ['summit-n', 'Summit pound, north end', [], ['tarn-summit']],
                ['summit-s', 'Summit pound, south end', [], ['tarn-summit']],
                ['flight-top', 'Locks 3 to 8', [], ['tarn-flight']],
                ['flight-foot', 'Locks 9 to 14', [], ['tarn-flight']],
                ['cray-w', 'Cray cutting, west bank', [], ['tarn-cray']],
                ['cray-e', 'Cray cutting, east bank', [], ['tarn-cray']],
                ['sea-in', 'Above the sea lock', [], ['tarn-sea']],
                ['sea-out', 'Below the sea lock', [], ['tarn-sea', 'hb-inner']],
                ['whole', 'The whole length'],
            ],
        ],
    ];

    /** @return array<string, array{string, string, array<string, mixed>}> label, kind, more by code */
    private static function fields(): array
    {
        return [
            'document_date' => [
                'Document date',
                'date',
                ['dublin_core' => 'date', 'faceted' => true, 'help' => 'The date the document bears.'],
            ],
            'waterway' => [
                'Waterway',
                'choice',
                [
                    'dublin_core' => 'coverage',
                    'faceted' => true,
                    'vocabulary' => 'waterway',
                    'help' => 'The reach, basin or reservoir it is about.',
                ],
            ],
            'stretch' => ['Stretch', 'choice', ['vocabulary' => 'stretch', 'help' => 'Where on the waterway; choose that first.']],
            'structure' => [
                'Structure',
                'identifier',
                [
                    'dublin_core' => 'coverage',
                    'faceted' => true,
                    'pattern' => 'AA-9999-?',
                    'help' => 'The number on the asset plate; its last sign is a check character.',
                ],
            ],
            'asset_class' => ['Asset class', 'choice', ['faceted' => true, 'vocabulary' => 'asset_class']],
            'subject' => [
                'Subject',
                'choice',
                ['dublin_core' => 'subject', 'faceted' => true, 'multiple' => true, 'vocabulary' => 'subject'],
            ],
            'condition' => ['Condition grade', 'choice', ['faceted' => true, 'vocabulary' => 'condition']],
            'silt_depth' => ['Silt depth', 'number', ['faceted' => true, 'unit' => 'm', 'minimum' => 0, 'maximum' => 20]],
            'severity' => ['Severity', 'choice', ['faceted' => true, 'vocabulary' => 'severity']],
            'vessel' => ['Vessel', 'text', ['faceted' => true]],
            'draught' => ['Draught', 'number', ['unit' => 'm', 'minimum' => 0, 'maximum' => 12]],
            'permit_number' => ['Permit number', 'identifier', ['pattern' => 'MP-9999-9999']],
            'berth' => ['Berth', 'text', ['faceted' => true, 'max_length' => 20]],
            'holder' => ['Holder', 'person', ['sensitive' => true]],
            'valid_until' => ['Valid until', 'date', []],
            'supplier' => [
                'Supplier number',
                'identifier',
                ['pattern' => 'S-999-?', 'help' => 'Fills in the contractor from the list of suppliers.'],
            ],
            'contractor' => ['Contractor', 'text', ['dublin_core' => 'contributor', 'faceted' => true]],
            'contact' => ['Contact', 'text', []],
            'amount' => ['Amount', 'amount', ['faceted' => true, 'unit' => 'GBP', 'minimum' => 0]],
            'works_period' => ['Period of works', 'date_range', ['help' => 'From the first to the last day on site.']],
            'supersedes' => [
                'Supersedes',
                'reference',
                ['dublin_core' => 'relation', 'refers_to' => 'document', 'help' => 'The document this one takes the place of.'],
            ],
            'weather' => ['Weather', 'choice', ['vocabulary' => 'weather', 'default' => 'dry']],
            'inspector' => ['Inspector', 'person', ['dublin_core' => 'creator', 'faceted' => true]],
            'author' => ['Author', 'person', ['dublin_core' => 'creator']],
            'received_from' => ['Received from', 'text', ['dublin_core' => 'contributor']],
            'place' => ['Place', 'text', ['dublin_core' => 'coverage', 'faceted' => true]],
            'language' => ['Language', 'choice', ['dublin_core' => 'language', 'faceted' => true, 'vocabulary' => 'language']],
            'confidentiality' => ['Confidentiality', 'choice', ['dublin_core' => 'rights', 'vocabulary' => 'confidentiality']],
            'urgent' => ['Urgent', 'yes_no', ['faceted' => true]],
            'places_mentioned' => [
                'Places mentioned',
                'choice',
                ['faceted' => true, 'multiple' => true, 'vocabulary' => 'places', 'help' => 'Read out of the text.'],
            ],
            'remarks' => ['Remarks', 'long_text', ['dublin_core' => 'description']],
        ];
    }

    /** @var array<string, array{string, string, list<string>, list<string>}> type => name, title pattern, required fields, other fields */
    private const TYPES = [
        'lock_inspection' => [
            'Lock inspection',
            'Lock inspection {structure}, {document_date}',
            ['document_date', 'structure'],
            ['waterway', 'asset_class', 'condition', 'inspector', 'weather', 'urgent', 'subject', 'remarks'],
        ],
        'dredging_survey' => [
            'Dredging survey',
            '{waterway}: dredging survey {document_date}',
            ['document_date', 'waterway'],
            ['stretch', 'silt_depth', 'condition', 'contractor', 'supersedes', 'subject', 'remarks'],
        ],
        'weed_silt_report' => [
            'Weed and silt report',
            '{waterway}: weed and silt report {document_date}',
            ['document_date', 'waterway'],
            ['silt_depth', 'severity', 'inspector', 'subject'],
        ],
        'stoppage_notice' => [
            'Stoppage notice',
            'Stoppage notice {waterway}, {document_date}',
            ['document_date', 'waterway'],
            ['structure', 'urgent', 'received_from', 'subject'],
        ],
        'mooring_permit' => [
            'Mooring permit',
            'Mooring permit {permit_number}: {vessel}',
            ['permit_number', 'vessel'],
            ['document_date', 'berth', 'holder', 'valid_until', 'amount', 'waterway', 'subject'],
        ],
        'passage_log' => [
            'Passage log',
            'Passage log {waterway}, {document_date}',
            ['document_date'],
            ['waterway', 'author', 'draught', 'subject'],
        ],
        'pilotage_note' => [
            'Pilotage note',
            'Pilotage note {vessel}, {document_date}',
            ['document_date'],
            ['vessel', 'author', 'waterway', 'subject'],
        ],
        'incident_report' => [
            'Incident report',
            'Incident at {place}, {document_date}',
            ['document_date'],
            ['vessel', 'severity', 'place', 'waterway', 'author', 'subject', 'remarks'],
        ],
        'tender' => [
            'Tender',
            'Tender by {contractor}, {document_date}',
            ['contractor'],
            ['document_date', 'amount', 'structure', 'waterway', 'subject'],
        ],
        'quotation' => [
            'Quotation',
            'Quotation by {contractor}, {document_date}',
            ['contractor'],
            ['document_date', 'amount', 'waterway', 'subject'],
        ],
        'contract' => [
            'Contract',
            'Contract with {contractor}, {document_date}',
            ['contractor', 'document_date'],
            ['supplier', 'contact', 'amount', 'works_period', 'valid_until', 'structure', 'subject'],
        ],
        'site_diary' => [
            'Site diary',
            'Site diary {structure}, {document_date}',
            ['document_date'],
            ['structure', 'contractor', 'works_period', 'author', 'subject'],
        ],
        'completion_certificate' => [
            'Completion certificate',
            'Completion certificate {structure}, {document_date}',
            ['document_date'],
            ['structure', 'contractor', 'amount', 'subject'],
        ],
        'plan' => [
            'Plan',
            'Plan of {place}, {document_date}',
            ['place'],
            ['document_date', 'author', 'structure', 'waterway', 'condition', 'subject'],
        ],
        'section' => ['Section', 'Section at {place}, {document_date}', ['place'], ['document_date', 'author', 'structure', 'subject']],
        'map_sheet' => ['Map sheet', 'Map sheet {place}, {document_date}', ['place'], ['document_date', 'waterway', 'subject']],
        'photograph' => ['Photograph', '{place}, {document_date}', ['place'], ['document_date', 'author', 'vessel', 'waterway', 'subject']],
        'oral_history' => [
            'Oral history transcript',
            'Memories of {author}, {document_date}',
            ['author'],
            ['document_date', 'place', 'language', 'subject'],
        ],
        'catalogue_card' => ['Catalogue card', 'Card: {place}, {document_date}', ['place'], ['document_date', 'subject']],
        'minute' => ['Minute', 'Board minute, {document_date}', ['document_date', 'confidentiality'], ['author', 'subject']],
        'agenda_paper' => ['Agenda paper', 'Agenda paper, {document_date}', ['document_date', 'confidentiality'], ['author', 'subject']],
        'byelaw' => ['Byelaw', 'Byelaw draft, {document_date}', ['document_date', 'confidentiality'], ['author', 'subject']],
        'legal_advice' => ['Legal advice', 'Legal advice, {document_date}', ['document_date', 'confidentiality'], ['author', 'subject']],
    ];

    /** Headings on index sheets: type => field that one begins with => heading. */
    private const SECTIONS = [
        'lock_inspection' => ['document_date' => 'What was inspected', 'condition' => 'Findings'],
        'contract' => ['contractor' => 'The other side', 'amount' => 'Terms'],
        'dredging_survey' => ['document_date' => 'Where and when', 'silt_depth' => 'Result'],
    ];

    /** Where documents of a type belong in the functions of the Trust; a new sheet begins there. */
    private const SUBJECTS = [
        'lock_inspection' => 'NAV.01',
        'dredging_survey' => 'NAV.02.3',
        'weed_silt_report' => 'NAV.02',
        'stoppage_notice' => 'NAV.03',
        'mooring_permit' => 'HAR.01',
        'incident_report' => 'HAR.03',
        'contract' => 'WRK.01',
        'minute' => 'GOV.01',
        'byelaw' => 'GOV.02',
    ];

    /** name, criterion, columns, sort (field => highest first), levels (field => what it sums up), more */
    private const VIEWS = [
        'everything' => [
            'Everything, newest first',
            '',
            ['type', 'library', 'document_date', 'waterway', 'file_type'],
            ['document_date' => true],
            [],
            [],
        ],
        'inspections' => [
            'Lock inspections',
            'type == lock_inspection',
            ['structure', 'document_date', 'waterway', 'condition', 'inspector'],
            ['structure' => false, 'document_date' => true],
            ['waterway' => null, 'structure' => null, 'document_date' => null, 'condition' => null],
            ['opens' => 'outline', 'formats' => ['inspector' => ['format' => 'initials']]],
        ],
        'failing' => [
            'Locks that fail',
            'type == lock_inspection and (condition == d or condition == e)',
            ['structure', 'document_date', 'condition', 'urgent'],
            ['document_date' => true],
            ['condition' => null, 'waterway' => null],
            [],
        ],
        'surveys' => [
            'Dredging surveys',
            'type == dredging_survey',
            ['waterway', 'document_date', 'silt_depth', 'condition', 'contractor'],
            ['waterway' => false, 'document_date' => true],
            ['waterway' => ['silt_depth', 'range'], 'document_date' => ['silt_depth', 'range'], 'condition' => ['silt_depth', 'range']],
            ['opens' => 'steps'],
        ],
        'depth' => [
            'Silt and weed by reach',
            'type == dredging_survey or type == weed_silt_report',
            ['type', 'waterway', 'document_date', 'silt_depth'],
            ['silt_depth' => true],
            ['waterway' => ['silt_depth', 'range'], 'type' => ['silt_depth', 'range'], 'document_date' => ['silt_depth', 'range']],
            [],
        ],
        'stoppages' => [
            'Stoppages',
            'type == stoppage_notice',
            ['waterway', 'document_date', 'structure', 'urgent'],
            ['document_date' => true],
            ['document_date' => null, 'waterway' => null],
            [],
        ],
        'permits' => [
            'Mooring permits',
            'type == mooring_permit',
            ['permit_number', 'vessel', 'berth', 'holder', 'document_date', 'valid_until', 'amount'],
            ['document_date' => true],
            ['berth' => ['amount', 'sum'], 'document_date' => ['amount', 'sum']],
            ['formats' => ['holder' => ['mask' => 'last4']]],
        ],
        'incidents' => [
            'Incidents',
            'type == incident_report',
            ['document_date', 'place', 'severity', 'vessel'],
            ['document_date' => true],
            ['severity' => null, 'place' => null],
            [],
        ],
        'contracts' => [
            'Tenders and contracts',
            'type == tender or type == contract or type == quotation',
            ['type', 'contractor', 'amount', 'document_date'],
            ['amount' => true],
            ['type' => ['amount', 'sum'], 'contractor' => ['amount', 'sum'], 'document_date' => ['amount', 'sum']],
            [],
        ],
        'diaries' => [
            'On site',
            'type == site_diary or type == completion_certificate',
            ['structure', 'document_date', 'works_period', 'contractor', 'author'],
            ['document_date' => true],
            ['structure' => null, 'type' => null],
            [],
        ],
        'drawings' => [
            'Drawings',
            'library == plans',
            ['type', 'place', 'document_date', 'author'],
            ['place' => false],
            ['type' => null, 'place' => null],
            ['formats' => ['document_date' => ['format' => 'year', 'align' => 'right']]],
        ],
        'memories' => [
            'Memories and pictures',
            'library == voices',
            ['type', 'place', 'document_date', 'author'],
            ['document_date' => false],
            ['place' => ['document_date', 'range'], 'type' => null],
            [],
        ],
        'board' => [
            'Papers of the board',
            'library == board',
            ['type', 'document_date', 'author', 'confidentiality'],
            ['document_date' => true],
            ['type' => null, 'document_date' => null],
            ['groups' => ['Board office']],
        ],
        'unread' => [
            'Files without text',
            'text_state == none',
            ['file_type', 'library', 'file_name', 'document_date'],
            ['file_name' => false],
            ['file_type' => null, 'library' => null],
            [],
        ],
    ];

    /** name, title pattern, fields (code => handed down), required, sections, types, view inside, view at the top */
    private const DOSSIER_KINDS = [
        'asset_file' => [
            'Asset file',
            '{structure}, {asset_class}',
            ['structure' => true, 'asset_class' => true, 'waterway' => true, 'condition' => false],
            ['structure'],
            ['Inspections', 'Works', 'Drawings', 'Correspondence'],
            [],
            'inspections',
            'failing',
        ],
        'works_contract' => [
            'Contract file',
            '{contractor}: {works_period}',
            ['contractor' => true, 'works_period' => true, 'amount' => false, 'structure' => false],
            ['contractor'],
            ['Tender', 'Contract', 'Site records', 'Completion'],
            ['tender', 'quotation', 'contract', 'site_diary', 'completion_certificate'],
            'contracts',
            'contracts',
        ],
        'stoppage' => [
            'Stoppage',
            'Stoppage at {structure}',
            ['structure' => true, 'works_period' => true, 'severity' => false],
            ['structure'],
            ['Notices', 'Inspections', 'Claims'],
            ['stoppage_notice', 'lock_inspection', 'incident_report'],
            'stoppages',
            null,
        ],
    ];

    /** name, field, types, how it is read */
    private const READINGS = [
        'date_inspected' => ['Date behind Inspected on', 'document_date', ['lock_inspection'], ['method' => 'position', 'anchor' => 'Inspected on']],
        'structure_inspected' => ['Structure', 'structure', ['lock_inspection', 'stoppage_notice'], ['method' => 'kind']],
        'grade_given' => ['Grade behind Condition grade', 'condition', ['lock_inspection'], ['method' => 'position', 'anchor' => 'Condition grade']],
        'date_surveyed' => ['Date behind Surveyed on', 'document_date', ['dredging_survey'], ['method' => 'position', 'anchor' => 'Surveyed on']],
        'vessel_named' => [
            'Vessel named in a permit',
            'vessel',
            ['mooring_permit'],
            ['method' => 'pattern', 'pattern' => 'The vessel (?<value>\p{Lu}[\p{L} ]+?) may lie'],
        ],
        'places_named' => ['Places named in texts', 'places_mentioned', [], ['method' => 'words', 'vocabulary' => 'places', 'for' => 'mention']],
    ];

    /** name, libraries, types, fields */
    private const FORMS = [
        'permit_desk' => [
            'Permits at the desk',
            ['harbour'],
            ['mooring_permit'],
            ['vessel', 'berth', 'permit_number', 'document_date', 'valid_until'],
        ],
        'find_inspection' => [
            'Inspections',
            ['waterways'],
            ['lock_inspection'],
            ['structure', 'waterway', 'document_date', 'condition', 'inspector', 'asset_class'],
        ],
        'find_contract' => [
            'Contracts and tenders',
            ['works'],
            ['tender', 'quotation', 'contract'],
            ['contractor', 'amount', 'document_date', 'works_period', 'structure'],
        ],
        'find_drawing' => ['Drawings', ['plans'], [], ['place', 'document_date', 'author', 'structure']],
    ];

    public static function design(): Design
    {
        $design = new Design();
        $put = static function (DesignKind $kind, string $code, array $content) use (&$design): void {
            $design = $design->with($kind, $code, PartShape::complete($kind, $content));
        };
        self::described($put);
        foreach (self::TYPES as $code => [$name, $title, $required, $others]) {
            $put(DesignKind::Type, $code, [
                'name' => $name,
                'title_pattern' => $title,
                'fields' => array_map(
                    static fn (string $field): array => [
                        'code' => $field,
                        'required' => in_array($field, $required, true),
                        'section' => self::SECTIONS[$code][$field] ?? '',
                        'default' => $field === 'subject' ? self::SUBJECTS[$code] ?? '' : '',
                    ],
                    [...$required, ...$others],
                ),
            ]);
        }
        foreach (self::REPOSITORIES as $code => [$name, $libraries]) {
            $put(DesignKind::Repository, $code, ['name' => $name, 'designers' => $code === 'board' ? ['Board office'] : []]);
            foreach ($libraries as $library => [$called, $note, $types]) {
                $put(DesignKind::Library, $library, [
                    'name' => $called,
                    'note' => $note,
                    'repository' => $code,
                    'types' => $types,
                    'groups' => $code === 'board'
                            ? [['group' => 'Board office', 'change' => true]]
                            : [['group' => 'Everyone', 'change' => false], ['group' => 'Records office', 'change' => true]],
                ]);
            }
        }
        $put(DesignKind::Repository, 'survey_exchange', ['name' => 'Survey Exchange', 'address' => SurveyExchange::HOME.'/sru']);
        $position = 0;
        foreach (self::VIEWS as $code => [$name, $criterion, $columns, $sort, $levels, $more]) {
            $put(DesignKind::View, $code, [
                'name' => $name,
                'criterion' => $criterion,
                'columns' => $columns,
                'position' => ($position += 10),
                ...$more,
                'sort' => array_map(
                    static fn (string $field, bool $down): array => ['field' => $field, 'descending' => $down],
                    array_keys($sort),
                    $sort,
                ),
                'levels' => array_map(
                    static fn (string $field, ?array $total): array => [
                        'field' => $field,
                        'total' => $total[0] ?? null,
                        'total_as' => $total[1] ?? 'sum',
                    ],
                    array_keys($levels),
                    $levels,
                ),
            ]);
        }
        foreach (self::DOSSIER_KINDS as $code => [$name, $title, $fields, $required, $sections, $types, $inside, $top]) {
            $put(DesignKind::DossierKind, $code, [
                'name' => $name,
                'title_pattern' => $title,
                'types' => $types,
                'view' => $inside,
                'list_view' => $top,
                'fields' => array_map(
                    static fn (string $field, bool $down): array => [
                        'code' => $field,
                        'required' => in_array($field, $required, true),
                        'handed_down' => $down,
                    ],
                    array_keys($fields),
                    $fields,
                ),
                'sections' => array_map(
                    static fn (string $section): array => ['code' => strtolower(str_replace(' ', '_', $section)), 'name' => $section],
                    $sections,
                ),
            ]);
        }
        foreach (self::FORMS as $code => [$name, $libraries, $types, $fields]) {
            $put(DesignKind::Form, $code, [
                'name' => $name,
                'libraries' => $libraries,
                'types' => $types,
                'fields' => array_map(static fn (string $field): array => ['code' => $field], $fields),
            ]);
        }
        foreach (self::READINGS as $code => [$name, $field, $types, $how]) {
            $put(DesignKind::Reading, $code, ['name' => $name, 'field' => $field, 'types' => $types, ...$how]);
        }
        $put(DesignKind::Source, 'office_scanner', [
            'name' => 'Scanner of the office',
            'way' => 'scanner',
            'scanner' => 'office',
            'library' => 'waterways',
            'group' => 'Records office',
        ]);
        $put(DesignKind::Source, 'office_mail', [
            'name' => 'Mail of the office',
            'way' => 'mailbox',
            'mailbox' => 'post',
            'rules' => [
                ['criterion' => 'subject = stoppage', 'type' => 'stoppage_notice'],
                ['criterion' => 'subject = "weed and silt"', 'type' => 'weed_silt_report'],
                ['criterion' => 'subject = inspection or attachment == inspection*', 'type' => 'lock_inspection'],
            ],
            'library' => 'waterways',
            'group' => 'Records office',
        ]);
        $put(DesignKind::Source, 'post_room', [
            'name' => 'Post room',
            'way' => 'folder',
            'folder' => 'post',
            'library' => 'waterways',
            'group' => 'Records office',
        ]);
        $put(DesignKind::Access, 'originals', [
            'name' => 'Originals of redacted papers',
            'criterion' => 'cql.allRecords = 1',
            'acts' => ['original'],
            'groups' => ['Records office', 'Board office'],
        ]);
        $put(DesignKind::Access, 'confidential', [
            'name' => 'Confidential papers',
            'criterion' => 'confidentiality == confidential',
            'acts' => ['see', 'file', 'change'],
            'groups' => ['Board office'],
        ]);

        return $design;
    }

    /** @param  \Closure(DesignKind, string, array<string, mixed>): void  $put */
    private static function described(\Closure $put): void
    {
        foreach (
            [
                'waterway' => ['Waterways', Schemes::WATERWAYS],
                'subject' => ['Functions of the Trust', Schemes::FUNCTIONS],
                'asset_class' => ['Asset classes', Schemes::ASSETS],
            ] as $code => [$name, $concepts]
        ) {
            $put(DesignKind::Vocabulary, $code, [
                'name' => $name,
                'scheme' => true,
                'base' => "https://tarnwick.example/schemes/{$code}/",
                'terms' => Schemes::terms($concepts),
            ]);
        }
        $places = array_map(static fn (string $place): array => [Str::slug($place), $place], Words::PLACES);
        foreach (['places' => ['Places', $places]] + self::VOCABULARIES as $code => [$name, $terms]) {
            $put(DesignKind::Vocabulary, $code, [
                'name' => $name,
                'depends_on' => $code === 'stretch' ? 'waterway' : null,
                'terms' => array_map(
                    static fn (array $t): array => ['code' => $t[0], 'label' => $t[1], 'synonyms' => $t[2] ?? [], 'under' => $t[3] ?? []],
                    $terms,
                ),
            ]);
        }
        foreach (self::fields() as $code => [$label, $kind, $more]) {
            $put(DesignKind::Field, $code, ['label' => $label, 'kind' => $kind, ...$more]);
        }
        $put(DesignKind::Table, 'suppliers', [
            'name' => 'Approved suppliers',
            'key' => 'supplier',
            'fills' => ['contractor', 'contact'],
            'source' => 'outside',
            'connection' => 'suppliers',
            'outside' => 'suppliers',
            'columns' => ['number', 'name', 'mail'],
        ]);
    }

    /**
     * One administrator, who makes everybody else.
     *
     * @return string the code with which they choose a password
     */
    public static function begin(string $signIn = 'admin', string $name = 'Administrator'): string
    {
        [, $code] = app(People::class)->add(null, $signIn, new PersonGiven($name, 'administrator'));

        return $code;
    }

    public static function install(): void
    {
        DB::transaction(function (): void {
            $groups = [];
            foreach (self::GROUPS as $name) {
                $groups[$name] = Group::query()->create(['name' => $name]);
            }
            foreach (self::PEOPLE as $signIn => [$name, $role, $of]) {
                $user = User::query()->create(['name' => $name, 'sign_in' => $signIn, 'password' => self::PASSWORD, 'role' => $role]);
                Groups::put($user, $of);
            }
            app(DesignTables::class)->install(self::design());
        });
    }
}
