<?php

declare(strict_types=1);

use App\Models\Document;
use App\Models\User;
use Brenvic\Core\Fields\CheckCharacter;
use Illuminate\Support\Facades\DB;

/** A report as an office of its own writes it. */
function visitReport(string $day, string $plate, string $seen = 'All is well.'): string
{
    return "Structures office of the east\n\nReport of a visit\nVisited by us on {$day}\nPlate {$plate}\n\n{$seen}\nSigned and sent\n";
}

function plateOf(string $stem): string
{
    return $stem.CheckCharacter::for($stem);
}

/** @param  array<string, list<string>>  $more */
function reportFiled(string $day, string $date, string $plate, array $more = []): string
{
    return test()->filed(visitReport($day, $plate), 'report.txt', 'lock_inspection', ['document_date' => [$date], 'structure' => [$plate], ...$more]);
}

/** @return array<string, mixed> what is proposed for a document that waits */
function proposedFor(string $ref, string $type = '', string $by = 'clerk'): array
{
    return test()->as($by)->getJson("/api/documents/{$ref}/proposals".($type === '' ? '' : "?type={$type}"))->assertOk()->json();
}

/** @return array<string, list<string>> values by field */
function valuesProposed(array $sheet): array
{
    return collect($sheet['proposals'])->mapWithKeys(static fn (array $of): array => [$of['field'] => array_column($of['places'], 'value')])->all();
}

beforeEach(function () {
    DB::table('design_parts')->where('kind', 'readings')->delete();
});

it('knows a new form after two papers of it: its type, and where its values stand', function () {
    $plates = array_map(plateOf(...), ['LK-0407-', 'LK-0414-', 'LK-0421-']);
    $first = reportFiled('3 May 2021', '2021-05-03', $plates[0]);
    $waits = arrived(visitReport('9 June 2024', $plates[2], 'The gate is worn.'), 'new.txt');
    expect(proposedFor($waits))->toMatchArray(['type' => null, 'proposals' => []]);
    $second = reportFiled('4 April 2022', '2022-04-04', $plates[1]);
    $sheet = proposedFor($waits);
    expect($sheet['type']['code'])->toBe('lock_inspection')->and(array_column($sheet['type']['documents'], 'ref'))->toEqualCanonicalizing([$first, $second]);
    expect(valuesProposed($sheet))->toBe(['document_date' => ['2024-06-09'], 'structure' => [$plates[2]]]);
    $day = $sheet['proposals'][0];
    expect($day['by'])->toContain('on papers of this form')->and($day['from'])->toBe(2)->and(array_column($day['documents'], 'ref'))->toEqualCanonicalizing([$first, $second])->and(
        implode('', array_column($day['places'][0]['pieces'], 0)),
    )->toContain('9 June 2024');
    // Nothing of it is stored.
    expect(DB::table('document_values')->where('document_id', Document::query()->where('ref', $waits)->value('id'))->exists())->toBeFalse();
});

it('learns at once what people correct, and forgets what is taken away', function () {
    $write = static fn (string $ref, string $heard): string => "Office of the west\nHeard by {$heard}\nWritten by {$ref}\nEnd of it\n";
    $file = fn (string $heard, string $written, string $author): string => test()->filed($write($written, $heard), 'note.txt', 'site_diary', ['document_date' => ['2024'], 'author' => [$author]], 'works');
    $one = $file('Ada Lorne', 'Kit Wardle', 'Ada Lorne');
    $two = $file('Osric Vane', 'Nell Bracken', 'Osric Vane');
    $ask = function () use ($write): array {
        $this->as('clerk');
        $ref = $this->post('/api/intake', ['library' => 'works', 'file' => Illuminate\Http\UploadedFile::fake()->createWithContent('n.txt', $write('Phoebe Ludd', 'Idris Fenn'))], ['Accept' => 'application/json'])->json('ref');

        return valuesProposed(proposedFor($ref, 'site_diary'));
    };
    expect($ask()['author'])->toBe(['Idris Fenn']);
    // It was the writer who is meant.
    foreach ([[$one, 'Kit Wardle'], [$two, 'Nell Bracken']] as [$ref, $author]) {
        $lock = $this->as('clerk')->getJson("/api/documents/{$ref}")->json('lock_version');
        $this->putJson("/api/documents/{$ref}", ['type' => 'site_diary', 'values' => ['document_date' => ['2024'], 'author' => [$author]], 'lock_version' => $lock])->assertOk();
    }
    expect($ask()['author'])->toBe(['Phoebe Ludd']);
    $this->as('manager')->postJson('/api/removed', ['documents' => [$one, $two], 'reason' => 'Of another office'])->assertOk();
    expect($ask())->not->toHaveKey('author');
});

it('proposes what others with the same value have, and the dossier they are in, if that is more than chance', function () {
    $plates = array_map(plateOf(...), ['LK-0407-', 'LK-0414-', 'LK-0421-', 'LK-0428-']);
    foreach ([0, 1, 2, 3, 0, 1, 2, 3, 0, 1, 2, 3] as $i => $plate) {
        $filed[] = reportFiled(($i + 10).' May 2021', '2021-05-'.($i + 10), $plates[$plate], ['waterway' => [['tarn-sea', 'tarn-cray', 'basin-coal', 'basin-lower'][$plate]]]);
    }
    $dossier = $this->as('clerk')->postJson('/api/dossiers', ['kind' => 'asset_file', 'library' => 'waterways', 'values' => ['structure' => [$plates[0]]]])->assertCreated()->json();
    foreach ([0, 4, 8] as $i) {
        $this->postJson("/api/dossiers/{$dossier['ref']}/documents", ['documents' => [$filed[$i]]])->assertSuccessful();
    }
    $waits = arrived(visitReport('9 June 2024', $plates[0]), 'new.txt');
    $sheet = proposedFor($waits, 'lock_inspection');
    expect(valuesProposed($sheet))->toMatchArray(['structure' => [$plates[0]], 'waterway' => ['tarn-sea']])->and($sheet['dossier']['ref'])->toBe($dossier['ref']);
    $water = collect($sheet['proposals'])->firstWhere('field', 'waterway');
    expect($water['by'])->toContain($plates[0])->and($water['places'][0]['page'])->toBeNull();
    // Of one that stands alone nothing follows.
    $other = arrived(visitReport('9 June 2024', plateOf('LK-0435-')), 'new.txt');
    $sheet = proposedFor($other, 'lock_inspection');
    expect(valuesProposed($sheet))->not->toHaveKey('waterway')->and($sheet['dossier'])->toBeNull();
    // It is kept what became of it.
    $this->as('clerk')->postJson('/api/intake/file', [
        'documents' => [$waits],
        'type' => 'lock_inspection',
        'values' => ['document_date' => ['2024-06-09'], 'structure' => [$plates[0]], 'waterway' => ['basin-coal']],
        'dossier' => $dossier['ref'],
    ])->assertOk();
    $again = proposedFor(arrived(visitReport('10 June 2024', $plates[0]), 'newer.txt'), 'lock_inspection');
    expect([$again['dossier']['kept'], $again['dossier']['made']])->toBe([1, 1]);
    $kept = collect($again['proposals'])->mapWithKeys(static fn (array $of): array => [$of['field'] => [$of['kept'], $of['made']]])->all();
    expect($kept['structure'])->toBe([1, 1]);
});

it('learns nothing from what the filer does not see, or sees only as its redacted copy', function () {
    $plates = array_map(plateOf(...), ['LK-0407-', 'LK-0414-', 'LK-0421-']);
    $first = reportFiled('3 May 2021', '2021-05-03', $plates[0], ['remarks' => ['hide']]);
    reportFiled('4 April 2022', '2022-04-04', $plates[1], ['remarks' => ['hide']]);
    $waits = arrived(visitReport('9 June 2024', $plates[2]), 'new.txt');
    expect(valuesProposed(proposedFor($waits)))->not->toBe([]);
    $rule = ['code' => 'hidden', 'name' => 'Hidden', 'criterion' => 'remarks = hide', 'acts' => ['see'], 'groups' => ['Board office']];
    $this->as('librarian')->postJson('/api/design/access', $rule)->assertSuccessful();
    test()->publish('Hidden')->assertCreated();
    foreach (Illuminate\Support\Facades\Route::getRoutes()->getRoutes() as $route) {
        $route->flushController();
    }
    expect(proposedFor($waits))->toMatchArray(['type' => null, 'dossier' => null, 'proposals' => []]);
    $this->as('librarian')->deleteJson('/api/design/access/hidden')->assertSuccessful();
    test()->publish('Open')->assertCreated();
    foreach (Illuminate\Support\Facades\Route::getRoutes()->getRoutes() as $route) {
        $route->flushController();
    }
    expect(valuesProposed(proposedFor($waits)))->not->toBe([]);
    // The clerk is no longer of those who see what was removed.
    $mark = ['page' => 1, 'start' => (int) strpos(visitReport('3 May 2021', $plates[0]), 'Plate'), 'length' => 5];
    $this->as('librarian')->postJson("/api/documents/{$first}/redactions", ['version' => 1, 'reason' => 'personal', 'marks' => [$mark]])->assertSuccessful();
    $clerk = User::query()->where('sign_in', 'clerk')->firstOrFail();
    App\People\Groups::put($clerk, array_values(array_diff($clerk->groupNames(), ['Records office'])));
    app()->forgetScopedInstances();
    foreach (Illuminate\Support\Facades\Route::getRoutes()->getRoutes() as $route) {
        $route->flushController();
    }
    $sheet = proposedFor($waits, 'lock_inspection');
    expect(json_encode($sheet))->not->toContain($first)->and($sheet['proposals'])->toBe([]);
});

it('proposes nothing for values that are sensitive but what the page itself says', function () {
    $file = fn (string $vessel, string $holder): string => test()->filed("Permit of the pier\nVessel {$vessel}\nEnd\n", 'p.txt', 'mooring_permit', ['permit_number' => ['MP-2024-'.random_int(1000, 9999)], 'vessel' => [$vessel], 'holder' => [$holder]], 'harbour');
    for ($i = 0; $i < 6; $i++) {
        $file('Juniper', 'Ada Lorne');
    }
    $file('Sorrel', 'Kit Wardle');
    $this->as('clerk');
    $ref = $this->post('/api/intake', ['library' => 'harbour', 'file' => Illuminate\Http\UploadedFile::fake()->createWithContent('n.txt', "Permit of the pier\nVessel Juniper\nEnd\n")], ['Accept' => 'application/json'])->json('ref');
    $sheet = proposedFor($ref, 'mooring_permit');
    expect(valuesProposed($sheet))->toHaveKey('vessel')->not->toHaveKey('holder')->and(json_encode($sheet))->not->toContain('Lorne');
});
