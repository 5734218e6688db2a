<?php

declare(strict_types=1);

use App\Access\HoldSearches;
use App\Models\Delivery;
use App\Models\Document;
use App\Models\Dossier;
use App\Models\Group;
use App\Models\Hold;
use App\Models\User;
use App\Retrieve\DeliveryMaker;
use Brenvic\Core\Search\Asking\KeptSearch;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Http;
use Illuminate\Support\Facades\Route;
use Illuminate\Testing\TestResponse;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\StreamedResponse;
use Tests\TestCase;

/*
 * Two installations that differ only in what a person may not see answer every request of that person alike. The requests are
 * made from the routes that there are; a route without an entry in BODIES is asked with an empty body. In what is asked, `@name`
 * stands for something that one or both of the installations have: its reference, number or code there, and an invented one
 * where it is not.
 */

/** What the names in an address may stand for. Of the last ones, one of the two installations has nothing. */
/** The SHA-256 of no file. */
const NOTHING = '0000000000000000000000000000000000000000000000000000000000000000';

const NAMED = [
    'document' => ['@notice', '@permit', '@letter', '@secret', '@paper', '@waiting'],
    'other' => ['@notice', '@secret'],
    'dossier' => ['@dossier', '@vaulted'],
    'list' => ['@list', '@shared', '@theirs'],
    'annotation' => ['@note', '@private'],
    'comment' => ['@comment', '@whisper'],
    'delivery' => ['@delivery', '@parcel'],
    'link' => ['@link', '@thread'],
    'search' => ['@search', '@hunt'],
    'act' => ['@act', '@deed'],
    'task' => ['@errand', '@ordeal'],
    'case' => ['@course', '@trial'],
    'loan' => ['@loan', '@lent'],
    'version' => ['1', '2'],
    'number' => ['1', '2'],
    'person' => ['@me', '@reader'],
    'group' => ['@everyone'],
    'work' => ['7'],
    'kind' => ['fields', 'libraries', 'views', 'types', 'access'],
    'token' => ['@key', 'nonsense'],
    'key' => ['nonsense'],
    'scan' => ['1', '2'],
    'page' => ['1'],
    'session' => ['1', '2'],
    'alarm' => ['1'],
    'apiToken' => ['1', '2'],
    'webhook' => ['1', '2'],
    'role' => ['clerk', 'nothing'],
    'disposal' => ['1', '2'],
    'form' => ['json', 'pdf', 'csv', 'jsonl'],
    'sha256' => [NOTHING],
    'report' => ['quality', 'use', 'searches', 'intake', 'tasks', 'storage'],
    'kept' => ['1', '2'],
    'source' => ['scans', 'nothing'],
    'hold' => ['@hold', '@siege'],
    'any' => ['api/nothing'],
];

/** What they stand for where an address begins with this. */
const CODED = [
    'api/design/procedures/' => ['noticed'],
    'api/design/work_forms/' => ['nothing'],
    'api/document-acts/' => ['@round', '@raid'],
    'api/vocabularies/' => ['subject', 'grades'],
    'api/oversight/health/remotes/' => ['survey_exchange', '@cell'],
    'api/remote/' => ['survey_exchange', '@cell'],
    'api/intake/scanners/' => ['office_scanner', '@cell'],
    'api/me/views/' => ['my-zirconia'],
    'api/design/vocabularies/' => ['subject'],
    'api/design/tables/' => ['suppliers'],
    'api/design/fields/' => ['vessel'],
    'api/design/types/' => ['tender'],
    'api/design/libraries/' => ['harbour'],
    'api/design/views/' => ['everything', '@cell'],
    'api/design/access/' => ['confidential'],
];

const SEARCH = ['words' => 'quay', 'any' => false, 'criteria' => [], 'view' => '', 'where' => []];

const FACETS = [
    ['field' => 'type'],
    ['field' => 'library'],
    ['field' => 'repository'],
    ['field' => 'vessel'],
    ['field' => 'waterway'],
    ['field' => 'document_date'],
    ['field' => 'gauge'],
    ['field' => 'creator'],
];

const BODIES = [
    'POST api/documents/{document}/retention' => [['decision' => 'postpone', 'day' => '2090-01-01', 'reason' => 'x']],
    'PUT api/dossiers/{dossier}/closed' => [['closed' => true]],
    'POST api/holds' => [
        ['name' => 'Mine', 'reason' => 'x', 'documents' => ['@notice', '@secret'], 'custodians' => ['clerk']],
        ['name' => 'Theirs', 'reason' => 'x', 'list' => '@theirs'],
        ['name' => 'Found', 'reason' => 'x', 'search' => ['words' => 'zirconia', 'criteria' => []]],
    ],
    'PUT api/holds/{hold}' => [['name' => 'Other', 'reason' => 'y', 'owner' => 'manager', 'custodians' => ['reader'], 'lock_version' => 1]],
    'POST api/holds/{hold}/documents' => [['documents' => ['@permit', '@secret']]],
    'POST api/holds/{hold}/release' => [['documents' => ['@permit', '@secret']]],
    'GET api/oversight/due/period' => [['action' => 'destroy'], ['action' => 'review', 'library' => 'vault']],
    'GET api/oversight/due' => [[], ['library' => 'vault']],
    'GET api/oversight/reports/{report}' => [[], ['library' => 'vault'], ['type' => 'deposit'], ['from' => '2020-01-01']],
    'GET api/oversight/reports/{report}.csv' => [['table' => '0'], ['table' => '1'], ['table' => '2'], ['table' => '3']],
    'POST api/oversight/reports/kept' => [
        ['report' => 'use', 'people' => ['@me']],
        ['report' => 'use', 'library' => 'vault', 'people' => ['@me']],
        ['report' => 'use', 'people' => ['keeper']],
    ],
    'POST api/oversight/health/again' => [
        ['what' => 'text', 'document' => '@notice'],
        ['what' => 'text', 'document' => '@secret'],
        ['what' => 'loan', 'document' => '@permit'],
    ],
    'GET api/oversight/history' => [['act' => 'filed'], ['document' => '@secret'], ['library' => 'vault']],
    'PUT api/oversight/stub' => [['title' => true, 'fields' => ['document_date']], ['title' => true, 'fields' => ['gauge']]],
    'POST api/oversight/disposals' => [
        ['name' => 'Old', 'action' => 'destroy', 'until' => '2090-01-01'],
        ['name' => 'Vault', 'action' => 'review', 'until' => '2090-01-01', 'criteria' => ['library == vault']],
    ],
    'POST api/oversight/disposals/{disposal}/review' => [['decision' => 'release', 'lock_version' => 1]],
    'POST api/oversight/disposals/{disposal}/submit' => [['lock_version' => 2]],
    'POST api/oversight/disposals/{disposal}/cancel' => [['lock_version' => 1]],
    'PUT api/me/away' => [['stand_in' => 'reader'], ['stand_in' => 'nobody']],
    'PUT api/office/people/{person}/work' => [['manager' => 'manager']],
    'PUT api/office/calendar' => [['days' => [1, 2], 'holidays' => ['2026-12-25']]],
    'GET api/tasks' => [['part' => 'mine'], ['part' => 'groups'], ['part' => 'others']],
    'POST api/documents/{document}/cases' => [['procedure' => 'noticed'], ['procedure' => '@vaultrun']],
    'POST api/cases/{case}/move' => [['step' => 'done']],
    'POST api/cases/{case}/cancel' => [['reason' => 'x']],
    'POST api/tasks/{task}/give' => [['to' => 'reader'], ['to' => 'nobody']],
    'POST api/tasks/{task}/ask' => [['to' => 'reader', 'text' => 'Which wall?']],
    'POST api/tasks/{task}/answer' => [['text' => 'That one.']],
    'POST api/tasks/{task}/decide' => [['decision' => 'nothing'], ['decision' => 'yes']],
    'POST api/tasks/decide' => [['tasks' => ['@ordeal'], 'decision' => 'yes']],
    'POST api/design/procedures/trial' => [['procedure' => ['code' => 'x', 'name' => 'X', 'keepers' => 'Everyone', 'steps' => [
        [
            'code' => 'look',
            'name' => 'Look',
            'kind' => 'ask',
            'who' => [['kind' => 'group', 'value' => 'Everyone']],
            'question' => 'Is it right?',
            'decisions' => [['code' => 'yes', 'label' => 'Yes', 'ways' => [['to' => 'done', 'criterion' => 'quay'], ['to' => 'done']]]],
        ],
        ['code' => 'done', 'name' => 'Done', 'kind' => 'end'],
    ]]]],
    'GET api/design/procedures/{code}/cases' => [[]],
    'PUT api/notices/texts' => [['texts' => ['task' => 'Look: {document}']]],
    'POST api/session' => [['sign_in' => 'keeper', 'password' => 'wrong'], ['sign_in' => 'nobody', 'password' => 'wrong']],
    'POST api/documents/mail' => [
        ['documents' => ['@secret'], 'how' => 'links', 'to' => 'a@example.org', 'subject' => 'x'],
        ['documents' => ['@notice', '@secret'], 'how' => 'links', 'to' => 'a@example.org', 'subject' => 'x'],
    ],
    'POST api/search' => [
        [
            'words' => '',
            'facets' => FACETS,
            'columns' => ['type', 'library', 'vessel', 'holder'],
        ],
        ['words' => 'quay', 'facets' => FACETS, 'columns' => ['type']],
        ['words' => 'quay wall sluice', 'any' => true],
        ['words' => 'zirconia'],
        ['words' => 'zircomia'],
        ['words' => 'zirc*'],
        ['words' => 'qua*'],
        ['words' => 'quays'],
        ['words' => 'quay prox/distance<4 wall'],
        ['words' => 'sluise gaet'],
        ['words' => 'type == @deposit'],
        ['words' => 'library == @cell'],
        ['words' => 'library == board'],
        ['words' => 'gauge == @grade'],
        ['words' => '@gauge = 5'],
        ['words' => 'holder = vane'],
        ['words' => 'holder = thrupp'],
        ['words' => 'vessel == "Zirconia Star"'],
        ['words' => 'vessel = "*"', 'sort' => [['field' => 'vessel']]],
        [
            'words' => 'quay',
            'sort' => [['field' => 'holder']],
            'columns' => ['holder'],
        ],
        ['words' => 'quay', 'sort' => [['field' => 'document_date', 'descending' => true]]],
        [
            'words' => '',
            'criteria' => [['cql' => 'document_date > 1900'], ['cql' => 'title = zirconia', 'negated' => true]],
        ],
        ['words' => 'quay', 'where' => ['comment']],
        ['words' => 'zirconia', 'where' => ['comment', 'path', 'earlier']],
        [
            'words' => '',
            'criteria' => [],
            'view' => 'everything',
            'facets' => [['field' => 'vessel', 'search' => 'zir', 'most' => 50]],
        ],
        ['words' => 'quay', 'as' => 'keeper'],
        ['words' => '', 'draft' => true],
        ['words' => 'file_name = zirconia'],
        ['words' => 'creator = keeper'],
        ['words' => 'secretword'],
        ['words' => 'otherwords'],
        ['words' => 'ref == @secret'],
        [
            'words' => '',
            'toggle' => ['field' => 'vessel', 'value' => 'Zirconia Star'],
        ],
        ['words' => '', 'toggle' => ['field' => 'library', 'value' => '@cell']],
        ['words' => 'dossier == @vaulted'],
        ['words' => 'dossier == @dossier'],
    ],
    'POST api/search/themes' => [['words' => ''], ['words' => 'quay'], ['words' => '', 'once' => true]],
    'POST api/search/groups' => [
        ['words' => '', 'level' => 'vessel'],
        ['words' => '', 'level' => 'library'],
        ['words' => '', 'level' => 'type', 'total' => 'amount'],
        ['words' => '', 'level' => 'subject'],
        ['words' => '', 'level' => '@gauge'],
    ],
    'POST api/search/criterion' => [
        [
            'field' => 'vessel',
            'relation' => 'is',
            'values' => ['Zirconia Star'],
        ],
        ['field' => 'library', 'relation' => 'is', 'values' => ['@cell']],
        ['field' => 'type', 'relation' => 'is', 'values' => ['@deposit']],
        ['field' => '@gauge', 'relation' => 'is', 'values' => ['5']],
    ],
    'POST api/search/complete' => [
        ['typed' => 'zir'],
        ['typed' => 'qua'],
        ['typed' => 'vessel = zir'],
        ['typed' => 'library == va'],
        ['typed' => 'gau'],
        ['typed' => 'kee'],
        ['typed' => 'type == de'],
        ['typed' => 'holder = van'],
    ],
    'POST api/search/group' => [['how' => 'any', 'criteria' => [['cql' => 'library == @cell'], ['cql' => 'vessel = zirconia']]]],
    'POST api/search/apart' => [['cql' => 'library == @cell or vessel = zirconia', 'negated' => false]],
    'POST api/search/export' => [
        ['words' => '', 'format' => 'csv', 'columns' => ['type', 'library', 'vessel', 'holder']],
        ['words' => '', 'format' => 'ods', 'columns' => ['vessel']],
    ],
    'POST api/search/attached/{document}' => [['words' => 'quay']],
    'GET api/documents/{document}' => [[], ['words' => 'quay']],
    'GET api/documents/{document}/hits' => [['words' => 'quay secretword']],
    'GET api/documents/{document}/file' => [[], ['form' => 'redacted'], ['download' => 1]],
    'GET api/documents/{document}/versions/compare' => [['from' => 1, 'to' => 2]],
    'PUT api/documents/{document}' => [
        [
            'type' => 'dredging_survey',
            'values' => ['waterway' => ['tarn-sea'], 'document_date' => ['2025'], 'supersedes' => ['@secret']],
            'lock_version' => 1,
        ],
        [
            'type' => 'stoppage_notice',
            'values' => ['waterway' => ['tarn-sea'], 'document_date' => ['2025']],
            'lock_version' => 1,
        ],
        ['type' => '@deposit', 'values' => [], 'lock_version' => 2],
    ],
    'GET api/documents/{document}/proposals' => [[], ['type' => 'permit']],
    'PUT api/documents/{document}/language' => [['language' => 'fr'], ['language' => null]],
    'POST api/documents/{document}/reveal' => [['field' => 'holder'], ['field' => '@gauge']],
    'POST api/documents/{document}/annotations' => [['page' => 1, 'kind' => 'note', 'start' => 2, 'length' => 5, 'text' => 'See here']],
    'PUT api/documents/{document}/annotations/{annotation}' => [['text' => 'Changed', 'lock_version' => 1]],
    'POST api/documents/{document}/comments' => [['text' => 'Is this the quay?']],
    'POST api/dossiers/{dossier}/comments' => [['text' => 'All here?']],
    'POST api/documents/{document}/redactions' => [
        ['version' => 1, 'reason' => 'personal', 'marks' => [['page' => 1, 'start' => 0, 'length' => 3]]],
    ],
    'POST api/documents/{document}/redactions/find' => [['words' => ['quay']]],
    'POST api/documents/{document}/redactions/check' => [['version' => 1, 'marks' => []]],
    'POST api/documents/{document}/redactions/take-back' => [['redactions' => [1]]],
    'POST api/documents/{document}/links' => [['most_uses' => 3, 'days' => 3, 'note' => 'For you', 'form' => 'plain']],
    'POST api/documents/{document}/check-out' => [['note' => 'For a while']],
    'POST api/documents/{document}/check-in' => [['note' => 'Done', 'file' => '@file']],
    'POST api/documents/{document}/check-out/copy' => [['file' => '@file']],
    'POST api/documents/{document}/loans' => [['borrower' => 'Holm Masonry']],
    'POST api/documents/{document}/pages' => [['version' => 1, 'pages' => [['source' => '', 'page' => 1, 'turn' => 90]]]],
    'POST api/documents/{document}/split' => [['version' => 1, 'pages' => [1]]],
    'POST api/document-acts/transfer/plan' => [
        ['documents' => ['@notice', '@secret'], 'library' => 'harbour', 'how' => 'copy'],
        ['documents' => ['@notice'], 'library' => '@cell', 'how' => 'copy'],
        ['documents' => ['@notice'], 'library' => 'harbour', 'how' => 'copy', 'type' => '@deposit'],
        ['documents' => ['@notice'], 'library' => 'board', 'how' => 'copy'],
    ],
    'POST api/document-acts/transfer' => [
        ['documents' => ['@notice', '@secret'], 'library' => 'waterways', 'how' => 'copy', 'expected' => 1],
        ['documents' => ['@notice', '@secret'], 'library' => 'harbour', 'how' => 'copy', 'expected' => 1],
        ['documents' => ['@notice', '@secret'], 'library' => 'harbour', 'how' => 'copy', 'expected' => 2],
    ],
    'POST api/document-acts/sheets/open' => [['documents' => ['@notice', '@secret', '@permit']]],
    'GET api/design/vocabularies/{code}/file' => [['format' => 'csv']],
    'POST api/document-acts/sheets/plan' => [
        [
            'rows' => [
                ['ref' => '@permit', 'lock_version' => 1, 'values' => ['vessel' => 'Zirconia Star']],
                ['ref' => '@secret', 'lock_version' => 1, 'values' => ['vessel' => 'x']],
            ],
        ],
        [
            'rows' => [
                ['ref' => '@notice', 'lock_version' => 1, 'values' => ['vessel' => 'Zirconia Star', '@gauge' => '5']],
                ['ref' => '@secret', 'lock_version' => 1, 'values' => ['vessel' => 'x']],
            ],
        ],
    ],
    'POST api/document-acts/sheets' => [
        [
            'expected' => 1,
            'rows' => [
                ['ref' => '@permit', 'lock_version' => 1, 'values' => ['vessel' => 'Quay Maid']],
                ['ref' => '@secret', 'lock_version' => 1, 'values' => ['vessel' => 'Quay Maid']],
            ],
        ],
    ],
    'POST api/value-acts/plan' => [
        ['field' => 'vessel', 'how' => 'set', 'values' => ['Quay Maid'], 'search' => SEARCH],
        ['field' => 'vessel', 'how' => 'set', 'values' => ['Quay Maid'], 'documents' => ['@permit', '@secret']],
        ['field' => '@gauge', 'how' => 'clear', 'documents' => ['@permit']],
        ['field' => 'vessel', 'how' => 'clear', 'list' => '@shared'],
    ],
    'POST api/value-acts' => [
        ['field' => 'vessel', 'how' => 'set', 'values' => ['Quay Maid'], 'search' => SEARCH, 'changes' => 1],
        ['field' => 'severity', 'how' => 'set', 'values' => ['minor'], 'documents' => ['@letter', '@secret'], 'changes' => 1],
    ],
    'POST api/searches' => [
        ['name' => 'Quays', 'search' => SEARCH],
        ['name' => 'Kept', 'search' => [...SEARCH, 'criteria' => [['cql' => 'library == @cell']]]],
        ['name' => 'Hunt', 'search' => SEARCH, 'groups' => ['@vault']],
        ['name' => 'Hunt', 'search' => SEARCH],
    ],
    'PUT api/searches/{search}' => [['name' => 'Other', 'search' => SEARCH, 'lock_version' => 1]],
    'POST api/searches/recent' => [['search' => SEARCH, 'total' => 3]],
    'POST api/lists' => [['name' => 'Quays'], ['name' => 'Theirs']],
    'PUT api/lists/{list}' => [
        ['name' => 'Other', 'lock_version' => 1, 'people' => [['sign_in' => 'keeper', 'may_change' => true]]],
        ['name' => 'Other', 'lock_version' => 2],
    ],
    'POST api/lists/{list}/documents' => [
        ['documents' => ['@permit', '@secret', '@waiting']],
        ['list' => '@shared'],
        ['list' => '@theirs'],
        ['search' => SEARCH],
    ],
    'POST api/lists/{list}/take-out' => [['documents' => ['@secret', '@permit']]],
    'PUT api/lists/{list}/documents/{document}' => [['note' => 'Look at this', 'before' => '@secret'], ['before' => '@notice']],
    'POST api/lists/{list}/deliveries' => [['format' => 'csv'], ['format' => 'zip'], ['format' => 'bag']],
    'POST api/lists/{list}/hold' => [['reason' => 'An inquiry']],
    'POST api/deliveries/{delivery}/links' => [['most_uses' => 2, 'days' => 2]],
    'POST api/removed' => [
        ['documents' => ['@letter'], 'reason' => 'A double'],
        ['documents' => ['@letter', '@secret'], 'reason' => 'A double'],
    ],
    'POST api/removed/restore' => [['documents' => ['@letter', '@secret', '@gone']]],
    'POST api/removed/destroy' => [['documents' => ['@gone', '@secret'], 'reason' => 'A double']],
    'GET api/dossiers' => [[], ['q' => 'zirconia'], ['kind' => 'stoppage']],
    'POST api/dossiers' => [
        [
            'kind' => 'stoppage',
            'library' => 'waterways',
            'values' => ['structure' => ['LK-0407-5'], 'works_period' => ['Jan 2025 to Mar 2025']],
        ],
        ['kind' => 'stoppage', 'library' => '@cell', 'values' => []],
    ],
    'PUT api/dossiers/{dossier}' => [
        ['values' => ['structure' => ['LK-0407-5']], 'lock_version' => 1],
        ['values' => ['structure' => ['LK-0407-5']], 'lock_version' => 2],
    ],
    'POST api/dossiers/{dossier}/documents' => [['documents' => ['@notice']], ['documents' => ['@notice', '@secret']]],
    'POST api/dossiers/{dossier}/take-out' => [['documents' => ['@notice', '@secret']], ['documents' => ['@notice']]],
    'POST api/intake' => [
        ['library' => 'waterways', 'file' => '@file'],
        ['library' => 'waterways', 'file' => '@same'],
        ['library' => '@cell', 'file' => '@file'],
        ['library' => 'board', 'file' => '@file'],
    ],
    'POST api/intake/file' => [
        [
            'documents' => ['@mine', '@waiting'],
            'type' => 'stoppage_notice',
            'values' => ['waterway' => ['tarn-sea'], 'document_date' => ['2025']],
        ],
        ['documents' => ['@mine'], 'type' => '@deposit', 'values' => []],
    ],
    'POST api/intake/discard' => [['documents' => ['@waiting', '@secret']]],
    'POST api/intake/restore' => [['documents' => ['@waiting', '@secret']]],
    'POST api/tables/look-up' => [['field' => 'supplier', 'value' => 'S-108-9']],
    'PUT api/me/views/{code}' => [
        ['name' => 'Mine', 'criterion' => 'vessel = zirconia', 'columns' => ['vessel']],
        ['name' => 'Mine', 'criterion' => 'library == @cell', 'columns' => ['@gauge']],
    ],
    'PUT api/me/preferences' => [['theme' => 'dark', 'default_view' => '@cell']],
    'POST api/session/factor' => [['code' => '123456']],
    'POST api/session/forgotten' => [['sign_in' => 'keeper'], ['sign_in' => 'nobody']],
    'POST api/me/tokens' => [['name' => 'Zirconia', 'rights' => ['read'], 'days' => 3]],
    'PUT api/me' => [['name' => 'Somebody', 'mail' => null]],
    'PUT api/me/factor' => [['code' => '123456', 'current' => 'wrong']],
    'DELETE api/me/factor' => [['current' => 'wrong']],
    'POST api/office/roles' => [['name' => 'Zirconia', 'rights' => ['read']]],
    'PUT api/office/roles/{role}' => [['name' => 'Intake clerk', 'rights' => ['read', 'download', 'file', 'change', 'sensitive']]],
    'PUT api/office/rules' => [['idle_minutes' => 60, 'hours' => 10, 'stay_days' => 3, 'second_factor' => false]],
    'PUT api/office/groups/{group}' => [['groups' => ['Records office']]],
    'PUT api/me/password' => [['current' => 'wrong', 'password' => 'something long']],
    'POST api/session/code' => [['sign_in' => 'keeper', 'code' => 'wrong', 'password' => 'something long']],
    'POST api/remote/{code}/search' => [['words' => 'quay', 'criteria' => []]],
    'GET api/vocabularies/{code}/terms' => [[], ['q' => 'gra']],
    'POST api/office/people' => [['name' => 'New One', 'sign_in' => 'newone', 'role' => 'clerk', 'groups' => ['Everyone']]],
    'PUT api/office/people/{person}' => [['name' => 'Isla Thorne', 'role' => 'reader', 'groups' => ['Everyone']]],
    'POST api/office/people/{person}/out' => [['to' => '@me']],
    'POST api/design/proposal' => [['file' => '@file']],
    'POST api/intake/lift' => [['field' => 'document_date', 'text' => '14 March 2024']],
    'GET api/documents/{document}/places' => [[], ['field' => 'document_date']],
    'GET api/intake' => [[], ['at' => '@mine'], ['at' => '@waiting']],
    'GET api/intake/pages' => [['of' => ['@mine']], ['of' => ['@waiting']], ['of' => ['@mine', '@waiting']]],
    'POST api/intake/pages' => [
        [
            'sources' => ['@waiting'],
            'documents' => [
                ['pages' => [['source' => '@waiting', 'page' => 1, 'turn' => 90, 'straightened' => false, 'left_out' => false]]],
            ],
        ],
    ],
    'GET api/intake/separator-sheets' => [[], ['library' => 'waterways'], ['library' => '@cell'], ['type' => '@deposit']],
    'POST api/intake/templates' => [['templates' => ['@notice'], 'values' => []], ['templates' => ['@secret'], 'values' => []]],
    'POST api/intake/scans' => [['scanner' => 'office_scanner', 'dots' => 200, 'colour' => true, 'duplex' => true, 'fed' => true]],
    'POST api/intake/hand-over' => [
        ['documents' => ['@mine', '@waiting'], 'person' => 'clerk'],
        ['documents' => ['@waiting'], 'group' => 'Records office'],
    ],
    'PUT api/intake/sheets/{document}' => [
        ['type' => 'stoppage_notice', 'values' => ['document_date' => ['2025']], 'lock_version' => 1],
        ['type' => '@deposit', 'values' => [], 'lock_version' => 1],
    ],
    'POST api/intake/versions' => [
        ['document' => '@mine', 'of' => '@secret'],
        ['document' => '@waiting', 'of' => '@notice'],
        ['document' => '@mine', 'of' => '@notice'],
    ],
    'POST api/intake/values' => [['file' => '@file'], ['file' => '@values'], ['file' => '@hidden']],
    'POST api/intake/file-complete' => [['documents' => ['@waiting']], ['documents' => ['@mine']]],
    'POST api/intake/library' => [['documents' => ['@ref'], 'library' => 'harbour']],
    'POST api/design/bringing' => [['library' => 'harbour', 'file' => '@file']],
    'POST api/design/bringing/open' => [['rest' => true]],
    'POST api/design/bringing/files' => [['sources' => ['a.txt'], 'files' => ['@file']]],
    'POST api/design/proposal/take' => [['name' => 'Register', 'types' => true, 'columns' => []]],
    'POST api/design/merge-fields' => [['from' => 'vessel', 'into' => 'place']],
    'POST api/design/advice' => [
        ['criterion' => 'vessel = zirconia'],
        ['kind' => 'fields', 'code' => 'vessel'],
        ['kind' => 'views', 'code' => 'everything'],
    ],
    'POST api/design/readings/trial' => [
        ['rule' => ['name' => 'Days', 'field' => 'document_date'], 'criterion' => ''],
        ['rule' => ['name' => 'Days', 'field' => 'document_date', 'method' => 'position', 'anchor' => 'quay'], 'criterion' => 'quay'],
    ],
    'POST api/design/{kind}' => [
        ['code' => 'ship', 'label' => 'Ship', 'kind' => 'text'],
        [
            'code' => 'stars',
            'name' => 'Stars',
            'criterion' => 'vessel = zirconia',
            'columns' => ['vessel'],
        ],
        ['code' => 'stars', 'name' => 'Stars', 'criterion' => 'vessel = zirconia', 'acts' => ['see'], 'groups' => ['Vault']],
    ],
    'POST api/design/people/groups' => [['name' => 'Divers']],
    'PUT api/design/people/{person}' => [['groups' => ['Everyone']]],
];

/** Asked last, for they end what the others ask about. */
const LAST = [
    'POST api/holds/{hold}/end',
    'POST api/tasks/{task}/decide',
    'POST api/tasks/decide',
    'POST api/cases/{case}/move',
    'POST api/cases/{case}/cancel',
    'PUT api/documents/{document}/template',
    'POST api/lists/{list}/hold',
    'PUT api/design/people/{person}',
    'POST api/lists/{list}/restore',
    'DELETE api/session',
    'PUT api/me/password',
    'DELETE api/office/people/{person}/sessions',
    'DELETE api/office/people/{person}/factor',
    'DELETE api/me/sessions/{session}',
    'POST api/session',
    'POST api/session/code',
    'POST api/removed/destroy',
    'POST api/office/people/{person}/out',
    'POST outside/{token}',
];

/** An installation with things that a person may not see, and what the names stand for in it. */
final class Twin
{
    /**
     * What may be other each time: how long it took, and the size of an archive that has such things in it. How much somebody has
     * in hand is told to those who put people out of use, and hand it on.
     */
    private const TIMES = '/"took_ms":[\d.]+|"milliseconds":\d+|"steps":\{[^}]*\}|"bytes":\d+|"in_hand":\{[^}]*\}/';

    private const HEAD = ['Content-Type', 'Content-Disposition', 'Location'];

    private const SECRET = 'The zirconia lies under the quay wall, by the sluice gate.';

    /** Numbers of rows, keys and checksums. */
    private const NUMBERS = [
        '/"(?:\w+_)?(?:id|act|list|delivery|annotation|loan|task)":\d+/',
        '/(?<=\/)\d+\b/',
        '/(?<=[\/=])[A-Za-z0-9]{20,}/',
        '/"\d+"(?=:\[\[)/',
        '/"(?:seal|code|stamp)":"[\w-]{12,}"/',
        '/\b[0-9a-f]{64}\b/',
    ];

    /** @var array<string, string> what a name stands for */
    public array $names = [];

    /** @var array<string, string> other references, as they first came up */
    private array $seen = [];

    public function __construct(private readonly TestCase $test, private readonly string $who, private readonly bool $rich)
    {
    }

    public function build(): void
    {
        $this->test->travelTo('2025-03-03 09:00:00');
        Http::preventStrayRequests();
        Http::fake(fn () => Http::response('No', 500));
        Group::query()->create(['name' => 'Vault']);
        $keeper = User::query()->create([
            'name' => 'Una Keeper',
            'sign_in' => 'keeper',
            'password' => 'tarnwick',
            'role' => 'librarian',
        ]);
        \App\People\Groups::put($keeper, Group::query()->pluck('name')->all());
        $this->names = [
            '@cell' => 'vault',
            '@gauge' => 'gauge',
            '@grade' => 'first',
            '@deposit' => 'deposit',
            '@vault' => 'Vault',
            '@vaultrun' => 'vaulted',
            '@me' => $this->idOf($this->who),
            '@reader' => $this->idOf('reader'),
            '@everyone' => (string) Group::query()->where('name', 'Everyone')->value('id'),
        ];
        // Who designs sees the design: there the two have the same one.
        $this->design($this->rich || User::query()->where('sign_in', $this->who)->firstOrFail()->may(\App\Models\Right::Design) ? 'vault' : 'shed');
        $this->visible();
        $this->hidden();
        $this->rich && $this->secrets();
        foreach ([...array_merge(...array_values(NAMED)), '@mine', '@gone'] as $i => $name) {
            if (str_starts_with($name, '@')) {
                $this->names[$name] ??= match (true) {
                    in_array($name, [...NAMED['document'], '@mine', '@gone'], true) => Document::refOf(90210 + $i),
                    in_array($name, NAMED['dossier'], true) => Dossier::refOf(90210 + $i),
                    default => (string) (90210 + $i),
                };
            }
        }
        $this->forget();
    }

    /** What was answered to a request, with names in place of what they stand for. */
    public function ask(string $method, string $uri, array $body): string
    {
        $this->test->travel(1)->seconds();
        $this->test->as($this->who);
        $body = $this->filled($body);
        $files = array_filter($body, static fn (mixed $v): bool => $v instanceof UploadedFile);
        $path = '/'.strtr($uri, $this->names);
        $json = ['HTTP_ACCEPT' => 'application/json'];
        // How long a search took is told nobody but as it was.
        str_starts_with($uri, 'api/oversight/reports/') && DB::table('asked_searches')->update(['milliseconds' => 10]);
        $answer = match (true) {
            $files !== [] => $this->test->call($method, $path, array_diff_key($body, $files), [], $files, $json),
            $method === 'GET' => $this->test->getJson($path.($body === [] ? '' : '?'.http_build_query($body))),
            default => $this->test->json($method, $path, $body),
        };
        $this->forget();

        return $this->plain($answer);
    }

    private function filled(array $body): array
    {
        $body = array_combine(
            array_map(fn (int|string $k): int|string => is_string($k) ? strtr($k, $this->names) : $k, array_keys($body)),
            $body,
        );

        return array_map(
            fn (mixed $value): mixed => match (true) {
                is_array($value) => $this->filled($value),
                $value === '@file' => UploadedFile::fake()->createWithContent('new.txt', 'The new wall of the quay.'),
                // Names of a file that waits for others, of a type and of a field that one may not know of.
                $value === '@values' => UploadedFile::fake()->createWithContent(
                    'values.csv',
                    strtr("file,type,document_date\nmine.txt,stoppage_notice,2024\nwaiting.txt,@deposit,2024\nmine.txt,@deposit,\n", $this->names),
                ),
                $value === '@hidden' => UploadedFile::fake()->createWithContent(
                    'values.csv',
                    strtr("file,@gauge,depositer\nmine.txt,4,Ash\n", $this->names),
                ),
                $value === '@same' => UploadedFile::fake()->createWithContent('same.txt', self::SECRET),
                is_string($value) && str_starts_with($value, '@') && ctype_digit($this->names[$value] ?? '') => (int) $this->names[$value],
                is_string($value) => strtr($value, $this->names),
                default => $value,
            },
            $body,
        );
    }

    private function plain(TestResponse $answer): string
    {
        $response = $answer->baseResponse;
        $body = (string) match (true) {
            $response instanceof BinaryFileResponse => file_get_contents($response->getFile()->getPathname()),
            $response instanceof StreamedResponse => $answer->streamedContent(),
            default => $answer->getContent(),
        };
        if (str_starts_with($body, "PK\x03\x04")) {
            $body = $this->unpacked($body);
        }
        $head = array_map(fn (string $name): string => (string) $answer->headers->get($name), self::HEAD);
        $text = $answer->getStatusCode().' '.implode(' ', $head)."\n".$body;
        $text = (string) preg_replace(self::TIMES, '', $text);
        $text = (string) preg_replace(self::NUMBERS, '#', $text);
        // Whoever removes parts of the design is told of the first that documents have, which they need not see.
        $text = (string) preg_replace('/\\\\u201c[^"]*\\\\u201d is in use and cannot be removed/', 'a part is in use', $text);
        // An export of the history goes over what is withheld: that there is something is what the chain cannot do without.
        $text = (string) preg_replace(
            ['/^\d+,,,,,,,,#,1\R/m', '/^\{"entry":\d+,"at":null[^\n]*\n/m', '/^\d+,(?=\d{4}-)/m', '/"entry":\d+/', '/(?<=,)([a-z_]+),\d+(?=,)/', '/"document":\d+/', '/salt\W+[0-9a-f]{32}/', '/\b(?:delivery|disposal|hold|act|list|case)\W{1,6}\d+/'],
            ['', '', '', '', '$1', '', '', ''],
            $text,
        );
        // Random secrets, and how often each of the two was signed in here.
        $text = (string) preg_replace(['/sessions_ended.{0,80}?count\W{1,6}\K\d+/', '/"secret":.*/s', '/"sessions":\d+/', '/"sessions":\[.*/s', '/"checks":.*/s', '/brenvic_\w{40}/', '/# HELP brenvic_.*/s'], '', $text);

        return (string) preg_replace_callback(
            '/\bDS?-\d{5}-\w\b/',
            function (array $m): string {
                return array_search($m[0], $this->names, true) ?: ($this->seen[$m[0]] ??= '#'.count($this->seen));
            },
            $text,
        );
    }

    /** What is in an archive, file by file. */
    private function unpacked(string $archive): string
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'twin');
        file_put_contents($path, $archive);
        $zip = new ZipArchive();
        $zip->open($path);
        $parts = [];
        for ($i = 0; $i < $zip->numFiles; $i++) {
            $parts[] = $zip->getNameIndex($i)."\n".$zip->getFromIndex($i);
        }
        unlink($path);

        return implode("\n", $parts);
    }

    private function idOf(string $signIn): string
    {
        return (string) User::query()->where('sign_in', $signIn)->value('id');
    }

    private function forget(): void
    {
        app()->forgetScopedInstances();
    }

    private function as(string $who): TestCase
    {
        $this->forget();

        return $this->test->as($who);
    }

    /** A library for the vault alone, with a type, a field, a list and a view of its own. */
    private function design(string $code): void
    {
        $more = ['vault' => ['gauge', 'deposit', 'grades'], 'shed' => ['width', 'loading', 'sorts']][$code];
        [$field, $type, $list] = $more;
        $design = $this->as('keeper');
        $design
            ->postJson('/api/design/vocabularies', [
                'code' => $list,
                'name' => ucfirst($list),
                'terms' => [['code' => 'first', 'label' => "First of the {$code}"]],
            ])
            ->assertCreated();
        $design
            ->postJson('/api/design/fields', [
                'code' => $field,
                'label' => ucfirst($field),
                'kind' => 'choice',
                'vocabulary' => $list,
                'faceted' => true,
            ])
            ->assertCreated();
        $design
            ->postJson('/api/design/types', [
                'code' => $type,
                'name' => ucfirst($type),
                'title_pattern' => "{vessel} {{$field}}",
                'fields' => [['code' => 'vessel'], ['code' => $field], ['code' => 'document_date'], ['code' => 'waterway']],
            ])
            ->assertCreated();
        $design
            ->postJson('/api/design/libraries', [
                'code' => $code,
                'name' => "The {$code}",
                'repository' => 'operations',
                'types' => [$type],
                'groups' => [['group' => 'Vault', 'change' => true]],
            ])
            ->assertCreated();
        $design
            ->postJson('/api/design/views', [
                'code' => $code,
                'name' => "Of the {$code}",
                'criterion' => "library == {$code}",
                'columns' => [$field],
                'groups' => ['Vault'],
            ])
            ->assertCreated();
        $this->procedure('noticed', 'stoppage_notice', 'Everyone');
        $this->procedure($code === 'vault' ? 'vaulted' : 'shedded', $type, 'Vault');
        $this->test->postJson('/api/design/draft/publish', ['note' => ''])->assertCreated();
        $this->forget();
    }

    /** A procedure in which everybody is asked; whoever may not see a document is not. */
    private function procedure(string $code, string $type, string $keepers): void
    {
        $this->as('keeper')
            ->postJson('/api/design/procedures', [
                'code' => $code,
                'name' => ucfirst($code),
                'types' => [$type],
                'begins' => 'hand',
                'keepers' => $keepers,
                'steps' => [
                    [
                        'code' => 'look',
                        'name' => "Looked at as {$code}",
                        'kind' => 'ask',
                        'who' => [['kind' => 'group', 'value' => 'Everyone']],
                        'question' => "Is it {$code}?",
                        'many' => true,
                        'decisions' => [['code' => 'yes', 'label' => "Yes, {$code}", 'ways' => [['to' => 'done']]]],
                    ],
                    ['code' => 'done', 'name' => 'Done', 'kind' => 'end'],
                ],
            ])
            ->assertCreated();
    }

    /** @return array{string, string} the task and the case that a procedure began with */
    private function begun(string $code, string $ref): array
    {
        $case = $this->as('keeper')->postJson("/api/documents/{$ref}/cases", ['procedure' => $code])->assertCreated()->json('cases.0.id');

        return [(string) DB::table('tasks')->where('case_id', $case)->value('id'), (string) $case];
    }

    /** A hold goes on to cover what a search finds, be it what a person may not see. */
    private function heldBySearch(int $hold): void
    {
        Hold::query()->findOrFail($hold)->update(['search' => KeptSearch::of(['words' => 'zirconia']), 'wants_look' => true]);
        app(HoldSearches::class)->catchUp();
        Hold::query()->findOrFail($hold)->update(['search' => null]);
    }

    private function file(string $by, string $library, string $type, array $values, string $text, string $name): string
    {
        $this->forget();

        return $this->test->filed($text, $name, $type, $values, $library, $by);
    }

    /** What the person sees, in both. */
    private function visible(): void
    {
        $n = &$this->names;
        $n['@notice'] = $this->file(
            'clerk',
            'waterways',
            'stoppage_notice',
            [
                'waterway' => ['tarn-sea'],
                'document_date' => ['2024'],
                'structure' => ['LK-0407-5'],
            ],
            'The sluice gate is shut. The quay is open.',
            'notice.txt',
        );
        [$n['@errand'], $n['@course']] = $this->begun('noticed', $n['@notice']);
        $kept = $this->file('clerk', 'waterways', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2023']], 'The quay is held.', 'held.txt');
        foreach (['@hold' => 'The breach', '@siege' => 'The inquiry'] as $name => $called) {
            $n[$name] = (string) $this->as('manager')
                ->postJson('/api/holds', [
                    'name' => $called,
                    'reason' => 'A claim.',
                    'documents' => $name === '@hold' ? [$kept] : [],
                    'custodians' => ['reader'],
                ])
                ->assertCreated()
                ->json('id');
        }
        $n['@permit'] = $this->file(
            'clerk',
            'harbour',
            'mooring_permit',
            [
                'permit_number' => ['MP-2023-0001'],
                'vessel' => ['Marigold Ash'],
                'holder' => ['Osric Vane'],
                'amount' => ['120'],
            ],
            'A permit for the quay, by the wall.',
            'permit.txt',
        );
        $n['@letter'] = $this->file(
            'clerk',
            'harbour',
            'incident_report',
            [
                'document_date' => ['2023'],
                'severity' => ['serious'],
                'vessel' => ['Quay Maid'],
            ],
            'A boat struck the quay wall.',
            'letter.txt',
        );
        $n['@kept'] = $this->file(
            'librarian',
            'waterways',
            'dredging_survey',
            [
                'waterway' => ['tarn-sea'],
                'document_date' => ['2022'],
            ],
            'Silt at the quay, two metres of it.',
            'survey.txt',
        );
        $n['@dossier'] = $this->as('librarian')
            ->postJson('/api/dossiers', [
                'kind' => 'asset_file',
                'library' => 'waterways',
                'values' => ['structure' => ['LK-0407-5']],
            ])
            ->assertCreated()
            ->json('ref');
        $this->test->postJson("/api/dossiers/{$n['@dossier']}/documents", ['documents' => [$n['@notice']]])->assertOk();
        $n['@shared'] = (string) $this->as('keeper')
            ->postJson('/api/lists', ['name' => 'For all'])
            ->assertCreated()
            ->json('id');
        $this->test->postJson("/api/lists/{$n['@shared']}/documents", ['documents' => [$n['@permit']]])->assertOk();
        $people = array_map(static fn (string $who): array => ['sign_in' => $who, 'may_change' => true], [
            'reader',
            'clerk',
            'librarian',
            'manager',
            'admin',
        ]);
        $this->test->putJson("/api/lists/{$n['@shared']}", ['name' => 'For all', 'lock_version' => 1, 'people' => $people])->assertOk();
        $this->delivered((int) $n['@shared'], 'csv');
        // What is the person’s own.
        $this->as($this->who);
        $n['@list'] = (string) $this->test
            ->postJson('/api/lists', ['name' => 'Own'])
            ->assertCreated()
            ->json('id');
        $this->test->postJson("/api/lists/{$n['@list']}/documents", ['documents' => [$n['@notice'], $n['@permit']]])->assertOk();
        $n['@delivery'] = $this->delivered((int) $n['@list'], 'zip');
        $this->as($this->who);
        $n['@link'] = (string) $this->test
            ->postJson("/api/deliveries/{$n['@delivery']}/links", ['most_uses' => 9, 'days' => 3])
            ->assertCreated()
            ->json('link.id');
        $n['@note'] = (string) $this->test
            ->postJson("/api/documents/{$n['@notice']}/annotations", [
                'page' => 1,
                'kind' => 'note',
                'start' => 4,
                'length' => 6,
                'text' => 'Mine',
                'private' => true,
            ])
            ->assertCreated()
            ->json('id');
        $this->test->postJson('/api/searches', ['name' => 'Own', 'search' => SEARCH])->assertCreated();
        $n['@search'] = (string) DB::table('saved_searches')->max('id');
        $n['@comment'] = (string) $this->test
            ->postJson("/api/documents/{$n['@notice']}/comments", ['text' => 'Which sluice?'])
            ->assertCreated()
            ->json('comments.0.id');
        if ($this->test->getJson('/api/session')->json('user.may.file') === true) {
            $n['@act'] = (string) $this->test
                ->postJson('/api/value-acts', [
                    'field' => 'berth',
                    'how' => 'set',
                    'values' => ['3'],
                    'documents' => [$n['@permit']],
                    'changes' => 1,
                ])
                ->assertSuccessful()
                ->json('id');
            $n['@round'] = (string) $this->test
                ->postJson('/api/document-acts/sheets', [
                    'rows' => [['ref' => $n['@letter'], 'lock_version' => 1, 'values' => ['place' => 'The quay']]],
                    'expected' => 1,
                ])
                ->assertCreated()
                ->json('act');
            $n['@mine'] = $this->test
                ->post(
                    '/api/intake',
                    [
                        'library' => 'waterways',
                        'file' => UploadedFile::fake()->createWithContent('mine.txt', 'Just arrived'),
                    ],
                    ['Accept' => 'application/json'],
                )
                ->assertCreated()
                ->json('ref');
        }
    }

    /** What is hidden in both, and other in each. */
    private function hidden(): void
    {
        $n = &$this->names;
        $isKept = $this->who === 'reader' || $this->who === 'admin';
        $other = $this->rich || ! $isKept ? 'secretword' : 'otherwords';
        // A word that was removed from a document, for whoever is kept from the original; a value that is covered for readers.
        $cleared = $this->file(
            'librarian',
            'waterways',
            'weed_silt_report',
            [
                'waterway' => ['tarn-sea'],
                'document_date' => ['2021'],
            ],
            "Weed at the quay: {$other}.",
            'weed.txt',
        );
        if ($isKept) {
            $places = $this->as('librarian')
                ->postJson("/api/documents/{$cleared}/redactions/find", ['words' => [$other]])
                ->assertOk()
                ->json('places');
            $this->test
                ->postJson("/api/documents/{$cleared}/redactions", [
                    'version' => 1,
                    'reason' => 'personal',
                    'marks' => $places,
                ])
                ->assertOk();
            $this->file(
                'clerk',
                'harbour',
                'mooring_permit',
                [
                    'permit_number' => ['MP-2023-0002'],
                    'vessel' => ['Marigold Ash'],
                    'holder' => [$this->rich ? 'Osric Thrupp' : 'Amity Vane'],
                ],
                'Another permit for the quay.',
                'second.txt',
            );
        }
    }

    /** What is hidden, and only in the one. */
    private function secrets(): void
    {
        $n = &$this->names;
        $deposit = fn (string $name, array $values = []): string => $this->file(
            'keeper',
            'vault',
            'deposit',
            [
                'vessel' => ['Zirconia Star'],
                'gauge' => ['first'],
                'document_date' => ['1999'],
                'waterway' => ['tarn-sea'],
                ...$values,
            ],
            self::SECRET,
            $name,
        );
        $n['@secret'] = $deposit('zirconia.txt');
        foreach (range(1, 4) as $i) {
            $deposit("zirconia {$i}.txt", ['vessel' => ["Zirconia {$i}"]]);
        }
        if (in_array($this->who, ['reader', 'clerk', 'admin'], true)) {
            $n['@paper'] = $this->file(
                'librarian',
                'board',
                'minute',
                [
                    'document_date' => ['2024'],
                    'confidentiality' => ['confidential'],
                ],
                'The board met about the quay and zirconia.',
                'minute.txt',
            );
        }
        [$n['@ordeal'], $n['@trial']] = $this->begun('vaulted', $n['@secret']);
        $n['@gone'] = $deposit('gone.txt');
        $this->as('keeper')
            ->postJson('/api/removed', ['documents' => [$n['@gone']], 'reason' => 'A double'])
            ->assertOk();
        $n['@waiting'] = $this->as('keeper')
            ->post(
                '/api/intake',
                [
                    'library' => 'waterways',
                    'file' => UploadedFile::fake()->createWithContent('waiting.txt', 'Waiting for zirconia'),
                ],
                ['Accept' => 'application/json'],
            )
            ->assertCreated()
            ->json('ref');
        $this->as('keeper');
        $n['@vaulted'] = $this->test
            ->postJson('/api/dossiers', [
                'kind' => 'stoppage',
                'library' => 'vault',
                'values' => ['structure' => ['LK-0407-5']],
            ])
            ->assertCreated()
            ->json('ref');
        $this->test->postJson("/api/dossiers/{$n['@dossier']}/documents", ['documents' => [$n['@secret']]])->assertOk();
        $this->test->postJson("/api/lists/{$n['@shared']}/documents", ['documents' => [$n['@secret']]])->assertOk();
        $n['@theirs'] = (string) $this->test
            ->postJson('/api/lists', ['name' => 'Theirs'])
            ->assertCreated()
            ->json('id');
        $this->test->postJson("/api/lists/{$n['@theirs']}/documents", ['documents' => [$n['@secret']]])->assertOk();
        $n['@parcel'] = $this->delivered((int) $n['@theirs'], 'zip');
        $n['@thread'] = (string) $this->test
            ->postJson("/api/deliveries/{$n['@parcel']}/links", ['most_uses' => 9, 'days' => 3])
            ->assertCreated()
            ->json('link.id');
        $n['@private'] = (string) $this->test
            ->postJson("/api/documents/{$n['@notice']}/annotations", [
                'page' => 1,
                'kind' => 'note',
                'start' => 0,
                'length' => 3,
                'text' => 'Zirconia',
                'private' => true,
            ])
            ->assertCreated()
            ->json('id');
        $this->test
            ->postJson('/api/searches', [
                'name' => 'Hunt',
                'search' => [...SEARCH, 'words' => 'zirconia'],
                'groups' => ['Vault'],
            ])
            ->assertCreated();
        $n['@hunt'] = (string) DB::table('saved_searches')->max('id');
        // Who designs knows of every name.
        if ($this->who !== 'librarian') {
            $this->test
                ->postJson('/api/searches', [
                    'name' => 'Hunt too',
                    'search' => [...SEARCH, 'criteria' => [['cql' => 'library == vault']]],
                    'groups' => ['Everyone'],
                ])
                ->assertCreated();
            $this->test
                ->postJson('/api/searches', [
                    'name' => 'Hunt by gauge',
                    'search' => [...SEARCH, 'criteria' => [['cql' => 'gauge == first']]],
                    'groups' => ['Everyone'],
                ])
                ->assertCreated();
        }
        $this->test->postJson('/api/searches/recent', ['search' => [...SEARCH, 'words' => 'zirconia'], 'total' => 5])->assertOk();
        $n['@whisper'] = (string) $this->test
            ->postJson("/api/documents/{$n['@secret']}/comments", ['text' => 'Quay? Zirconia!'])
            ->assertCreated()
            ->json('comments.0.id');
        $plan = ['field' => 'waterway', 'how' => 'set', 'values' => ['tarn-summit'], 'documents' => [$n['@secret']], 'changes' => 1];
        $n['@deed'] = (string) $this->test->postJson('/api/value-acts', $plan)->assertSuccessful()->json('id');
        $n['@raid'] = (string) $this->test
            ->postJson('/api/document-acts/sheets', [
                'rows' => [['ref' => $n['@secret'], 'lock_version' => 2, 'values' => ['vessel' => 'Zirconia Sun']]],
                'expected' => 1,
            ])
            ->assertCreated()
            ->json('act');
        $this->test->putJson("/api/documents/{$n['@notice']}/pin", [])->assertSuccessful();
        $this->test
            ->putJson('/api/me/views/my-zirconia', [
                'name' => 'Zirconia',
                'criterion' => 'vessel = zirconia',
                'columns' => ['vessel'],
            ])
            ->assertSuccessful();
        $this->test->postJson("/api/documents/{$n['@secret']}/check-out", ['note' => 'zirconia'])->assertOk();
        $lent = $deposit('lent.txt');
        $n['@lent'] = (string) $this->test
            ->postJson("/api/documents/{$lent}/loans", ['borrower' => 'Zirconia Ltd'])
            ->assertOk()
            ->json('loans.0.id');
        // Nobody who was there before may see it, and it is held for all that.
        $this->heldBySearch((int) $n['@siege']);
    }

    private function delivered(int $list, string $format): string
    {
        $id = $this->test
            ->postJson("/api/lists/{$list}/deliveries", ['format' => $format])
            ->assertCreated()
            ->json('id');
        $delivery = Delivery::query()->findOrFail($id);
        $delivery->state === Delivery::DONE || app(DeliveryMaker::class)->make($delivery);

        return (string) $id;
    }
}

/**
 * All that is asked: every route, with every body, of everything its address may name.
 *
 * @return list<array{string, string, array<string, mixed>}>
 */
function allRequests(): array
{
    $reads = $acts = $ends = $last = [];
    foreach (Route::getRoutes()->getRoutes() as $route) {
        if (! str_contains($route->getActionName(), 'Controller')) {
            continue;
        }
        foreach (array_diff($route->methods(), ['HEAD']) as $method) {
            $key = "{$method} {$route->uri()}";
            $addresses = [$route->uri()];
            preg_match_all('/\{(\w+)/', $route->uri(), $m);
            foreach ($m[1] as $name) {
                $addresses = array_merge(
                    ...array_map(
                        static fn (string $a): array => array_map(
                            static fn (string $value): string => (string) preg_replace('/\{'.$name.'[^}]*\}/', $value, $a),
                            CODED[explode('{'.$name, $a)[0]] ?? NAMED[$name],
                        ),
                        $addresses,
                    ),
                );
            }
            foreach ($addresses as $address) {
                foreach (BODIES[$key] ?? [[]] as $body) {
                    if (
                        $method === 'GET' ||
                        in_array(
                            $key,
                            ['POST api/search', 'POST api/search/themes', 'POST api/design/readings/trial', 'POST api/design/procedures/trial', 'POST api/search/groups', 'POST api/search/complete', 'POST api/search/criterion'],
                            true,
                        ) ||
                        str_ends_with($key, '/plan')
                    ) {
                        $reads[] = [$method, $address, $body];
                    } elseif (in_array($key, LAST, true)) {
                        $last[] = [$method, $address, $body];
                    } elseif ($method === 'DELETE') {
                        $ends[] = [$method, $address, $body];
                    } else {
                        $acts[] = [$method, $address, $body];
                    }
                }
            }
        }
    }
    /** @var list<array{string, string, array<string, mixed>}> $acts */
    shuffle($acts);
    /** @var list<array{string, string, array<string, mixed>}> $ends */
    shuffle($ends);

    $again = array_filter($reads, static fn (array $read): bool => $read[0] === 'GET');

    return [...$reads, ...$acts, ...$ends, ...$last, ...$again];
}

it('answers alike where only what a person may not see is other', function (string $who) {
    seeded(21);
    $requests = allRequests();
    $answers = [];
    foreach ([true, false] as $rich) {
        if (! $rich) {
            $this->tearDown();
            $this->setUp();
        }
        $twin = new Twin($this, $who, $rich);
        $twin->build();
        foreach ($requests as $i => [$method, $uri, $body]) {
            $answers[$i][] = $twin->ask($method, $uri, $body);
        }
    }
    $other = [];
    foreach ($answers as $i => [$a, $b]) {
        if ($a !== $b) {
            [$method, $uri, $body] = $requests[$i];
            $from = max(0, strspn($a ^ $b, "\0") - 60);
            $other[] = "{$method} {$uri} ".json_encode($body)."\n  ".substr($a, $from, 300)."\n  ".substr($b, $from, 300);
        }
    }
    expect($other)->toBe([]);
})->with(['reader', 'clerk', 'librarian', 'manager', 'admin']);
