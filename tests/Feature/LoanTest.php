<?php

declare(strict_types=1);

use App\Loans\ReturnLoan;
use App\Models\Loan;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\Queue;

beforeEach(function () {
    $this->ref = $this->filed('The sluice is shut.', 'notice.txt', 'stoppage_notice', [
        'waterway' => ['tarn-sea'],
        'document_date' => ['2024'],
    ]);
    $this->lend = fn (array $more = []) => $this->as('clerk')->postJson("/api/documents/{$this->ref}/loans", [
        'borrower' => 'Holm Masonry',
        ...$more,
    ]);
    $this->outside = fn (): string => (string) parse_url(
        (string) $this->as('clerk')
            ->getJson("/api/documents/{$this->ref}/loans")
            ->json('loans.0.address'),
        PHP_URL_PATH,
    );
    $this->changeOutside = fn (string $contents) => $this->post(($this->outside)(), [
        'file' => UploadedFile::fake()->createWithContent('notice-new.txt', $contents),
    ])->assertRedirect();
    $this->version = function (string $contents): void {
        $this->as('clerk')
            ->postJson("/api/documents/{$this->ref}/check-out")
            ->assertOk();
        $this->post(
            "/api/documents/{$this->ref}/check-in",
            ['file' => UploadedFile::fake()->createWithContent('notice.txt', $contents)],
            ['Accept' => 'application/json'],
        )->assertOk();
    };
});

it('lends a copy, shows how it is out there, and takes it back as a new version', function () {
    ($this->lend)(['borrower' => ''])->assertUnprocessable();
    ($this->lend)(['due_on' => '2001-01-01'])->assertUnprocessable();
    ($this->lend)()->assertOk()->assertJsonPath('loans.0.copy', 'unchanged');
    auth()->logout();
    $this->get(($this->outside)())->assertOk()->assertSee('notice.txt')->assertSee('Tarnwick');
    expect(
        $this->get(($this->outside)().'/file')
            ->assertOk()
            ->baseResponse->getFile()
            ->getContent(),
    )->toBe('The sluice is shut.');
    ($this->changeOutside)('The weir is shut.');
    expect(
        $this->as('clerk')
            ->getJson("/api/documents/{$this->ref}/loans")
            ->json('loans.0.copy'),
    )->toBe('changed');
    $address = ($this->outside)();
    $id = Loan::query()->value('id');
    $this->postJson("/api/documents/{$this->ref}/loans/{$id}/return")
        ->assertOk()
        ->assertJsonPath('loans.0.state', 'returned')
        ->assertJsonPath('version', 2);
    expect($this->getJson("/api/documents/{$this->ref}/versions")->json('versions.0'))
        ->toMatchArray(['note' => 'Returned by Holm Masonry', 'file_name' => 'notice-new.txt'])
        ->and($this->search(['words' => 'weir'])->json('total'))
        ->toBe(1);
    // What is over tells nothing.
    $this->get($address)->assertNotFound()->assertDontSee('notice');
    $this->get("{$address}/file")->assertNotFound();
    $this->post($address, ['file' => UploadedFile::fake()->createWithContent('x.txt', 'x')])->assertNotFound();
    $this->as('clerk')
        ->postJson("/api/documents/{$this->ref}/loans/{$id}/return")
        ->assertUnprocessable();
});

it('gives the place of a copy only to those who may change the document, and says what came from outside', function () {
    ($this->lend)()->assertOk();
    expect(
        $this->as('reader')
            ->getJson("/api/documents/{$this->ref}/loans")
            ->assertOk()
            ->json('loans.0'),
    )
        ->toMatchArray(['borrower' => 'Holm Masonry', 'address' => null])
        ->and(
            $this->as('manager')
                ->getJson("/api/documents/{$this->ref}/loans")
                ->assertOk()
                ->json('loans.0.address'),
        )
        ->toBeNull();
    auth()->logout();
    ($this->changeOutside)('The weir is shut.');
    $id = Loan::query()->value('id');
    $this->as('librarian')
        ->postJson("/api/documents/{$this->ref}/loans/{$id}/return")
        ->assertOk();
    $today = now()->format('j M Y');
    $history = array_map(
        static fn (array $entry): array => [$entry['act'], $entry['by'], $entry['through']],
        $this->getJson("/api/documents/{$this->ref}/history")->json('history'),
    );
    expect($history)
        ->toContain(['lent copy changed', null, "from outside, through the loan to Holm Masonry of {$today}"])
        ->toContain(['given a new version', 'Ottoline Marsh', "from outside, through the loan to Holm Masonry of {$today}"]);
    $this->artisan('brenvic:history:verify')->assertSuccessful();
});

it('overwrites nothing when a newer version was made in the meantime', function () {
    ($this->lend)()->assertOk();
    ($this->changeOutside)('Outside');
    ($this->version)('Inside');
    $id = Loan::query()->value('id');
    $this->as('clerk')
        ->postJson("/api/documents/{$this->ref}/loans/{$id}/return")
        ->assertOk()
        ->assertJsonPath('loans.0.state', 'conflict')
        ->assertJsonPath('version', 2);
    $this->postJson("/api/documents/{$this->ref}/loans/{$id}/return", ['anyway' => true])
        ->assertOk()
        ->assertJsonPath('version', 3);
    expect(array_column($this->getJson("/api/documents/{$this->ref}/versions")->json('versions'), 'number'))->toBe([3, 2, 1]);
});

it('comes back by itself on its day, or says what stands in the way', function () {
    Queue::fake();
    ($this->lend)(['due_on' => now()->addDays(3)->format('Y-m-d')])->assertOk();
    Queue::assertPushed(ReturnLoan::class, fn (ReturnLoan $job): bool => $job->delay instanceof DateTimeInterface && now()->addDays(3)->isSameDay($job->delay));
    $loan = Loan::query()->firstOrFail();
    $list = $this->as('librarian')
        ->postJson('/api/lists', ['name' => 'Case'])
        ->json('id');
    $this->postJson("/api/lists/{$list}/documents", ['documents' => [$this->ref]])->assertOk();
    $this->postJson("/api/lists/{$list}/hold", ['reason' => 'Claim'])->assertOk();
    ($this->changeOutside)('Outside');
    app()->call([new ReturnLoan($loan->id), 'handle']);
    expect($loan->refresh()->state)->toBe(Loan::LENT)->and($loan->says)->toContain('Claim');
    $this->as('librarian')
        ->postJson("/api/lists/{$list}/hold", ['reason' => null])
        ->assertOk();
    app()->call([new ReturnLoan($loan->id), 'handle']);
    expect($loan->refresh()->state)->toBe(Loan::RETURNED)->and($loan->returned_version)->toBe(2);
});

it('makes no version of a copy that was lent in part, and ends a loan without one', function () {
    $places = $this->as('librarian')
        ->postJson("/api/documents/{$this->ref}/redactions/find", ['words' => ['sluice']])
        ->json('places');
    $this->postJson("/api/documents/{$this->ref}/redactions", ['version' => 1, 'reason' => 'security', 'marks' => $places])->assertOk();
    ($this->lend)(['form' => 'redacted'])->assertOk();
    expect(
        $this->get(($this->outside)().'/file')
            ->baseResponse->getFile()
            ->getContent(),
    )->toBe("The ████ is shut.\n");
    ($this->changeOutside)('The ████ is open.');
    $id = Loan::query()->value('id');
    $this->as('clerk')
        ->postJson("/api/documents/{$this->ref}/loans/{$id}/return")
        ->assertUnprocessable();
    $this->postJson("/api/documents/{$this->ref}/loans/{$id}/end")
        ->assertOk()
        ->assertJsonPath('loans.0.state', 'ended')
        ->assertJsonPath('version', 1);
    $this->as('reader')
        ->getJson("/api/documents/{$this->ref}/loans")
        ->assertNotFound();
});
