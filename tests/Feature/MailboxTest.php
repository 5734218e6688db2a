<?php

declare(strict_types=1);

use App\Capture\TextReading;
use App\Catalog\Catalog;
use App\Intake\Sources\ArrivingFile;
use App\Intake\Sources\Mailbox;
use App\Intake\Sources\Watch;
use App\Models\Document;
use App\Models\Dossier;
use Illuminate\Support\Facades\DB;

require_once dirname(__DIR__).'/mail-server.php';

beforeEach(function () {
    $this->server = new MailServer();
    $this->server->start();
    config(['brenvic.mailboxes' => ['office' => $this->server->address()], 'brenvic.sources' => config('brenvic.data').'/sources']);
    $this->look = function (): int {
        app()->forgetScopedInstances();

        return (new Watch())->look(app(Catalog::class), app(ArrivingFile::class));
    };
});

afterEach(fn () => $this->server->stop());

function mailOf(string $subject, string $text, string $more = ''): string
{
    return "From: Ida Ash <ida@ash.example>\nTo: office@tarnwick.example\nSubject: {$subject}\nDate: Thu, 14 Mar 2024 10:00:00 +0000\n".
        'Message-ID: <'.md5($subject.$text)."@ash.example>\n{$more}".
        "MIME-Version: 1.0\nContent-Type: multipart/mixed; boundary=\"b\"\n\n--b\nContent-Type: text/plain; charset=utf-8\n\n{$text}\n".
        "--b\nContent-Type: text/plain; name=\"plan.txt\"\nContent-Disposition: attachment; filename=\"plan.txt\"\n\nA plan of the sluice.\n--b--\n";
}

it('brings mails in from a mail server, each once, with what is attached, and puts them away there', function () {
    source(['way' => 'mailbox', 'folder' => '', 'mailbox' => 'office']);
    $this->server->put(mailOf('The sluice leaks', 'It leaks at the sill.'));
    $this->server->put(mailOf('=?UTF-8?Q?Gr=C3=BC=C3=9Fe_=2F_vom_Wehr?=', 'The weir is low.'));
    expect(($this->look)())->toBe(2)->and($this->server->count())->toBe(0)->and($this->server->count(Mailbox::DONE))->toBe(2);
    expect(($this->look)())->toBe(0);
    $mail = Document::query()->where('file_name', 'The sluice leaks.eml')->firstOrFail();
    expect(Document::query()->where('file_name', 'Grüße vom Wehr.eml')->exists())->toBeTrue();
    app(TextReading::class)->read($mail->id);
    // The mail and what is attached to it stay together, and wait for the same group.
    $waiting = collect($this->as('clerk')->getJson('/api/intake')->assertOk()->json('documents'))->firstWhere('ref', $mail->ref);
    $attached = $this->getJson("/api/documents/{$mail->ref}")->assertOk()->json('attachments');
    expect($attached[0]['file_name'])->toBe('plan.txt')->and($waiting['attachments'])->toBe(1)->and($waiting['source'])->toBe('Scans of the office');
    $this->getJson("/api/documents/{$attached[0]['ref']}")->assertOk();
    $this->postJson('/api/intake/file', [
        'documents' => [$mail->ref],
        'type' => 'stoppage_notice',
        'values' => ['waterway' => ['Sea lock pound'], 'document_date' => ['2024']],
    ])->assertOk();
    expect($this->search(['words' => 'sluice'], 'clerk')->json('total'))->toBe(2);
});

it('names the dossier of the mails that a mail belongs to, to whom sees it', function () {
    source(['way' => 'mailbox', 'folder' => '', 'mailbox' => 'office']);
    $first = $this->filed(mailOf('The gate', 'It is shut.'), 'first.eml', 'stoppage_notice', ['waterway' => ['tarn-sea'], 'document_date' => ['2024']]);
    app(TextReading::class)->read(Document::query()->where('ref', $first)->firstOrFail()->id);
    $library = DB::table('libraries')->where('code', 'waterways')->value('id');
    $dossier = Dossier::query()->create(['kind' => 'asset_file', 'library_id' => $library, 'title' => 'The gate']);
    $dossier->documents()->attach(Document::query()->where('ref', $first)->value('id'));
    $id = md5('The gateIt is shut.').'@ash.example';
    $this->server->put(mailOf('Re: The gate', 'Thank you.', "In-Reply-To: <{$id}>\nReferences: <{$id}>\n"));
    $this->server->put(mailOf('Something else', 'Good day.'));
    expect(($this->look)())->toBe(2);
    foreach (Document::query()->where('state', 'waiting')->pluck('id') as $waiting) {
        app(TextReading::class)->read($waiting);
    }
    $proposed = static fn ($documents): array => collect($documents)->pluck('proposed_dossier', 'file_name')->all();
    expect($proposed($this->as('clerk')->getJson('/api/intake')->json('documents')))->toBe(['Re: The gate.eml' => $dossier->ref, 'Something else.eml' => null]);
    // Whoever may not see the mail before learns nothing of where it is.
    DB::table('documents')->where('ref', $first)->update(['deleted_at' => now()]);
    expect($proposed($this->getJson('/api/intake')->json('documents')))->toBe(['Re: The gate.eml' => null, 'Something else.eml' => null]);
});

it('brings no mail in twice when it was stopped before the mail was put away', function () {
    source(['way' => 'mailbox', 'folder' => '', 'mailbox' => 'office', 'original' => 'removed']);
    $this->server->put(mailOf('One', 'The first.'));
    expect(($this->look)())->toBe(1)->and($this->server->count())->toBe(0)->and($this->server->count(Mailbox::DONE))->toBe(0);
    // As if it had been killed in between: the row is there, and so is the mail, under the number it had.
    $this->server->put(mailOf('Two', 'The second.'));
    $token = (string) DB::table('arrivals')->value('token');
    [$validity, $uid] = explode('-', $token);
    DB::table('arrivals')->insert(['source' => 'scans', 'token' => $validity.'-'.((int) $uid + 1)]);
    expect(($this->look)())->toBe(0)->and($this->server->count())->toBe(0)
        ->and(Document::query()->whereNull('parent_id')->count())->toBe(1);
});

it('puts a mail apart that cannot come in, and goes on with the others', function () {
    config(['brenvic.limits.file_bytes' => 3_000]);
    source(['way' => 'mailbox', 'folder' => '', 'mailbox' => 'office']);
    $this->server->put(mailOf('Large', str_repeat("A long line of text that fills the mail.\n", 200)));
    $this->server->put(mailOf('Small', 'Short.'));
    expect(($this->look)())->toBe(1)->and($this->server->count(Mailbox::REFUSED))->toBe(1)->and($this->server->count(Mailbox::DONE))->toBe(1);
});

it('says what is wrong with a mailbox, in words and without its password', function (callable $how, string $says) {
    source(['way' => 'mailbox', 'folder' => '', 'mailbox' => 'office']);
    $how($this->server);
    ($this->look)();
    $said = collect($this->as('clerk')->getJson('/api/intake')->json('sources'))->firstWhere('code', 'scans');
    expect($said['says'])->toBe($says);
})->with([
    'a wrong password' => [
        fn (MailServer $server) => config(['brenvic.mailboxes' => ['office' => $server->address('wrong')]]),
        'The mail server does not let “office” sign in to the mailbox “office”.',
    ],
    'a server that is gone' => [fn (MailServer $server) => $server->stop(), 'The mail server of the mailbox “office” does not answer.'],
    'a mailbox that the settings do not name' => [
        fn () => config(['brenvic.mailboxes' => []]),
        'The server’s settings name no mailbox “office” (BRENVIC_MAILBOXES).',
    ],
]);
