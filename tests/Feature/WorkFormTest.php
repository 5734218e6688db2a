<?php

declare(strict_types=1);

use App\Models\Document;
use App\Models\ProcedureCase;
use Demo\Procedures;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use Illuminate\Testing\TestResponse;

/** The address of a published form. @param  array<string, mixed>  $more */
function formAddress(array $more = []): string
{
    test()->as('librarian')->postJson('/api/design/work_forms', [
        'code' => 'broken',
        'name' => 'Report of a fault',
        'intro' => 'Tell us <b>what</b> happened.',
        'thanks' => 'We look at it today.',
        'library' => 'harbour',
        'types' => ['incident_report'],
        'fields' => [['code' => 'place', 'required' => true], ['code' => 'document_date', 'required' => true], ['code' => 'severity']],
        'files' => 2,
        'group' => 'Records office',
        'goes' => 'intake',
        ...$more,
    ])->assertCreated();
    test()->publish()->assertCreated();
    $address = test()->as('librarian')->postJson('/api/design/work_forms/broken/address')->assertOk()->json('address');
    app('auth')->forgetGuards();

    return (string) parse_url($address, PHP_URL_PATH);
}

/** What the page says of when it was opened. */
function openedPage(string $address): string
{
    preg_match('/name="opened" value="([^"]+)"/', (string) test()->get($address)->assertOk()->getContent(), $m);

    return $m[1];
}

/** @param  array<string, mixed>  $more */
function sendForm(string $address, array $more = [], int $after = 5): TestResponse
{
    $opened = openedPage($address);
    test()->travel($after)->seconds();

    return test()->post($address, [
        'opened' => $opened,
        'website' => '',
        'field' => ['place' => 'Coal basin', 'document_date' => '2026-03-02', 'severity' => 'serious'],
        ...$more,
    ]);
}

it('takes what somebody outside sends into intake, with the files', function () {
    $address = formAddress();
    expect((string) $this->get($address)->getContent())->toContain('Report of a fault', '&lt;b&gt;what&lt;/b&gt;', 'Serious')->not->toContain('<b>what');
    sendForm($address, ['files' => [UploadedFile::fake()->createWithContent('../../photo.txt', 'The gate is broken.')]])->assertRedirect("{$address}?sent=1");
    expect((string) $this->get("{$address}?sent=1")->getContent())->toContain('We look at it today.');
    $made = Document::query()->whereNull('parent_id')->sole();
    expect($made->state)->toBe(Document::WAITING)->and($made->intake_group)->toBe('Records office');
    $waiting = $this->as('clerk')->getJson('/api/intake')->assertOk()->json('documents.0');
    expect($waiting['values']['place'][0]['value'])->toBe('Coal basin');
    $attached = Document::query()->where('parent_id', $made->id)->sole();
    expect($attached->file_name)->toBe('photo.txt');
    // Whoever is not in the group does not see it, nor does anybody outside.
    expect($this->as('reader')->getJson('/api/intake')->status())->toBe(403);
});

it('makes a document of each type, files them, and has procedures begin', function () {
    Procedures::install();
    $address = formAddress([
        'library' => 'works',
        'types' => ['tender', 'quotation'],
        'fields' => [['code' => 'contractor', 'required' => true], ['code' => 'amount']],
        'goes' => 'filed',
        'files' => 0,
    ]);
    sendForm($address, ['field' => ['contractor' => 'Holm Brothers', 'amount' => '48000', 'vessel' => 'Not asked for']])->assertRedirect();
    expect(Document::query()->where('state', Document::FILED)->orderBy('id')->pluck('title')->all())->toBe(['Tender by Holm Brothers', 'Quotation by Holm Brothers'])
        ->and(ProcedureCase::query()->sole()->step)->toBe('check');
    expect(DB::table('history')->where('act', 'filed')->count())->toBe(2);
});

it('says at the field what is wrong, keeps what was typed, and takes nothing', function () {
    $address = formAddress();
    $wrong = sendForm($address, ['field' => ['place' => 'Coal basin', 'document_date' => 'some day']])->assertStatus(422);
    $page = (string) $wrong->getContent();
    expect($page)->toContain('value="Coal basin"')->toContain('aria-invalid="true"');
    expect((string) sendForm($address, ['field' => ['document_date' => '2026-03-02']])->assertStatus(422)->getContent())->toContain('Place is needed.');
    $many = array_map(static fn (int $i): UploadedFile => UploadedFile::fake()->createWithContent("f{$i}.txt", 'x'), [1, 2, 3]);
    expect((string) sendForm($address, ['files' => $many])->assertStatus(422)->getContent())->toContain('Send 2 files at most.');
    config(['brenvic.limits.form_bytes' => 2_000_000]);
    expect((string) sendForm($address, ['files' => [UploadedFile::fake()->create('large.pdf', 3_000)]])->assertStatus(422)->getContent())->toContain('too large');
    expect(Document::query()->count())->toBe(0);
});

it('is not flooded: not by programs, not by sending again, not by one form in an hour', function () {
    $address = formAddress();
    sendForm($address, ['website' => 'http://spam.example'])->assertStatus(422);
    sendForm($address, after: 0)->assertStatus(422);
    sendForm($address, ['opened' => 'invented'])->assertStatus(422);
    sendForm($address, after: 90_000)->assertStatus(422);
    expect(Document::query()->count())->toBe(0);
    $this->travel(70)->seconds();
    $opened = openedPage($address);
    $this->travel(5)->seconds();
    $send = fn (): TestResponse => $this->post($address, ['opened' => $opened, 'field' => ['place' => 'Quay', 'document_date' => '2026-03-02']]);
    $send()->assertRedirect();
    $send()->assertRedirect();
    expect(Document::query()->count())->toBe(1);
    for ($i = 0; $i < 8; $i++) {
        $last = sendForm($address, after: 3);
    }
    expect($last->status())->toBe(429);
    Illuminate\Support\Facades\RateLimiter::clear('form-send');
    Illuminate\Support\Facades\RateLimiter::increment('work-form/broken', 3_600, 100);
    $this->travel(70)->seconds();
    sendForm($address)->assertStatus(429);
});

it('is closed, or moved, by whoever designs, and then says nothing of itself', function () {
    $address = formAddress();
    $this->as('clerk')->postJson('/api/design/work_forms/broken/address')->assertForbidden();
    $new = (string) parse_url($this->as('librarian')->postJson('/api/design/work_forms/broken/address')->json('address'), PHP_URL_PATH);
    expect((string) $this->get($address)->assertNotFound()->getContent())->not->toContain('Report of a fault');
    $this->get($new)->assertOk();
    $this->as('librarian')->deleteJson('/api/design/work_forms/broken/address')->assertOk()->assertJsonPath('address', null);
    $this->get($new)->assertNotFound();
    $this->post($new, ['opened' => 'x'])->assertNotFound();
    $this->as('librarian')->postJson('/api/design/work_forms/nothing/address')->assertStatus(422);
});
