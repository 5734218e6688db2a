<?php

declare(strict_types=1);

use App\Alarms\Alarms;
use App\Capture\DrawOffice;
use App\Capture\LayText;
use App\Capture\ReadText;
use App\Catalog\DesignTables;
use App\Copies\PrintTexts;
use App\Design\ProposeDesign;
use App\Design\Reindex;
use App\Disposal\WorkOnDisposal;
use App\Fixity\ReadFiles;
use App\Holds\LookForHeld;
use App\Import\WorkOnBringing;
use App\Index\CompareIndex;
use App\Index\RebuildIndex;
use App\Intake\ChangeValues;
use App\Intake\ManyValues;
use App\Jobs\BackgroundJob;
use App\Jobs\Urgency;
use App\Jobs\Workers;
use App\Loans\ReturnLoan;
use App\Models\Bringing;
use App\Models\Delivery;
use App\Models\Document;
use App\Models\Hold;
use App\Models\Loan;
use App\Models\Proposal;
use App\Models\Reindexing;
use App\Models\Scan;
use App\Models\ValueAct;
use App\Models\Webhook;
use App\Procedures\CarryOn;
use App\Procedures\Cases;
use App\Procedures\LookForCases;
use App\Redaction\MakeRedacted;
use App\Reports\SendReport;
use App\Retrieve\Deliver;
use App\Scanning\ScanStack;
use App\Sorting\LookAtPages;
use App\Support\LockingConnection;
use App\Support\Refused;
use App\Webhooks\TellPrograms;
use Brenvic\Core\Design\DesignChange;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\ProcedurePart;
use Illuminate\Queue\MaxAttemptsExceededException;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

/** @return list<class-string<BackgroundJob>> */
function jobClasses(): array
{
    $classes = [];
    foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator(app_path(), FilesystemIterator::SKIP_DOTS)) as $file) {
        $class = 'App\\'.strtr(substr((string) $file, strlen(app_path()) + 1, -4), '/', '\\');
        if (str_ends_with((string) $file, '.php') && is_subclass_of($class, BackgroundJob::class)) {
            $classes[] = $class;
        }
    }

    return $classes;
}

it('knows every kind of work, so that none is left undone', function () {
    expect(App\Jobs\Orphans::kinds())->toEqualCanonicalizing(jobClasses())->not->toBe([]);
});

beforeEach(function () {
    $this->ref = $this->filed('The sluice is shut.', 'n.txt', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $this->document = Document::query()->where('ref', $this->ref)->firstOrFail();
    /** For each job: one of it, and what somebody sees of it when it was given up. */
    $this->jobs = [
        ChangeValues::class => function (): array {
            $act = ValueAct::query()->create(['user_id' => 1, 'field' => 'condition', 'how' => 'clear', 'total' => 1]);

            return [new ChangeValues($act->id), fn (): string => $act->refresh()->stopped];
        },
        Deliver::class => function (): array {
            $list = $this->as('clerk')
                ->postJson('/api/lists', ['name' => 'L'])
                ->json('id');
            $delivery = Delivery::query()->create([
                'pull_list_id' => $list,
                'user_id' => 2,
                'name' => 'L',
                'format' => 'zip',
                'settings' => [],
            ]);

            return [new Deliver($delivery->id), fn (): string => "{$delivery->refresh()->state}: {$delivery->message}"];
        },
        MakeRedacted::class => function (): array {
            Queue::fake();
            $places = $this->as('librarian')
                ->postJson("/api/documents/{$this->ref}/redactions/find", ['words' => ['sluice']])
                ->json('places');
            $this->postJson("/api/documents/{$this->ref}/redactions", ['version' => 1, 'reason' => 'security', 'marks' => $places])
                ->assertOk()
                ->assertJsonPath('copy.state', 'making');

            return [
                new MakeRedacted($this->document->id),
                fn (): string => (string) $this->getJson("/api/documents/{$this->ref}/redactions")
                    ->assertJsonPath('copy.state', 'failed')
                    ->json('copy.says'),
            ];
        },
        ProposeDesign::class => function (): array {
            $proposal = Proposal::query()->create(['user_id' => 1, 'name' => 'x', 'file_name' => 'x.csv']);

            return [new ProposeDesign($proposal->id), fn (): string => "{$proposal->refresh()->state}: {$proposal->says}"];
        },
        WorkOnBringing::class => function (): array {
            $bringing = Bringing::query()->create([
                'user_id' => 1,
                'library_id' => 1,
                'what' => Proposal::TABLE,
                'file_name' => 'x.csv',
                'mapping' => '',
            ]);

            return [new WorkOnBringing($bringing->id), fn (): string => "{$bringing->refresh()->state}: {$bringing->says}"];
        },
        LookAtPages::class => function (): array {
            DB::table('page_looks')->insert(['sha256' => $this->document->sha256, 'pages' => 1, 'asked_at' => now()]);
            $id = (int) DB::table('page_looks')->value('id');

            return [new LookAtPages($id), fn (): string => (string) DB::table('page_looks')->where('id', $id)->value('says')];
        },
        ScanStack::class => function (): array {
            $scan = Scan::query()->create([
                'user_id' => 2,
                'source' => 'x',
                'settings' => ['dots' => 100, 'colour' => false, 'duplex' => false, 'fed' => true],
                'state' => Scan::RUNNING,
            ]);

            return [new ScanStack($scan->id), fn (): string => "{$scan->refresh()->state}: {$scan->says}"];
        },
        LayText::class => function (): array {
            $this->document->update(['wants_layer' => true]);

            return [new LayText($this->document->id), fn (): string => $this->document->refresh()->text_reason];
        },
        PrintTexts::class => function (): array {
            $this->document->update(['text_state' => Document::TEXT_READ, 'text_print' => null]);

            return [new PrintTexts($this->document->id), fn (): string => $this->document->refresh()->text_reason];
        },
        DrawOffice::class => function (): array {
            $this->document->update(['file_kind' => 'docx', 'drawn_pages' => null]);

            return [new DrawOffice($this->document->id), fn (): string => $this->document->refresh()->text_reason];
        },
        ReadText::class => function (): array {
            $this->document->update(['text_state' => Document::TEXT_PENDING]);

            return [new ReadText($this->document->id), fn (): string => $this->document->refresh()->text_reason];
        },
        Reindex::class => function (): array {
            $work = Reindexing::query()->create(['name' => 'x', 'fields' => [], 'types' => [], 'dossier_kinds' => [], 'total' => 1]);

            return [new Reindex($work->id), fn (): string => "{$work->refresh()->state}: {$work->says}"];
        },
        CarryOn::class => function (): array {
            Queue::fake();
            $content = ['name' => 'Filed', 'types' => [], 'begins' => 'hand', 'criterion' => '', 'keepers' => 'Records office', 'steps' => [
                ['code' => 'lock', 'name' => 'Locked', 'kind' => 'act', 'acts' => [['kind' => 'lock']], 'ways' => [['to' => 'done']]],
                ['code' => 'done', 'name' => 'Done', 'kind' => 'end'],
            ]];
            app(DesignTables::class)->apply(new DesignChange(DesignKind::Procedure, 'filed', null, $content), 1);
            app()->forgetScopedInstances();
            $case = app(Cases::class)->begin(ProcedurePart::of('filed', $content), $this->document->refresh(), null);

            return [new CarryOn($case->id), fn (): string => $case->refresh()->fault];
        },
        WorkOnDisposal::class => function (): array {
            Queue::fake();
            $id = $this->as('librarian')
                ->postJson('/api/oversight/disposals', ['name' => 'Old', 'action' => 'destroy', 'until' => '2030-01-01'])
                ->json('id');

            return [new WorkOnDisposal($id), fn (): string => $this->getJson("/api/oversight/disposals/{$id}")->json('says')];
        },
        ReadFiles::class => fn (): array => [new ReadFiles(), fn (): string => Alarms::open()[0]['says'] ?? ''],
        RebuildIndex::class => fn (): array => [new RebuildIndex(), fn (): string => Alarms::open()[0]['says'] ?? ''],
        CompareIndex::class => fn (): array => [new CompareIndex(), fn (): string => Alarms::open()[0]['says'] ?? ''],
        TellPrograms::class => function (): array {
            $hook = Webhook::query()->create([
                'user_id' => 1, 'name' => 'H', 'address' => 'http://a.example', 'secret' => 's', 'kinds' => ['filed'], 'told_to' => 0, 'made_at' => now(),
            ]);

            return [new TellPrograms($hook->id), fn (): string => (string) $hook->refresh()->fault];
        },
        SendReport::class => fn (): array => [new SendReport(1), fn (): string => Alarms::open()[0]['says'] ?? ''],
        LookForHeld::class => function (): array {
            Hold::query()->create(['name' => 'H', 'reason' => 'x', 'owner_id' => 1, 'from' => now(), 'wants_look' => true]);

            return [new LookForHeld(), fn (): string => Alarms::open()[0]['says'] ?? ''];
        },
        LookForCases::class => fn (): array => [new LookForCases(), fn (): string => Alarms::open()[0]['says'] ?? ''],
        ReturnLoan::class => function (): array {
            $this->as('clerk')
                ->postJson("/api/documents/{$this->ref}/loans", ['borrower' => 'Holm Masonry'])
                ->assertOk();

            return [new ReturnLoan((int) Loan::query()->value('id')), fn (): string => (string) Loan::query()->value('says')];
        },
    ];
});

it('holds the one rule for every job: reserved for longer than it may take, few tries, a last state that somebody sees', function () {
    expect(jobClasses())->toEqualCanonicalizing(array_keys($this->jobs));
    foreach (jobClasses() as $class) {
        expect(is_subclass_of($class, BackgroundJob::class))->toBeTrue($class);
        [$job, $seen] = $this->jobs[$class]();
        expect($job->timeout + 60)
            ->toBeLessThan((int) config('queue.connections.database.retry_after'), $class)
            ->and($job->tries)
            ->toBeLessThanOrEqual(3);
        $job->failed(new RuntimeException('fopen(/srv/secret/place): Permission denied'));
        expect($seen())->toContain('fault in the program')->not->toContain('/srv', $class);
    }
});

it('says why work was given up, in words', function () {
    expect(BackgroundJob::reason(new MaxAttemptsExceededException('App\Jobs\X has been attempted too many times')))
        ->toBe('it was stopped twice, by running out of time or memory')
        ->and(
            BackgroundJob::reason(
                new RuntimeException('file_put_contents(): Write of 8192 bytes failed with errno=28 No space left on device'),
            ),
        )
        ->toBe('the disk is full')
        ->and(BackgroundJob::reason(new PDOException('SQLSTATE[HY000]: General error: 13 database or disk is full')))
        ->toBe('the disk is full')
        ->and(BackgroundJob::reason(new Refused('The list is frozen.')))
        ->toBe('The list is frozen')
        ->and(BackgroundJob::reason(null))
        ->toContain('stopped twice');
});

it('goes on with an act on values, and makes a redacted copy, when somebody says so', function () {
    Queue::fake();
    $act = ValueAct::query()->create(['user_id' => 2, 'field' => 'condition', 'how' => 'clear', 'total' => 1, 'stopped' => 'It stopped.']);
    $this->as('librarian')
        ->postJson("/api/value-acts/{$act->id}/go-on")
        ->assertNotFound();
    $this->as('clerk')
        ->postJson("/api/value-acts/{$act->id}/go-on")
        ->assertStatus(202)
        ->assertJsonPath('stopped', '');
    $this->postJson("/api/value-acts/{$act->id}/go-on")->assertStatus(202);
    Queue::assertPushed(ChangeValues::class, 1);
    [$job] = $this->jobs[MakeRedacted::class]();
    $job->failed(null);
    $this->as('reader')
        ->postJson("/api/documents/{$this->ref}/redactions/again")
        ->assertForbidden();
    $this->as('librarian')
        ->postJson("/api/documents/{$this->ref}/redactions/again")
        ->assertOk()
        ->assertJsonPath('copy.state', 'making');
    Queue::assertPushedOn(Urgency::Awaited->value, MakeRedacted::class);
    app()->call([new MakeRedacted($this->document->id), 'handle']);
    $this->getJson("/api/documents/{$this->ref}/redactions")->assertJsonPath('copy.state', 'ready');
});

it('takes fresh files of one person before the twentieth and later of another, and large work last', function () {
    Queue::fake();
    for ($i = 0; $i < 23; $i++) {
        $this->upload("File {$i}", "f{$i}.pdf")->assertCreated();
    }
    $pushed = Queue::pushed(ReadText::class)->map(fn (ReadText $job): ?string => $job->queue)->countBy();
    expect($pushed->all())->toBe(['started' => 20, 'bulk' => 3]);
    $this->as('librarian')
        ->post(
            '/api/intake',
            ['library' => 'waterways', 'file' => Illuminate\Http\UploadedFile::fake()->createWithContent('mine.pdf', 'x')],
            ['Accept' => 'application/json'],
        )
        ->assertCreated();
    expect(Queue::pushed(ReadText::class)->last()->queue)
        ->toBe('started')
        ->and([Urgency::of(4), Urgency::of(400), Urgency::of(4_000)])
        ->toBe([Urgency::Awaited, Urgency::Started, Urgency::Bulk]);
});

it('gives others their turn during long acts', function () {
    Queue::fake();
    $act = ValueAct::query()->create(['user_id' => 1, 'field' => 'condition', 'how' => 'clear', 'total' => 5_000]);
    ChangeValues::begin($act);
    Queue::assertPushedOn('bulk', ChangeValues::class);
    // Nothing is left to do: the act ends, and no further turn is asked for.
    app()->call([new ChangeValues($act->id), 'handle'], ['many' => app(ManyValues::class)]);
    expect($act->refresh()->state)->toBe(ValueAct::DONE);
    Queue::assertPushed(ChangeValues::class, 1);
});

it('frees the job of a worker that died, and only that one', function () {
    putenv('BRENVIC_WORKER=1');
    $job = static fn (): int => (int) DB::table('jobs')->insertGetId([
        'queue' => 'started',
        'payload' => '{}',
        'attempts' => 1,
        'reserved_at' => time(),
        'available_at' => time(),
        'created_at' => time(),
    ]);
    [$dead, $other] = [$job(), $job()];
    Illuminate\Support\Facades\File::ensureDirectoryExists(config('brenvic.data').'/workers');
    file_put_contents(config('brenvic.data').'/workers/1', (string) $dead);
    Workers::free();
    putenv('BRENVIC_WORKER');
    expect(DB::table('jobs')->where('id', $dead)->value('reserved_at'))
        ->toBeNull()
        ->and(DB::table('jobs')->where('id', $dead)->value('attempts'))
        ->toBe(1)
        ->and(DB::table('jobs')->where('id', $other)->value('reserved_at'))
        ->not->toBeNull()
        ->and(is_file(config('brenvic.data').'/workers/1'))
        ->toBeFalse();
});

it('begins transactions again after one could not begin', function () {
    $file = tempnam(sys_get_temp_dir(), 'locked');
    $open = static function () use ($file): LockingConnection {
        $pdo = new PDO("sqlite:{$file}", options: [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION, PDO::ATTR_TIMEOUT => 0]);

        return new LockingConnection($pdo, $file);
    };
    $one = $open();
    $one->statement('CREATE TABLE t (a)');
    $holder = new PDO("sqlite:{$file}");
    $holder->exec('BEGIN IMMEDIATE');
    for ($i = 0; $i < 2; $i++) {
        expect(fn () => $one->transaction(static fn () => $one->insert('INSERT INTO t VALUES (1)')))->toThrow(Exception::class, 'locked');
    }
    $holder->exec('COMMIT');
    $one->transaction(static fn () => $one->insert('INSERT INTO t VALUES (2)'));
    expect($one->table('t')->pluck('a')->all())->toBe([2]);
    unlink($file);
});

it('says how much of a file was read', function () {
    config(['brenvic.limits.text_bytes' => 1_000_000, 'brenvic.limits.attachments' => 2]);
    $of = function (string $contents, string $name): Document {
        $ref = $this->upload($contents, $name)->assertCreated()->json('ref');

        return Document::query()->where('ref', $ref)->firstOrFail();
    };
    expect($of(str_repeat("The weir is low.\n", 150_000), 'long.txt')->text_reason)->toContain('Only the first 1 of 3 MB were read');
    $mail =
        "From: a@b.example\r\nSubject: Much\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=x\r\n\r\n--x\r\nContent-Type: text/plain\r\n\r\nHello\r\n";
    for ($i = 0; $i < 5; $i++) {
        $mail .= "--x\r\nContent-Type: text/plain; name=\"{$i}.txt\"\r\nContent-Disposition: attachment; filename=\"{$i}.txt\"\r\n\r\nFile {$i}\r\n";
    }
    expect($of("{$mail}--x--\r\n", 'm.eml')->text_reason)->toContain('2 of 5 attachments were brought in');
    config(['brenvic.limits.pages' => 2]);
    $pdf = new TCPDF();
    for ($i = 1; $i <= 3; $i++) {
        $pdf->AddPage();
        $pdf->Write(0, "Page {$i}");
    }
    expect($of((string) $pdf->Output('x.pdf', 'S'), 'x.pdf')->text_reason)->toContain('Only the first 2 of 3 pages were read');
});

it('begins work once more that nobody does, and gives it up when it is left again', function () {
    Queue::fake();
    $list = $this->as('clerk')
        ->postJson('/api/lists', ['name' => 'L'])
        ->json('id');
    $delivery = Delivery::query()->create(['pull_list_id' => $list, 'user_id' => 2, 'name' => 'L', 'format' => 'zip', 'settings' => []]);
    $this->document->update(['text_state' => Document::TEXT_PENDING]);
    App\Jobs\Orphans::adopt();
    // It may still be on its way.
    Queue::assertNothingPushed();
    $this->travel(5)->minutes();
    // What has a job is left to it.
    DB::table('jobs')->insert([
        'queue' => 'started',
        'payload' => json_encode(['data' => ['command' => serialize(new ReadText($this->document->id))]]),
        'attempts' => 1,
        'reserved_at' => time(),
        'available_at' => time(),
        'created_at' => time(),
    ]);
    App\Jobs\Orphans::adopt();
    Queue::assertPushed(Deliver::class, 1);
    Queue::assertNotPushed(ReadText::class);
    App\Jobs\Orphans::adopt();
    Queue::assertPushed(Deliver::class, 1);
    expect($delivery->refresh()->state)->toBe(Delivery::FAILED)->and($delivery->message)->toContain('stopped twice');
    DB::table('jobs')->delete();
    App\Jobs\Orphans::adopt();
    Queue::assertPushed(ReadText::class, 1);
    App\Jobs\Orphans::adopt();
    expect($this->document->refresh()->text_state)->toBe(Document::TEXT_NONE);
});

/** A PDF of many pages, each with its number in words of its own; some turned. */
function longPdf(int $pages): string
{
    $pdf = new TCPDF('P', 'pt', 'A5');
    $pdf->setPrintHeader(false);
    $pdf->setPrintFooter(false);
    $pdf->setFont('helvetica', '', 12);
    for ($page = 1; $page <= $pages; $page++) {
        $pdf->AddPage('P', ['Rotate' => $page % 7 === 0 ? 90 : 0]);
        $pdf->Text(60, 60, "Sheet number{$page} of the gate book");
    }

    return $pdf->Output('', 'S');
}

it('reads long documents in pieces, each whole, and lets others have their turn between', function () {
    Illuminate\Support\Facades\Queue::fake();
    $this->upload(longPdf(130), 'book.pdf')->assertCreated();
    $document = Document::query()->where('file_name', 'book.pdf')->firstOrFail();
    $state = fn (): array => Document::query()
        ->findOrFail($document->id)
        ->only(['text_state', 'text_reason', 'page_count']);
    $run = function () use ($document): void {
        $job = new ReadText($document->id);
        $job->queue = 'bulk';
        $job->handle(app(App\Capture\TextReading::class));
    };
    // Not on the queue of what people wait for.
    $awaited = new ReadText($document->id);
    $awaited->queue = 'started';
    $awaited->handle(app(App\Capture\TextReading::class));
    expect(DB::table('pages')->where('document_id', $document->id)->count())->toBe(0);
    $run();
    expect($state())
        ->toMatchArray(['text_state' => 'pending', 'text_reason' => '50 of 130 pages are read so far.'])
        ->and(DB::table('pages')->where('document_id', $document->id)->count())
        ->toBe(50);
    $run();
    Illuminate\Support\Facades\Queue::assertPushed(ReadText::class, 4);
    $run();
    expect($state())->toBe(['text_state' => 'read', 'text_reason' => '', 'page_count' => 130]);
    // Each page is what reading it all at once makes of it.
    $whole = app(App\Capture\Extractor::class)->extract($document->sha256, Brenvic\Core\Capture\FileKind::Pdf)->pages;
    $pages = App\Models\Page::query()->where('document_id', $document->id)->orderBy('number')->get();
    foreach ($whole as $i => $page) {
        expect([$pages[$i]->number, strtok($pages[$i]->text, "\n"), $pages[$i]->width, $pages[$i]->height])
            ->toBe([$i + 1, 'Sheet number'.($i + 1).' of the gate book', $page->width, $page->height])
            ->and(count(App\Files\PageStore::page($pages[$i])->words))
            ->toBe(count($page->words));
    }
    $run();
    expect($state()['page_count'])->toBe(130);
});

it('says in the history what of a file was not read', function () {
    config(['brenvic.limits.pages' => 110]);
    $ref = $this->filed(longPdf(130), 'book.pdf', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    $history = $this->as('librarian')
        ->getJson("/api/documents/{$ref}/history")
        ->json('history');
    expect(collect($history)->firstWhere('act', 'not all of it read'))
        ->toMatchArray(['by' => null, 'through' => 'Only the first 110 of 130 pages were read; words further on are not found.'])
        ->and($this->search(['words' => 'number110'])->json('total'))
        ->toBe(1)
        ->and($this->search(['words' => 'number111'])->json('total'))
        ->toBe(0);
    $mail =
        "From: a@b.example\r\nSubject: Sheets\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=x\r\n\r\n--x\r\nContent-Type: text/plain\r\n\r\nHere\r\n";
    foreach (range(1, 4) as $i) {
        $mail .= "--x\r\nContent-Type: text/plain\r\nContent-Disposition: attachment; filename=\"{$i}.txt\"\r\n\r\nSheet {$i}\r\n";
    }
    config(['brenvic.limits.attachments' => 3]);
    $ref = $this->filed("{$mail}--x--\r\n", 'm.eml', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    expect(
        collect(
            $this->as('librarian')
                ->getJson("/api/documents/{$ref}/history")
                ->json('history'),
        )->firstWhere('act', 'not all of it read')['through'],
    )->toContain('3 of 4 attachments');
    expect(App\History\History::verify()['broken'])->toBeNull();
});
