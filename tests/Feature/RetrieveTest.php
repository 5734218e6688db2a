<?php

declare(strict_types=1);

use App\Models\Delivery;
use App\Models\SecureLink;
use App\Models\User;
use App\Retrieve\DeliveryMaker;
use Demo\FileMaker;
use Illuminate\Support\Facades\DB;
use Symfony\Component\Process\Process;

/** @return array<string, mixed> a list of one’s own with some documents */
function gathered(Tests\TestCase $test, string $who, array $refs, string $name = 'The failed gate'): array
{
    $id = $test
        ->as($who)
        ->postJson('/api/lists', ['name' => $name])
        ->assertCreated()
        ->json('id');
    $test->postJson("/api/lists/{$id}/documents", ['documents' => $refs])->assertOk();

    return $test->getJson("/api/lists/{$id}")->json();
}

function delivered(Tests\TestCase $test, string $who, int $list, array $settings = ['format' => 'bag']): Delivery
{
    $id = $test
        ->as($who)
        ->postJson("/api/lists/{$list}/deliveries", $settings)
        ->assertCreated()
        ->json('id');

    return Delivery::query()->findOrFail($id);
}

function notice(Tests\TestCase $test, string $name, string $text = 'x'): string
{
    return $test->filed($text, $name, 'stoppage_notice', ['document_date' => ['2024'], 'waterway' => ['tarn-sea']]);
}

function secretByelaw(Tests\TestCase $test): string
{
    return $test->filed(
        'The secret clause',
        'secret.txt',
        'byelaw',
        ['document_date' => ['2024'], 'confidentiality' => ['confidential']],
        'board',
        'librarian',
    );
}

it('gathers what was found where it was looked for, and no more', function () {
    $named = notice($this, 'heron.txt', 'x');
    notice($this, 'other.txt', 'A heron stood by');
    $id = $this->as('reader')
        ->postJson('/api/lists', ['name' => 'Herons'])
        ->json('id');
    $search = ['words' => 'heron', 'where' => ['title', 'path']];
    expect($this->search($search, 'reader')->json('total'))->toBe(1);
    $this->as('reader')
        ->postJson("/api/lists/{$id}/documents", ['search' => $search])
        ->assertJsonPath('added', 1);
    expect($this->getJson("/api/lists/{$id}")->json('items.0.ref'))->toBe($named);
});

it('gathers by choice, by search and from another list, in order, with notes', function () {
    [$a, $b, $c] = [notice($this, 'a.txt'), notice($this, 'b.txt'), notice($this, 'c.txt')];
    $list = gathered($this, 'reader', [$b, $a]);
    expect(array_column($list['items'], 'ref'))->toBe([$b, $a]);
    $this->postJson("/api/lists/{$list['id']}/documents", [
        'search' => ['words' => 'type == stoppage_notice'],
        'keep' => true,
    ])->assertJsonPath('added', 1);
    $this->putJson("/api/lists/{$list['id']}/documents/{$c}", ['before' => $b, 'note' => 'the cause'])->assertOk();
    $list = $this->getJson("/api/lists/{$list['id']}")->json();
    expect(array_column($list['items'], 'ref'))
        ->toBe([$c, $b, $a])
        ->and($list['items'][0]['note'])
        ->toBe('the cause');
    // It goes on adding what matches, until it is frozen.
    $d = notice($this, 'd.txt');
    expect(
        array_column(
            $this->as('reader')
                ->getJson("/api/lists/{$list['id']}")
                ->json('items'),
            'ref',
        ),
    )->toBe([$c, $b, $a, $d]);
    $this->postJson("/api/lists/{$list['id']}/freeze", ['on' => true])->assertOk();
    notice($this, 'e.txt');
    expect(
        $this->as('reader')
            ->getJson("/api/lists/{$list['id']}")
            ->json('documents'),
    )->toBe(4);
    $this->postJson("/api/lists/{$list['id']}/documents", ['documents' => [$a]])->assertUnprocessable();
    $check = $this->getJson("/api/lists/{$list['id']}/check")->json('compared');
    expect([$check['new'], $check['gone']])->toBe([1, 0]);
    $other = gathered($this, 'reader', [], 'Second');
    $this->postJson("/api/lists/{$other['id']}/documents", ['list' => $list['id']])->assertJsonPath('added', 4);
    $this->postJson("/api/lists/{$other['id']}/take-out", ['documents' => [$a]])->assertJsonPath('documents', 3);
});

it('says which of the documents that were named are new in a list, so that undoing leaves what was there', function () {
    [$a, $b] = [notice($this, 'a.txt'), notice($this, 'b.txt')];
    $id = gathered($this, 'reader', [$a])['id'];
    $this->postJson("/api/lists/{$id}/documents", ['documents' => [$a, $b, 'D-00009-9']])->assertJson(['added' => 1, 'new' => [$b]]);
    $this->postJson("/api/lists/{$id}/documents", ['documents' => [$a, $b]])->assertJson(['added' => 0, 'new' => []]);
    $this->postJson("/api/lists/{$id}/take-out", ['documents' => [$b]])->assertJsonPath('documents', 1);
});

it('says what belongs to the documents of a list and is not in it', function () {
    $mail =
        "From: a@tarnwick.example\r\nTo: b@tarnwick.example\r\nSubject: Gate\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\nContent-Type: text/plain\r\n\r\nSee attached.\r\n--b\r\nContent-Type: text/plain; name=sketch.txt\r\nContent-Disposition: attachment; filename=sketch.txt\r\n\r\nA sketch.\r\n--b--\r\n";
    $ref = notice($this, 'gate.eml', $mail);
    $old = $this->filed('x', 'old.txt', 'dredging_survey', ['document_date' => ['2020'], 'waterway' => ['tarn-sea']]);
    $new = $this->filed('x', 'new.txt', 'dredging_survey', [
        'document_date' => ['2024'],
        'waterway' => ['tarn-sea'],
        'supersedes' => [$old],
    ]);
    $list = gathered($this, 'clerk', [$ref, $new]);
    $missing = $this->getJson("/api/lists/{$list['id']}/check")->json('missing');
    expect(array_map(static fn (array $m): string => explode(' “', $m['why'])[0], $missing))
        ->toEqualCanonicalizing(['attached to', 'referred to by'])
        ->and(array_column($missing, 'ref'))
        ->toContain($old);
});

it('shows of a shared list what each person may see, and lets only some change it', function () {
    $open = notice($this, 'a.txt');
    $closed = $this->filed(
        'x',
        'b.txt',
        'minute',
        ['document_date' => ['2024'], 'confidentiality' => ['confidential']],
        'board',
        'librarian',
    );
    $list = gathered($this, 'librarian', [$open, $closed]);
    expect($list['documents'])->toBe(2);
    $this->as('reader')
        ->getJson("/api/lists/{$list['id']}")
        ->assertNotFound();
    $this->as('librarian')
        ->putJson("/api/lists/{$list['id']}", [
            'name' => 'Shared',
            'lock_version' => 1,
            'people' => [['sign_in' => 'reader'], ['sign_in' => 'clerk', 'may_change' => true]],
        ])
        ->assertOk();
    $this->putJson("/api/lists/{$list['id']}", ['name' => 'Late', 'lock_version' => 1])->assertConflict();
    $seen = $this->as('reader')
        ->getJson("/api/lists/{$list['id']}")
        ->assertOk()
        ->json();
    expect(array_column($seen['items'], 'ref'))
        ->toBe([$open])
        ->and($seen['documents'])
        ->toBe(1)
        ->and(json_encode($seen))
        ->not->toContain($closed);
    $this->postJson("/api/lists/{$list['id']}/documents", ['documents' => [$open]])->assertUnprocessable();
    $this->deleteJson("/api/lists/{$list['id']}")->assertNotFound();
    $more = notice($this, 'c.txt');
    $this->as('clerk')
        ->postJson("/api/lists/{$list['id']}/documents", ['documents' => [$more]])
        ->assertJsonPath('added', 1);
    // What a reader takes away of it is what a reader may see.
    $files = unpackedZip(Delivery::folder().'/'.delivered($this, 'reader', $list['id'])->file);
    expect(implode(' ', array_keys($files)))->toContain($open)->not->toContain($closed)->and(implode(' ', $files))->not->toContain($closed);
});

it('holds documents against change, for those who may hold', function () {
    $ref = notice($this, 'a.txt');
    $list = gathered($this, 'librarian', [$ref]);
    $this->as('reader')
        ->postJson("/api/lists/{$list['id']}/hold", ['reason' => 'x'])
        ->assertForbidden();
    $this->as('librarian')
        ->postJson("/api/lists/{$list['id']}/hold", ['reason' => 'Claim 17 of the insurer'])
        ->assertOk()
        ->assertJsonPath('hold.reason', 'Claim 17 of the insurer');
    $change = ['type' => 'stoppage_notice', 'values' => ['document_date' => ['2025'], 'waterway' => ['tarn-sea']], 'lock_version' => 1];
    expect(
        $this->as('clerk')
            ->putJson("/api/documents/{$ref}", $change)
            ->assertUnprocessable()
            ->json('error.message'),
    )->toContain('Claim 17');
    $this->as('librarian')
        ->postJson("/api/lists/{$list['id']}/take-out", ['documents' => [$ref]])
        ->assertUnprocessable();
    $this->deleteJson("/api/lists/{$list['id']}")->assertUnprocessable();
    expect($this->getJson("/api/documents/{$ref}")->json('holds'))
        ->toBe(['Claim 17 of the insurer'])
        ->and(array_column($this->getJson("/api/documents/{$ref}/history")->json('history'), 'act'))
        ->toContain('put on hold');
    $this->postJson("/api/lists/{$list['id']}/hold", ['reason' => null])
        ->assertOk()
        ->assertJsonPath('hold', null);
    $this->as('clerk')
        ->putJson("/api/documents/{$ref}", $change)
        ->assertOk();
    $this->as('librarian')
        ->deleteJson("/api/lists/{$list['id']}")
        ->assertNoContent();
    $this->postJson("/api/lists/{$list['id']}/restore")
        ->assertOk()
        ->assertJsonPath('documents', 1);
});

it('delivers a bag whose manifests hold, with Dublin Core, values, query and history', function () {
    $first = $this->filed(
        "Permit\n",
        'same name.txt',
        'mooring_permit',
        ['permit_number' => ['MP-2023-0001'], 'vessel' => ['Marigold Ash'], 'holder' => ['Osric Vane']],
        'harbour',
    );
    $second = notice($this, 'same name.txt', 'Closed');
    $list = gathered($this, 'clerk', [$first, $second]);
    $this->postJson("/api/lists/{$list['id']}/documents", ['search' => ['words' => 'vessel = marigold'], 'keep' => true]);
    $delivery = delivered($this, 'clerk', $list['id'], ['format' => 'bag', 'names' => '{file}', 'levels' => ['library', 'document_date']]);
    expect($delivery->state)
        ->toBe(Delivery::DONE)
        ->and($delivery->sha256)
        ->toBe(hash_file('sha256', Delivery::folder()."/{$delivery->file}"));
    $files = unpackedZip(Delivery::folder()."/{$delivery->file}");
    $root = 'The-failed-gate/';
    expect(array_keys($files))->each->toStartWith($root);
    $bag = collect($files)->mapWithKeys(static fn (string $text, string $path): array => [substr($path, strlen($root)) => $text]);
    expect($bag['bagit.txt'])->toBe("BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n");
    foreach (['sha256', 'sha512'] as $algorithm) {
        $payload = [];
        foreach (['manifest', 'tagmanifest'] as $kind) {
            foreach (explode("\n", trim($bag["{$kind}-{$algorithm}.txt"])) as $line) {
                [$sum, $path] = explode('  ', $line, 2);
                expect(hash($algorithm, $bag[$path]))->toBe($sum, $path);
                $kind === 'manifest' && ($payload[] = $path);
            }
        }
        expect($payload)
            ->toEqualCanonicalizing($bag->keys()->filter(static fn (string $p): bool => str_starts_with($p, 'data/'))->values()->all())
            ->toHaveCount(2);
    }
    // The checkers of checksums that every such system has read the manifests as they are.
    $zip = new ZipArchive();
    $zip->open(Delivery::folder()."/{$delivery->file}");
    $zip->extractTo($out = Delivery::folder().'/out');
    foreach (['manifest-sha256', 'manifest-sha512', 'tagmanifest-sha256', 'tagmanifest-sha512'] as $manifest) {
        $check = new Process([substr($manifest, -6).'sum', '--check', '--strict', '--quiet', "{$manifest}.txt"], "{$out}/{$root}");
        expect($check->run())->toBe(0, $check->getErrorOutput());
    }
    expect($bag['bag-info.txt'])
        ->toContain('Payload-Oxum: '.(strlen("Permit\n") + strlen('Closed')).'.2')
        ->and($bag['data/Harbour/Without Document date/same name.txt'])
        ->toBe("Permit\n")
        ->and($bag['data/Waterways/2024/same name.txt'])
        ->toBe('Closed')
        ->and($bag['metadata/query.cql'])
        ->toBe("vessel = marigold\n")
        ->and($bag["metadata/dublin-core/{$first}.xml"])
        ->toContain("<dc:identifier>{$first}</dc:identifier>")
        ->and($bag['metadata/history.jsonl'])
        ->toContain('"filed"');
    $description = json_decode($bag['metadata/index-values.csv-metadata.json'], true);
    $head = str_getcsv(explode("\r\n", $bag['metadata/index-values.csv'])[0], escape: '');
    expect(array_column($description['tableSchema']['columns'], 'name'))->toBe($head);
    // Sensitive values stay covered in all of it.
    expect($bag->implode(' '))->not->toContain('Osric')->and($bag['metadata/index-values.csv'])->toContain('•••••');
    expect(
        $this->as('clerk')
            ->get("/api/deliveries/{$delivery->id}/file")
            ->assertOk()
            ->headers->get('content-disposition'),
    )->toContain('The-failed-gate.zip');
    $this->as('librarian')
        ->get("/api/deliveries/{$delivery->id}/file")
        ->assertNotFound();
    $delivery->update(['expires_at' => now()->subDay()]);
    $this->as('clerk')
        ->get("/api/deliveries/{$delivery->id}/file")
        ->assertNotFound();
});

it('delivers files, tables and nothing half', function () {
    $list = gathered($this, 'clerk', [notice($this, 'a.txt', 'A'), notice($this, 'b.txt', 'B')]);
    $files = unpackedZip(
        Delivery::folder().'/'.delivered($this, 'clerk', $list['id'], ['format' => 'zip', 'names' => '{title}'])->file,
    );
    expect(array_values($files))
        ->toEqualCanonicalizing(['A', 'B'])
        ->and(count(array_unique(array_keys($files))))
        ->toBe(2);
    $csv = (string) file_get_contents(Delivery::folder().'/'.delivered($this, 'clerk', $list['id'], ['format' => 'csv'])->file);
    expect(substr_count($csv, "\r\n"))->toBe(3);
    expect(unpackedZip(Delivery::folder().'/'.delivered($this, 'clerk', $list['id'], ['format' => 'ods'])->file))->toHaveKeys([
        'mimetype',
        'content.xml',
    ]);
    // One that fails leaves no file and says why. Here the archive cannot be put in its place.
    Illuminate\Support\Facades\Queue::fake();
    $broken = delivered($this, 'clerk', $list['id']);
    Illuminate\Support\Facades\Event::listen('eloquent.updating: '.Delivery::class, static function (Delivery $changed): void {
        if ($changed->done > 0) {
            throw new RuntimeException('file_put_contents(/srv/x): failed');
        }
    });
    try {
        (new App\Retrieve\Deliver($broken->id))->handle(app(DeliveryMaker::class));
    } catch (Throwable $fault) {
        (new App\Retrieve\Deliver($broken->id))->failed($fault);
    }
    expect($broken->refresh()->state)
        ->toBe(Delivery::FAILED)
        ->and($broken->file)
        ->toBeNull()
        ->and(glob(Delivery::folder().'/making-*'))
        ->toBe([]);
    Illuminate\Support\Facades\Event::forget('eloquent.updating: '.Delivery::class);
    expect($broken->message)->toStartWith('It could not be made: ')->toEndWith('. Nothing of it was kept.')->not->toContain('/srv');
    $full = delivered($this, 'clerk', $list['id']);
    (new App\Retrieve\Deliver($full->id))->failed(
        new ErrorException('fwrite(): Write of 90 bytes failed with errno=28 No space left on device'),
    );
    expect($full->refresh()->message)->toBe('It could not be made: the disk is full. Nothing of it was kept.');
    $cancelled = delivered($this, 'clerk', $list['id']);
    $this->as('clerk')
        ->postJson("/api/deliveries/{$cancelled->id}/cancel")
        ->assertOk()
        ->assertJsonPath('state', 'cancelled');
    (new App\Retrieve\Deliver($cancelled->id))->handle(app(DeliveryMaker::class));
    expect($cancelled->refresh()->state)->toBe(Delivery::CANCELLED);
    $empty = gathered($this, 'clerk', []);
    $this->postJson("/api/lists/{$empty['id']}/deliveries", ['format' => 'bag'])->assertUnprocessable();
});

it('gives outsiders a file by a secret address, so often and so long, and tells nothing otherwise', function () {
    $list = gathered($this, 'clerk', [notice($this, 'secret name.txt', 'A')]);
    $delivery = delivered($this, 'clerk', $list['id']);
    $made = $this->as('clerk')
        ->postJson("/api/deliveries/{$delivery->id}/links", ['most_uses' => 2, 'days' => 7, 'password' => 'quayside'])
        ->assertCreated()
        ->json();
    $path = parse_url($made['address'], PHP_URL_PATH);
    expect(SecureLink::query()->value('token_hash'))->not->toContain(basename($path));
    $nothing = $this->get('/outside/none')->assertNotFound()->getContent();
    auth()->logout();
    expect($this->get($path)->assertOk()->getContent())
        ->toContain('password')
        ->not->toContain('secret')
        ->not->toContain('gate');
    $this->post($path, ['password' => 'wrong'])->assertUnprocessable();
    $this->post($path, ['password' => 'quayside'])->assertOk();
    $this->post($path, ['password' => 'quayside'])->assertOk();
    $shown = $this->get($path)->assertNotFound()->getContent();
    // Used up, revoked and never made look the same.
    expect(preg_replace('/value="[^"]+"/', '', $shown))->toBe(preg_replace('/value="[^"]+"/', '', $nothing));
    $this->post($path, ['password' => 'quayside'])->assertNotFound();
    $log = $this->as('clerk')->getJson('/api/links')->json('links.0');
    expect(array_column($log['log'], 'outcome'))
        ->toBe(['closed', 'fetched', 'fetched', 'wrong password'])
        ->and($log['open'])
        ->toBeFalse();
    $ref = DB::table('documents')->where('file_name', 'secret name.txt')->value('ref');
    $other = $this->postJson("/api/documents/{$ref}/links", ['most_uses' => 5, 'days' => 1])
        ->assertCreated()
        ->json();
    $this->postJson("/api/links/{$other['link']['id']}/revoke")->assertOk();
    $this->post((string) parse_url($other['address'], PHP_URL_PATH))->assertNotFound();
    $this->as('reader')
        ->postJson("/api/links/{$other['link']['id']}/revoke")
        ->assertNotFound();
});

it('delivers one PDF with contents, bookmarks and sheets for what has no pages', function () {
    $pdf = new App\Files\PagePdf();
    $pdf->AddPage();
    $pdf->Text(60, 60, 'First page of the survey');
    $pdf->AddPage();
    $pdf->Text(60, 60, 'Second page of the survey');
    $stoppage = ['waterway' => ['tarn-sea'], 'document_date' => ['2024']];
    $refs = [
        $this->filed($pdf->Output('', 'S'), 'survey.pdf', 'stoppage_notice', $stoppage),
        $this->filed("A letter\nof two lines", 'letter.txt', 'stoppage_notice', $stoppage),
        $this->filed('%PDF-1.4 broken', 'broken.pdf', 'stoppage_notice', $stoppage),
        $this->filed("\x89PNG\r\n\x1a\n".'no picture', 'no.bin', 'stoppage_notice', $stoppage),
    ];
    $list = $this->as('clerk')
        ->postJson('/api/lists', ['name' => 'Żółw & Co'])
        ->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => $refs])->assertOk();
    $made = function (string $format, array $more = []) use ($list): string {
        $id = $this->postJson("/api/lists/{$list}/deliveries", ['format' => $format, 'names' => 'Folder/{file}', ...$more])
            ->assertCreated()
            ->json('id');
        expect($this->getJson("/api/deliveries/{$id}")->json())->toMatchArray(['state' => 'done', 'message' => '']);

        return config('brenvic.data')."/deliveries/{$id}.pdf";
    };
    $run = static fn (string ...$command): string => (new Symfony\Component\Process\Process(array_values($command)))->mustRun()->getOutput();
    $path = $made('pdf', ['levels' => ['type']]);
    $run('qpdf', '--check', $path);
    expect($run('pdfinfo', $path))
        ->toMatch('/Pages:\s+6/')
        ->and($run('pdftotext', '-layout', $path, '-'))
        ->toContain('Żółw & Co')
        ->toContain('First page of the survey')
        ->toContain('of two lines')
        ->toContain('goes along as an attached file');
    $attached = $run('pdfdetach', '-list', $path);
    expect($attached)->toContain('broken.pdf')->toContain('no.bin');
    $json = json_decode($run('qpdf', '--json=2', '--json-key=outlines', '--json-key=pages', $path), true);
    expect($json['outlines'][0]['title'])
        ->toBe('Stoppage notice')
        ->and(array_column($json['outlines'][0]['kids'], 'destpageposfrom1'))
        ->toBe([2, 4, 5, 6]);
    // Each line of the contents leads to its document.
    expect(substr_count($run('qpdf', '--qdf', '--object-streams=disable', $path, '-'), '/Subtype /Link'))->toBe(4);
    // A print job has a cover sheet before each, and opens to be printed.
    $print = $made('print');
    expect($run('pdfinfo', $print))
        ->toMatch('/Pages:\s+10/')
        ->and($run('pdftotext', '-f', '2', '-l', '2', $print, '-'))
        ->toContain('2 pages');
    expect($this->get('/api/deliveries/'.basename($print, '.pdf').'/file')->headers->get('Content-Disposition'))->toStartWith('inline');
});

it('sets pictures and letters on pages of one PDF, in many batches as in one, and stops when it is told to', function () {
    $folder = sys_get_temp_dir().'/brenvic-one-'.bin2hex(random_bytes(6));
    mkdir($folder);
    FileMaker::word("{$folder}/letter.docx", ['The weir is to be drawn again']);
    imagepng(imagecreatetruecolor(300, 90), "{$folder}/wide.png");
    $stoppage = ['waterway' => ['tarn-sea'], 'document_date' => ['2024']];
    $refs = array_map(
        fn (string $name): string => $this->filed((string) file_get_contents("{$folder}/{$name}"), $name, 'stoppage_notice', $stoppage),
        ['letter.docx', 'wide.png'],
    );
    // More documents than are joined, or set in contents, at a time.
    for ($i = 0; $i < 120; $i++) {
        $refs[] = $this->filed("Notice number {$i}.", "n{$i}.txt", 'stoppage_notice', $stoppage);
    }
    $list = gathered($this, 'clerk', $refs);
    $delivery = delivered($this, 'clerk', $list['id'], ['format' => 'pdf', 'names' => '{file}']);
    $path = Delivery::folder()."/{$delivery->file}";
    $run = static fn (string ...$command): string => (new Symfony\Component\Process\Process(array_values($command)))->mustRun()->getOutput();
    $run('qpdf', '--check', $path);
    $outline = json_decode($run('qpdf', '--json=2', '--json-key=outlines', $path), true)['outlines'];
    $pages = array_column($outline, 'destpageposfrom1');
    expect($run('pdfinfo', $path))
        ->toMatch('/Pages:\s+126/')
        ->and($pages)
        ->toBe(range(5, 126))
        ->and($run('pdftotext', '-f', '5', '-l', '5', $path, '-'))
        ->toContain('The weir is to be drawn again')
        ->and($run('pdfimages', '-list', '-f', '6', '-l', '6', $path))
        ->toMatch('/ 300 +90 /')
        ->and($run('pdftotext', '-f', '126', '-l', '126', $path, '-'))
        ->toContain('Notice number 119.')
        // The number in the contents is the page that it is.
        ->and($run('pdftotext', '-layout', '-f', '4', '-l', '4', $path, '-'))
        ->toMatch("/^{$refs[121]} .* 126$/m")
        ->and($run('pdfdetach', '-list', $path))
        ->toContain('letter.docx');
    mkdir("{$folder}/bag/data", recursive: true);
    array_map(static fn (array $of): mixed => file_put_contents("{$folder}/bag/{$of['file']}", 'Notice'), $delivery->contents());
    $asked = 0;
    $stopped = (new App\Retrieve\OnePdf($delivery, $folder, false))->make(static function () use (&$asked): bool {
        return ++$asked > 1;
    });
    expect($stopped)->toBeNull()->and($asked)->toBe(1);
    Illuminate\Support\Facades\File::deleteDirectory($folder);
});

it('puts a mail into the outbox with the files, and none that is too large or goes nowhere', function () {
    $ref = $this->filed('Shut on Monday', 'notice.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $list = $this->as('clerk')
        ->postJson('/api/lists', ['name' => 'L'])
        ->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$ref]])->assertOk();
    $this->postJson("/api/lists/{$list}/deliveries", ['format' => 'mail', 'to' => 'nobody', 'subject' => 'x'])
        ->assertUnprocessable()
        ->assertJsonPath('error.fields.to', '“nobody” is not an e-mail address.');
    $this->postJson("/api/lists/{$list}/deliveries", ['format' => 'mail'])->assertUnprocessable();
    $this->postJson("/api/lists/{$list}/deliveries", [
        'format' => 'mail',
        'to' => 'claims@insurer.example, second@insurer.example',
        'subject' => 'Żółw',
        'text' => 'As asked for.',
    ])->assertCreated();
    $mail = $this->getJson('/api/outbox')->assertOk()->json('mails.0');
    expect($mail)
        ->toMatchArray(['subject' => 'Żółw', 'text' => 'As asked for.', 'there' => true])
        ->and($mail['files'][0]['file'])
        ->toBe("{$ref} notice.txt");
    expect($this->as('reader')->getJson('/api/outbox')->json('mails'))->toBe([]);
    $eml = (string) file_get_contents(config('brenvic.data')."/deliveries/{$mail['delivery']}.eml");
    $parsed = ZBateson\MailMimeParser\Message::from($eml, false);
    expect($parsed->getHeaderValue('To'))
        ->toBe('claims@insurer.example')
        ->and($parsed->getHeaderValue('Subject'))
        ->toBe('Żółw')
        ->and($parsed->getTextContent())
        ->toContain('As asked for.')
        ->toContain($ref)
        ->and($parsed->getAttachmentPart(0)->getContent())
        ->toBe('Shut on Monday');
});

it('gives values to archives as they are, to spreadsheets harmless, with labels beside codes where asked', function () {
    $ref = $this->filed(
        'x',
        'tender.txt',
        'tender',
        ['contractor' => ['=cmd|calc'], 'document_date' => ['2024-03-14'], 'amount' => ['48000']],
        'works',
    );
    $note = notice($this, 'a.txt', 'A');
    $list = gathered($this, 'clerk', [$ref, $note]);
    $rows = static function (string $csv): array {
        $lines = array_map(static fn (string $line): array => str_getcsv($line, escape: ''), array_filter(explode("\r\n", $csv)));

        return array_map(static fn (array $line): array => array_combine($lines[0], $line), array_slice($lines, 1));
    };
    $of = static fn (array $rows, string $ref): array => collect($rows)->firstWhere('reference', $ref);
    $bag = unpackedZip(Delivery::folder().'/'.delivered($this, 'clerk', $list['id'], ['format' => 'bag', 'labels' => true])->file);
    $table = collect($bag)->first(fn (string $contents, string $name): bool => str_ends_with($name, 'metadata/index-values.csv'));
    $description = json_decode(
        (string) collect($bag)->first(fn (string $contents, string $name): bool => str_ends_with($name, 'index-values.csv-metadata.json')),
        true,
    );
    expect($of($rows($table), $ref))
        ->toMatchArray(['contractor' => '=cmd|calc', 'amount' => '48000.00'])
        ->and($of($rows($table), $note))
        ->toMatchArray(['waterway' => 'tarn-sea', 'waterway_label' => 'Sea lock pound'])
        ->and($description['dc:description'])
        ->toContain('as they are kept')
        ->and(array_column($description['tableSchema']['columns'], 'name'))
        ->toBe(array_keys($rows($table)[0]));
    $csv = (string) file_get_contents(Delivery::folder().'/'.delivered($this, 'clerk', $list['id'], ['format' => 'csv'])->file);
    expect($of($rows($csv), $ref))
        ->toMatchArray(['contractor' => "'=cmd|calc", 'amount' => '48000.00'])
        ->not->toHaveKey('waterway_label');
    $ods = unpackedZip(Delivery::folder().'/'.delivered($this, 'clerk', $list['id'], ['format' => 'ods', 'labels' => true])->file)[
        'content.xml'
    ];
    expect($ods)
        ->toContain('office:value-type="float" office:value="48000.00"')
        ->toContain('office:date-value="2024-03-14"')
        ->toContain('<text:p>Sea lock pound</text:p>')
        ->toContain('<text:p>=cmd|calc</text:p>');
});

it('mails documents in one step, as copies or as links', function () {
    $one = notice($this, 'heron.txt', 'A heron at the weir');
    $two = notice($this, 'otter.txt', 'An otter');
    $mail = fn (array $more, string $who = 'reader') => $this->as($who)->postJson('/api/documents/mail', [
        'documents' => [$one, $two],
        'how' => 'copies',
        'to' => 'diver@example.org',
        'subject' => 'The weir',
        'text' => 'As asked.',
        ...$more,
    ]);
    $delivery = Delivery::query()->findOrFail($mail([])->assertCreated()->json('delivery'));
    $sent = (string) file_get_contents(Delivery::folder()."/{$delivery->file}");
    expect($delivery->state)
        ->toBe(Delivery::DONE)
        ->and($sent)
        ->toContain('To: diver@example.org')
        ->toContain('Subject: The weir')
        ->and(substr_count($sent, 'Content-Disposition: attachment'))
        ->toBe(2)
        // It is among nobody's lists.
        ->and($this->getJson('/api/lists')->json('lists'))
        ->toBe([]);
    expect(array_column($this->getJson('/api/outbox')->json('mails.0.files'), 'ref'))->toBe([$one, $two]);

    $mail(['how' => 'links', 'documents' => [$one]])->assertCreated()->assertJsonPath('delivery', null);
    $text = (string) $this->getJson('/api/outbox')->json('mails.0.text');
    expect($text)->toStartWith('As asked.')->and(preg_match('#/outside/(\w{40})#', $text, $m))->toBe(1);
    $this->post('/api/session');
    $this->post("/outside/{$m[1]}")->assertOk()->assertHeader('Content-Disposition');
    expect(SecureLink::query()->sole())->most_uses->toBe(5)->uses->toBe(1);
});

it('sends nothing that is faulty, not seen, or too much', function () {
    $ref = notice($this, 'heron.txt', 'A heron');
    $hidden = secretByelaw($this);
    $mail = fn (array $more) => $this->as('reader')->postJson('/api/documents/mail', [
        'documents' => [$ref],
        'how' => 'links',
        'to' => 'diver@example.org',
        'subject' => 'The weir',
        ...$more,
    ]);
    foreach (
        [
            ['to' => ''],
            ['to' => 'diver'],
            ['subject' => ' '],
            ['documents' => []],
            ['how' => 'post'],
            ['documents' => array_fill(0, 41, $ref)],
            ['documents' => [$ref, $hidden]],
            ['documents' => [$ref, 'D-99999-X']],
        ] as $more
    ) {
        $mail($more)->assertUnprocessable();
    }
    // What one may not see is as if it were not there.
    expect($mail(['documents' => [$hidden]])->json('error.message'))->toBe($mail(['documents' => ['D-99999-X']])->json('error.message'));
    expect(DB::table('outbox')->count())->toBe(0)->and(SecureLink::query()->count())->toBe(0);
});

it('says who may see a document, to those who file', function () {
    $open = notice($this, 'heron.txt', 'A heron');
    $hidden = secretByelaw($this);
    $this->as('reader')->getJson("/api/documents/{$open}/sight")->assertForbidden();
    $this->as('clerk')->getJson("/api/documents/{$hidden}/sight")->assertNotFound();
    foreach ([$open, $hidden] as $ref) {
        $told = $this->as('librarian')->getJson("/api/documents/{$ref}/sight")->assertOk()->json();
        // Held against what each of them is shown.
        $may = User::query()
            ->orderBy('name')
            ->get()
            ->filter(fn (User $u): bool => $this->as($u->sign_in)->getJson("/api/documents/{$ref}")->status() === 200)
            ->pluck('name');
        expect(array_column($told['people'], 'name'))->toBe($may->values()->all())->and($told['of'])->toBe(User::query()->count());
    }
});
