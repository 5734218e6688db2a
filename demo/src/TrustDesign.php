<?php

declare(strict_types=1);

namespace Demo;

use App\Models\DocumentType;
use App\Models\Field;
use App\Models\Group;
use App\Models\Library;
use App\Models\Repository;
use App\Models\Role;
use App\Models\Term;
use App\Models\User;
use App\Models\View;
use App\Models\VocabularyModel;
use Brenvic\Core\Fields\FieldKind;
use Illuminate\Support\Facades\DB;

/** The design of the Tarnwick Canal & Harbour Trust: people, repositories, fields, types and views. */
final class TrustDesign
{
    public const PASSWORD = 'tarnwick';

    /** sign-in name => name, role, groups */
    public const PEOPLE = [
        'librarian' => ['Ottoline Marsh', Role::Librarian, ['Everyone', 'Records office', 'Board office']],
        'clerk' => ['Fenwick Dale', Role::Clerk, ['Everyone', 'Records office']],
        'reader' => ['Isla Thorne', Role::Reader, ['Everyone']],
        'manager' => ['Corin Bexley', Role::Manager, ['Everyone', 'Board office']],
    ];

    /** @var array<string, array{string, array<string, array{string, string, list<string>}>}> */
    private const REPOSITORIES = [
        'operations' => ['Operations', [
            'waterways' => ['Waterways', 'Inspections, surveys and notices of the canal and reservoirs', ['lock_inspection', 'dredging_survey', 'weed_silt_report', 'stoppage_notice']],
            'harbour' => ['Harbour', 'Moorings, passages and incidents in the tidal harbour', ['mooring_permit', 'passage_log', 'pilotage_note', 'incident_report']],
            'works' => ['Works', 'Tenders, contracts and site records', ['tender', 'quotation', 'contract', 'site_diary', 'completion_certificate']],
        ]],
        'heritage' => ['Heritage', [
            'plans' => ['Plans and drawings', 'Plans, sections and map sheets since 1790', ['plan', 'section', 'map_sheet']],
            'voices' => ['Photographs and voices', 'Photographs, recorded memories and the old card index', ['photograph', 'oral_history', 'catalogue_card']],
        ]],
        'board' => ['Board', [
            'board' => ['Board and byelaws', 'Confidential to the board office', ['minute', 'agenda_paper', 'byelaw', 'legal_advice']],
        ]],
    ];

    /** @var array<string, array{string, list<array{string, string, 2?: string}>}> */
    private const VOCABULARIES = [
        'waterway' => ['Waterways', [
            ['tarn', 'Tarnwick Canal'], ['tarn-upper', 'Upper reach', 'tarn'], ['tarn-summit', 'Summit pound', 'tarn-upper'], ['tarn-flight', 'Pellow flight', 'tarn-upper'],
            ['tarn-middle', 'Middle reach', 'tarn'], ['tarn-cray', 'Cray cutting', 'tarn-middle'], ['tarn-aq', 'Oxbeck aqueduct', 'tarn-middle'],
            ['tarn-lower', 'Lower reach', 'tarn'], ['tarn-sea', 'Sea lock pound', 'tarn-lower'],
            ['basins', 'Basins'], ['basin-upper', 'Upper basin', 'basins'], ['basin-lower', 'Lower basin', 'basins'], ['basin-coal', 'Coal basin', 'basins'],
            ['harbour', 'Tidal harbour'], ['hb-inner', 'Inner harbour', 'harbour'], ['hb-outer', 'Outer harbour', 'harbour'],
            ['reservoirs', 'Reservoirs'], ['res-hallow', 'Hallow Water', 'reservoirs'], ['res-mere', 'Brinmere', 'reservoirs'],
        ]],
        'condition' => ['Condition grades', [['a', 'A: as new'], ['b', 'B: good'], ['c', 'C: fair'], ['d', 'D: poor'], ['e', 'E: failing']]],
        'severity' => ['Severity', [['minor', 'Minor'], ['moderate', 'Moderate'], ['serious', 'Serious'], ['critical', 'Critical']]],
        'confidentiality' => ['Confidentiality', [['open', 'Open'], ['internal', 'Internal'], ['confidential', 'Confidential']]],
        'language' => ['Languages', [['en', 'English'], ['cy', 'Welsh'], ['fr', 'French']]],
        'subject' => ['Functions of the Trust', [
            ['NAV', 'NAV Navigation'], ['NAV.01', 'NAV.01 Locks and gates', 'NAV'], ['NAV.02', 'NAV.02 Channel depth', 'NAV'], ['NAV.02.3', 'NAV.02.3 Dredging', 'NAV.02'], ['NAV.03', 'NAV.03 Stoppages', 'NAV'],
            ['HAR', 'HAR Harbour'], ['HAR.01', 'HAR.01 Moorings', 'HAR'], ['HAR.02', 'HAR.02 Pilotage and passages', 'HAR'], ['HAR.03', 'HAR.03 Incidents', 'HAR'],
            ['WRK', 'WRK Works'], ['WRK.01', 'WRK.01 Procurement', 'WRK'], ['WRK.02', 'WRK.02 Site records', 'WRK'],
            ['HER', 'HER Heritage'], ['HER.01', 'HER.01 Drawings', 'HER'], ['HER.02', 'HER.02 Memories', 'HER'],
            ['GOV', 'GOV Governance'], ['GOV.01', 'GOV.01 Board', 'GOV'], ['GOV.02', 'GOV.02 Byelaws', 'GOV'],
        ]],
    ];

    /** @return array<string, array{string, FieldKind, array<string, mixed>}> label, kind, more by code */
    private static function fields(): array
    {
        return [
            'document_date' => ['Document date', FieldKind::Date, ['dublin_core' => 'date', 'faceted' => true, 'help' => 'The date the document bears.']],
            'waterway' => ['Waterway', FieldKind::Choice, ['dublin_core' => 'coverage', 'faceted' => true, 'vocabulary' => 'waterway', 'help' => 'The reach, basin or reservoir it is about.']],
            'structure' => ['Structure', FieldKind::Identifier, ['dublin_core' => 'coverage', 'faceted' => true, 'pattern' => 'AA-9999-?', 'help' => 'The number on the asset plate; its last sign is a check character.']],
            'subject' => ['Subject', FieldKind::Choice, ['dublin_core' => 'subject', 'faceted' => true, 'multiple' => true, 'vocabulary' => 'subject']],
            'condition' => ['Condition grade', FieldKind::Choice, ['faceted' => true, 'vocabulary' => 'condition']],
            'silt_depth' => ['Silt depth', FieldKind::Number, ['faceted' => true, 'unit' => 'm', 'minimum' => 0, 'maximum' => 20]],
            'severity' => ['Severity', FieldKind::Choice, ['faceted' => true, 'vocabulary' => 'severity']],
            'vessel' => ['Vessel', FieldKind::Text, ['faceted' => true]],
            'permit_number' => ['Permit number', FieldKind::Identifier, ['pattern' => 'MP-9999-9999']],
            'berth' => ['Berth', FieldKind::Text, ['faceted' => true]],
            'holder' => ['Holder', FieldKind::Person, ['sensitive' => true]],
            'valid_until' => ['Valid until', FieldKind::Date, []],
            'contractor' => ['Contractor', FieldKind::Text, ['dublin_core' => 'contributor', 'faceted' => true]],
            'amount' => ['Amount', FieldKind::Number, ['faceted' => true, 'unit' => '£', 'minimum' => 0]],
            'inspector' => ['Inspector', FieldKind::Person, ['dublin_core' => 'creator', 'faceted' => true]],
            'author' => ['Author', FieldKind::Person, ['dublin_core' => 'creator']],
            'received_from' => ['Received from', FieldKind::Text, ['dublin_core' => 'contributor']],
            'place' => ['Place', FieldKind::Text, ['dublin_core' => 'coverage', 'faceted' => true]],
            'language' => ['Language', FieldKind::Choice, ['dublin_core' => 'language', 'faceted' => true, 'vocabulary' => 'language']],
            'confidentiality' => ['Confidentiality', FieldKind::Choice, ['dublin_core' => 'rights', 'vocabulary' => 'confidentiality']],
            'urgent' => ['Urgent', FieldKind::YesNo, ['faceted' => true]],
            'remarks' => ['Remarks', FieldKind::LongText, ['dublin_core' => 'description']],
        ];
    }

    /** @var array<string, array{string, string, list<string>, list<string>}> type => name, title pattern, required fields, other fields */
    private const TYPES = [
        'lock_inspection' => ['Lock inspection', 'Lock inspection {structure}, {document_date}', ['document_date', 'structure'], ['waterway', 'condition', 'inspector', 'urgent', 'subject', 'remarks']],
        'dredging_survey' => ['Dredging survey', '{waterway}: dredging survey {document_date}', ['document_date', 'waterway'], ['silt_depth', 'condition', 'contractor', 'subject', 'remarks']],
        'weed_silt_report' => ['Weed and silt report', '{waterway}: weed and silt report {document_date}', ['document_date', 'waterway'], ['silt_depth', 'severity', 'inspector', 'subject']],
        'stoppage_notice' => ['Stoppage notice', 'Stoppage notice {waterway}, {document_date}', ['document_date', 'waterway'], ['structure', 'urgent', 'received_from', 'subject']],
        'mooring_permit' => ['Mooring permit', 'Mooring permit {permit_number}: {vessel}', ['permit_number', 'vessel'], ['document_date', 'berth', 'holder', 'valid_until', 'amount', 'waterway', 'subject']],
        'passage_log' => ['Passage log', 'Passage log {waterway}, {document_date}', ['document_date'], ['waterway', 'author', 'subject']],
        'pilotage_note' => ['Pilotage note', 'Pilotage note {vessel}, {document_date}', ['document_date'], ['vessel', 'author', 'waterway', 'subject']],
        'incident_report' => ['Incident report', 'Incident at {place}, {document_date}', ['document_date'], ['vessel', 'severity', 'place', 'waterway', 'author', 'subject', 'remarks']],
        'tender' => ['Tender', 'Tender by {contractor}, {document_date}', ['contractor'], ['document_date', 'amount', 'structure', 'waterway', 'subject']],
        'quotation' => ['Quotation', 'Quotation by {contractor}, {document_date}', ['contractor'], ['document_date', 'amount', 'waterway', 'subject']],
        'contract' => ['Contract', 'Contract with {contractor}, {document_date}', ['contractor', 'document_date'], ['amount', 'valid_until', 'structure', 'subject']],
        'site_diary' => ['Site diary', 'Site diary {structure}, {document_date}', ['document_date'], ['structure', 'contractor', 'author', 'subject']],
        'completion_certificate' => ['Completion certificate', 'Completion certificate {structure}, {document_date}', ['document_date'], ['structure', 'contractor', 'amount', 'subject']],
        'plan' => ['Plan', 'Plan of {place}, {document_date}', ['place'], ['document_date', 'author', 'structure', 'waterway', 'condition', 'subject']],
        'section' => ['Section', 'Section at {place}, {document_date}', ['place'], ['document_date', 'author', 'structure', 'subject']],
        'map_sheet' => ['Map sheet', 'Map sheet {place}, {document_date}', ['place'], ['document_date', 'waterway', 'subject']],
        'photograph' => ['Photograph', '{place}, {document_date}', ['place'], ['document_date', 'author', 'vessel', 'waterway', 'subject']],
        'oral_history' => ['Oral history transcript', 'Memories of {author}, {document_date}', ['author'], ['document_date', 'place', 'language', 'subject']],
        'catalogue_card' => ['Catalogue card', 'Card: {place}, {document_date}', ['place'], ['document_date', 'subject']],
        'minute' => ['Minute', 'Board minute, {document_date}', ['document_date', 'confidentiality'], ['author', 'subject']],
        'agenda_paper' => ['Agenda paper', 'Agenda paper, {document_date}', ['document_date', 'confidentiality'], ['author', 'subject']],
        'byelaw' => ['Byelaw', 'Byelaw draft, {document_date}', ['document_date', 'confidentiality'], ['author', 'subject']],
        'legal_advice' => ['Legal advice', 'Legal advice, {document_date}', ['document_date', 'confidentiality'], ['author', 'subject']],
    ];

    /** @var array<string, array{string, string, list<string>, list<array{string, bool}>, list<string>, string|null}> */
    private const VIEWS = [
        'everything' => ['Everything, newest first', '', ['type', 'library', 'document_date', 'waterway', 'file_type'], [['document_date', true]], [], null],
        'inspections' => ['Lock inspections', 'type == lock_inspection', ['structure', 'document_date', 'waterway', 'condition', 'inspector'], [['structure', false], ['document_date', true]], ['waterway', 'structure', 'document_date'], null],
        'surveys' => ['Dredging surveys', 'type == dredging_survey', ['waterway', 'document_date', 'silt_depth', 'condition', 'contractor'], [['waterway', false], ['document_date', true]], ['waterway', 'document_date', 'condition'], 'silt_depth'],
        'permits' => ['Mooring permits', 'type == mooring_permit', ['permit_number', 'vessel', 'berth', 'document_date', 'valid_until'], [['document_date', true]], ['berth', 'document_date'], 'amount'],
        'incidents' => ['Incidents', 'type == incident_report', ['document_date', 'place', 'severity', 'vessel'], [['document_date', true]], ['severity', 'place'], null],
        'contracts' => ['Tenders and contracts', 'type == tender or type == contract or type == quotation', ['type', 'contractor', 'amount', 'document_date'], [['amount', true]], ['type', 'contractor'], 'amount'],
        'drawings' => ['Drawings', 'library == plans', ['type', 'place', 'document_date', 'author'], [['place', false]], ['type', 'place'], null],
        'unread' => ['Files without text', 'text_state == none', ['file_type', 'library', 'file_name', 'document_date'], [['file_name', false]], ['file_type', 'library'], null],
    ];

    public static function install(): void
    {
        DB::transaction(function (): void {
            self::vocabulariesAndFields();
            self::types();
            self::libraries();
            foreach (self::VIEWS as $code => [$name, $criterion, $columns, $sort, $levels, $total]) {
                View::query()->create(['code' => $code, 'name' => $name, 'criterion' => $criterion, 'columns' => $columns, 'sort' => array_map(static fn (array $s): array => ['field' => $s[0], 'descending' => $s[1]], $sort), 'levels' => array_map(static fn (string $field): array => ['field' => $field], $levels), 'total' => $total, 'total_as' => $total === 'silt_depth' ? 'range' : 'sum', 'position' => View::query()->count()]);
            }
        });
    }

    /** @var array<string, list<string>> term => what else it is called */
    private const SYNONYMS = ['NAV.01' => ['paddles', 'sluices'], 'NAV.02' => ['draught'], 'NAV.02.3' => ['silt removal'], 'NAV.03' => ['closures'], 'HAR.01' => ['berths'], 'WRK.01' => ['tendering'], 'HER.02' => ['oral history'], 'serious' => ['major'], 'cy' => ['Cymraeg']];

    private static function vocabulariesAndFields(): void
    {
        foreach (self::VOCABULARIES as $code => [$name, $terms]) {
            $vocabulary = VocabularyModel::query()->create(['code' => $code, 'name' => $name]);
            foreach ($terms as $i => $term) {
                Term::query()->create(['vocabulary_id' => $vocabulary->id, 'code' => $term[0], 'label' => $term[1], 'parent' => $term[2] ?? null, 'synonyms' => self::SYNONYMS[$term[0]] ?? [], 'position' => $i]);
            }
        }
        $ids = VocabularyModel::query()->pluck('id', 'code');
        $i = 0;
        foreach (self::fields() as $code => [$label, $kind, $more]) {
            $more['vocabulary_id'] = isset($more['vocabulary']) ? $ids[$more['vocabulary']] : null;
            unset($more['vocabulary']);
            Field::query()->create(['code' => $code, 'label' => $label, 'kind' => $kind->value, 'position' => $i++, ...$more]);
        }
    }

    private static function types(): void
    {
        $fields = Field::query()->pluck('id', 'code');
        foreach (self::TYPES as $code => [$name, $title, $required, $others]) {
            $type = DocumentType::query()->create(['code' => $code, 'name' => $name, 'title_pattern' => $title]);
            foreach ([...$required, ...$others] as $i => $field) {
                $type->fields()->attach($fields[$field], ['position' => $i, 'required' => in_array($field, $required, true)]);
            }
        }
    }

    private static function libraries(): void
    {
        $groups = [];
        foreach (['Everyone', 'Records office', 'Board office'] as $name) {
            $groups[$name] = Group::query()->create(['name' => $name]);
        }
        foreach (self::PEOPLE as $signIn => [$name, $role, $of]) {
            $user = User::query()->create(['name' => $name, 'sign_in' => $signIn, 'password' => self::PASSWORD, 'role' => $role]);
            $user->groups()->attach(array_map(static fn (string $group): int => $groups[$group]->id, $of));
        }
        $types = DocumentType::query()->pluck('id', 'code');
        $position = 0;
        foreach (self::REPOSITORIES as $code => [$name, $libraries]) {
            $repository = Repository::query()->create(['code' => $code, 'name' => $name, 'position' => $position++]);
            foreach ($libraries as $libraryCode => [$libraryName, $note, $of]) {
                $library = Library::query()->create(['repository_id' => $repository->id, 'code' => $libraryCode, 'name' => $libraryName, 'note' => $note, 'position' => $position++]);
                $library->types()->attach(array_map(static fn (string $type): int => $types[$type], $of));
                if ($code === 'board') {
                    $library->groups()->attach($groups['Board office']->id, ['may_change' => true]);
                } else {
                    $library->groups()->attach([$groups['Everyone']->id => ['may_change' => false], $groups['Records office']->id => ['may_change' => true]]);
                }
            }
        }
    }
}
