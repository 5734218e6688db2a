<?php

declare(strict_types=1);

use App\Catalog\Catalog;
use App\Intake\Sources\ArrivingFile;
use App\Intake\Sources\Watch;
use App\Models\Document;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;

beforeEach(function () {
    $this->root = config('brenvic.data').'/sources';
    config(['brenvic.sources' => $this->root]);
    $this->watch = new Watch();
    $this->folder = "{$this->root}/scans";
});

/** Puts a file there as if it had lain for a while. */
function arrive(string $path, string $contents, int $ago = 10): void
{
    $file = test()->folder."/{$path}";
    is_dir(dirname($file)) || mkdir(dirname($file), 0775, true);
    file_put_contents($file, $contents);
    touch($file, time() - $ago);
}

function looks(int $times = 2): int
{
    $count = 0;
    for ($i = 0; $i < $times; $i++) {
        app()->forgetScopedInstances();
        $count += test()->watch->look(app(Catalog::class), app(ArrivingFile::class));
    }

    return $count;
}

/** @return list<string> what lies in the folder, without what is hidden and empty */
function lies(): array
{
    $files = array_map(
        static fn (SplFileInfo $file): string => substr($file->getPathname(), strlen(test()->folder) + 1),
        File::allFiles(test()->folder, true),
    );
    sort($files);

    return $files;
}

it('brings in what lies in a watched folder once it is whole, with what its name and what lies beside it say', function () {
    source(['pattern' => '{waterway}/{document_date}_{structure}', 'values' => [['code' => 'urgent', 'value' => 'yes']]]);
    looks(1);
    // Made with the source.
    expect(is_dir($this->folder))->toBeTrue();
    arrive('Sea lock pound/2024-03-14_Gate.txt', 'The sluice is shut.');
    arrive('plain.txt', 'No pattern.');
    arrive('beside.txt', 'With values.');
    arrive('beside.json', '{"waterway": "Summit pound", "document_date": "14 March 2024", "nonsense": 7}');
    arrive('growing.txt', 'not yet', 0);
    arrive('unfinished.pdf.part', 'x');
    // At the first look nobody knows whether they grow.
    expect(looks(1))->toBe(0)->and(looks(1))->toBe(3);
    expect(lies())->toBe([
        'done/Sea lock pound/2024-03-14_Gate.txt', 'done/beside.json', 'done/beside.txt', 'done/plain.txt', 'growing.txt', 'unfinished.pdf.part',
    ]);
    $waiting = collect($this->as('clerk')->getJson('/api/intake')->assertOk()->json('documents'))->keyBy('file_name');
    expect($waiting->keys()->all())->toEqualCanonicalizing(['2024-03-14_Gate.txt', 'plain.txt', 'beside.txt']);
    expect($waiting['2024-03-14_Gate.txt'])
        ->toMatchArray(['source' => 'Scans of the office', 'path' => 'Sea lock pound/2024-03-14_Gate.txt', 'lacks' => []])
        ->and($waiting['2024-03-14_Gate.txt']['type']['code'])->toBe('stoppage_notice')
        ->and(array_map(static fn (array $v): string => $v[0]['label'], $waiting['2024-03-14_Gate.txt']['values']))
        ->toMatchArray(['waterway' => 'Sea lock pound', 'document_date' => '14 Mar 2024'])
        ->and($waiting['beside.txt']['values']['document_date'][0]['value'])->toBe('2024-03-14')
        ->and($waiting['beside.txt']['intake_note'])->toContain('“nonsense” is no field of it.')
        ->and($waiting['plain.txt']['intake_note'])->toContain('Its name is not of the form');
    // Looked at again, nothing comes twice; what has grown up comes.
    touch("{$this->folder}/growing.txt", time() - 10);
    expect(looks(2))->toBe(1)->and(Document::query()->count())->toBe(4);
});

it('gives what arrives to its group, and to nobody else', function () {
    source();
    arrive('one.txt', 'The sluice is shut.');
    looks(3);
    $ref = $this->as('clerk')->getJson('/api/intake')->json('documents.0.ref');
    expect($ref)->not->toBeNull()->and($this->getJson('/api/desk')->json('waiting'))->toBe(1);
    $this->getJson("/api/documents/{$ref}")->assertOk();
    foreach (['reader', 'manager', 'admin'] as $who) {
        $this->as($who)->getJson('/api/intake')->assertForbidden();
        $this->getJson("/api/documents/{$ref}")->assertNotFound();
        $this->getJson("/api/documents/{$ref}/file")->assertNotFound();
    }
    DB::table('group_user')
        ->where('user_id', DB::table('users')->where('sign_in', 'clerk')->value('id'))
        ->where('group_id', DB::table('groups')->where('name', 'Records office')->value('id'))
        ->delete();
    App\People\Groups::gather();
    $this->app->make('auth')->forgetGuards();
    $this->as('clerk');
    expect($this->getJson('/api/intake')->json('documents'))->toBe([]);
    $this->getJson("/api/documents/{$ref}")->assertNotFound();
    $this->postJson('/api/intake/discard', ['documents' => [$ref]]);
    expect(Document::query()->where('ref', $ref)->exists())->toBeTrue();
});

it('is filed like everything else, and can be given to another library before', function () {
    source(['type' => null]);
    arrive('one.txt', 'The sluice is shut.');
    looks(3);
    $ref = $this->as('clerk')->getJson('/api/intake')->json('documents.0.ref');
    $this->postJson('/api/intake/library', ['documents' => [$ref], 'library' => 'nowhere'])->assertNotFound();
    $this->postJson('/api/intake/library', ['documents' => [$ref], 'library' => 'harbour'])
        ->assertOk()
        ->assertJsonPath('documents.0.library.code', 'harbour');
    $this->postJson('/api/intake/library', ['documents' => [$ref], 'library' => 'waterways'])->assertOk();
    $this->postJson('/api/intake/file', [
        'documents' => [$ref],
        'type' => 'stoppage_notice',
        'values' => ['waterway' => ['Sea lock pound'], 'document_date' => ['2024']],
    ])->assertOk()->assertJsonPath('documents', []);
    expect($this->search(['words' => 'sluice'], 'clerk')->json('total'))->toBe(1);
});

it('refuses what cannot come in, says why beside it, and goes on with the rest', function () {
    config(['brenvic.limits.file_bytes' => 2_000]);
    source();
    arrive('large.txt', str_repeat('x', 3_000));
    arrive('sub/broken.txt', 'with values that are none');
    arrive('sub/broken.json', '{nonsense');
    arrive('good.txt', 'The sluice is shut.');
    arrive('two.csv', "waterway\nSea lock pound\nSummit pound\n");
    arrive('two.txt', 'Two lines of values.');
    expect(looks(3))->toBe(1);
    expect(lies())->toBe([
        'done/good.txt',
        'refused/large.txt', 'refused/large.txt.txt',
        'refused/sub/broken.json', 'refused/sub/broken.txt', 'refused/sub/broken.txt.txt',
        'refused/two.csv', 'refused/two.txt', 'refused/two.txt.txt',
    ]);
    expect(file_get_contents("{$this->folder}/refused/sub/broken.txt.txt"))->toContain('The values in broken.json are no JSON.');
    // Mended and put back, it comes in; another of the same name is not written over.
    unlink("{$this->folder}/refused/sub/broken.json");
    rename("{$this->folder}/refused/sub/broken.txt", "{$this->folder}/good.txt");
    touch("{$this->folder}/good.txt", time() - 10);
    expect(looks(2))->toBe(1)->and(lies())->toContain('done/good.txt', 'done/good (2).txt');
});

it('takes files of whatever name', function () {
    source(['folder' => 'scans [a] *']);
    $this->folder = "{$this->root}/scans [a] *";
    $names = ['123', 'ärger über {x}.txt', "it's [1].txt", '日本.txt', 'a b  c.TXT', 'no ending', '-rf.txt', 'x.tar.gz'];
    foreach ($names as $i => $name) {
        arrive($name, "Letter {$i}");
        arrive("sub [2]/{$name}", "Another letter {$i}");
    }
    expect(looks(3))->toBe(16);
    $done = array_map(static fn (string $name): string => "done/{$name}", $names);
    $below = array_map(static fn (string $name): string => "done/sub [2]/{$name}", $names);
    expect(lies())->toEqualCanonicalizing([...$done, ...$below]);
    expect(Document::query()->pluck('file_name')->unique()->values()->all())->toEqualCanonicalizing($names);
});

it('removes the original once the document is safe, where that is wished', function () {
    source(['original' => 'removed']);
    arrive('a/one.txt', 'The sluice is shut.');
    arrive('a/one.json', '{"waterway": "Sea lock pound"}');
    expect(looks(3))->toBe(1)->and(lies())->toBe([]);
});

it('goes on after a stop at any point, and brings nothing in twice', function () {
    source();
    looks(1);
    $taken = "{$this->folder}/.taken";
    // Before it was taken; before its document was made; and after.
    mkdir("{$taken}/t1", recursive: true);
    file_put_contents("{$taken}/t1/.path", 'gone.txt');
    mkdir("{$taken}/t0", recursive: true);
    mkdir("{$taken}/t2", recursive: true);
    file_put_contents("{$taken}/t2/.path", 'sub/two.txt');
    file_put_contents("{$taken}/t2/two.txt", 'The second.');
    arrive('three.txt', 'The third.');
    looks(2);
    $token = DB::table('arrivals')->where('token', '<>', 't2')->value('token');
    mkdir("{$taken}/{$token}");
    rename("{$this->folder}/done/three.txt", "{$taken}/{$token}/three.txt");
    file_put_contents("{$taken}/{$token}/.path", 'three.txt');
    looks(2);
    expect(Document::query()->pluck('file_name')->all())->toEqualCanonicalizing(['two.txt', 'three.txt'])
        ->and(lies())->toBe(['done/sub/two.txt', 'done/three.txt'])
        ->and(glob("{$taken}/*"))->toBe([]);
    // What another worker has is left to it.
    mkdir("{$taken}/t4");
    file_put_contents("{$taken}/t4/.path", 'four.txt');
    file_put_contents("{$taken}/t4/four.txt", 'The fourth.');
    $lock = fopen("{$taken}/t4/.path", 'r+b');
    flock($lock, LOCK_EX);
    expect(looks(2))->toBe(0);
    fclose($lock);
    expect(looks(1))->toBe(1);
});

it('says when a folder is gone, asks again after growing waits, and holds no other source up', function () {
    source();
    source(['code' => 'other', 'folder' => 'other', 'name' => 'Other', 'group' => 'Board office'], 'other');
    looks(1);
    File::deleteDirectory($this->folder);
    mkdir("{$this->root}/other/x", recursive: true);
    file_put_contents("{$this->root}/other/x/one.txt", 'The weir is low.');
    touch("{$this->root}/other/x/one.txt", time() - 10);
    expect(looks(2))->toBe(1);
    $said = $this->as('clerk')->getJson('/api/intake')->json('sources');
    expect($said)->toBe([['code' => 'scans', 'name' => 'Scans of the office', 'says' => 'The folder “scans” is not there.']]);
    $again = DB::table('source_states')->where('source', 'scans')->value('again_at');
    mkdir($this->folder, recursive: true);
    // Not before its time.
    looks(1);
    expect(DB::table('source_states')->where('source', 'scans')->value('again_at'))->toBe($again);
    $this->travel(20)->seconds();
    looks(1);
    expect($this->getJson('/api/intake')->json('sources'))->toBe([]);
    // A source that is taken out of the design is forgotten.
    $this->as('librarian')->deleteJson('/api/design/sources/scans')->assertNoContent();
    $this->publish('No scans')->assertCreated();
    looks(1);
    expect(DB::table('source_states')->pluck('source')->all())->toContain('other')->not->toContain('scans');
});

it('notices that its worker cannot store anything, and tries again without losing the file', function () {
    source();
    arrive('one.txt', 'The sluice is shut.');
    $data = config('brenvic.data');
    looks(1);
    config(['brenvic.data' => '/proc/nothing']);
    looks(1);
    expect(Document::query()->count())->toBe(0)->and(DB::table('source_states')->where('source', 'scans')->value('tries'))->toBe(1);
    config(['brenvic.data' => $data]);
    $this->travel(20)->seconds();
    expect(looks(1))->toBe(1)->and(lies())->toBe(['done/one.txt']);
});

it('brings mails in from a maildir, with what its rules know of them, once each', function () {
    $mail = "{$this->root}/mail";
    config(['brenvic.mailboxes' => ['office' => "maildir:{$mail}", 'post' => "maildir:{$mail}-other"]]);
    source([
        'way' => 'mailbox', 'mailbox' => 'office', 'folder' => '', 'type' => null,
        'rules' => [
            ['criterion' => 'subject = stoppage', 'type' => 'stoppage_notice', 'values' => [['code' => 'waterway', 'value' => 'Sea lock pound']]],
            ['criterion' => 'from = vane', 'values' => [['code' => 'received_from', 'value' => 'Osric Vane']]],
        ],
    ]);
    looks(1);
    $deliver = function (string $name, string $subject, string $from = 'A <a@tarnwick.example>') use ($mail): void {
        file_put_contents("{$mail}/tmp/{$name}", "From: {$from}\r\nTo: b@tarnwick.example\r\nSubject: {$subject}\r\n\r\nThe gate.\r\n");
        rename("{$mail}/tmp/{$name}", "{$mail}/new/{$name}");
    };
    $deliver('1.a.b', '=?UTF-8?Q?Stoppage_=C3=BCber?= all', 'Osric Vane <vane@tarnwick.example>');
    $deliver('2.a.b', 'Something else');
    rename("{$mail}/new/2.a.b", "{$mail}/cur/2.a.b:2,S");
    expect(looks(1))->toBe(2);
    $waiting = collect($this->as('clerk')->getJson('/api/intake')->assertOk()->json('documents'))->keyBy('file_name');
    expect($waiting->keys()->all())->toBe(['Stoppage über all.eml', 'Something else.eml'])
        ->and($waiting['Stoppage über all.eml']['type']['code'])->toBe('stoppage_notice')
        ->and($waiting['Stoppage über all.eml']['values']['received_from'][0]['value'])->toBe('Osric Vane')
        ->and($waiting['Something else.eml']['type'])->toBeNull();
    // Stopped between the document and the move, it does not come again.
    rename("{$mail}/.Brenvic done/cur/2.a.b:2,S", "{$mail}/new/2.a.b");
    expect(looks(1))->toBe(0)->and(scandir("{$mail}/new"))->toBe(['.', '..']);
    // What the demo delivers is what its own mailbox brings in.
    config(['brenvic.mailboxes' => ['office' => "maildir:{$mail}", 'post' => "maildir:{$mail}-other"]]);
    $this->artisan('brenvic:demo-mail', ['count' => 3])->assertSuccessful();
    expect(looks(1))->toBe(3)
        ->and(Document::query()->where('source', 'office_mail')->with('type')->get()->pluck('type.code')->sort()->values()->all())
        ->toBe(['lock_inspection', 'stoppage_notice', 'weed_silt_report']);
});
