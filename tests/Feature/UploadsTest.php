<?php

declare(strict_types=1);

use App\Intake\Uploads;
use App\Models\Document;
use App\Models\Right;
use App\Models\Upload;
use App\Models\User;
use App\People\Tokens;
use Illuminate\Testing\TestResponse;

beforeEach(function () {
    $this->token = Tokens::make(User::query()->where('sign_in', 'clerk')->firstOrFail(), 'scans', [Right::Read, Right::File], 1);
});

/** @param  array<string, string>  $head */
function sentAs(string $method, string $path, string $body, array $head, string $token): TestResponse
{
    $server = ['HTTP_AUTHORIZATION' => "Bearer {$token}", 'HTTP_ACCEPT' => 'application/json'];
    foreach ($head as $name => $value) {
        $server[$name === 'Content-Type' ? 'CONTENT_TYPE' : 'HTTP_'.strtoupper(str_replace('-', '_', $name))] = $value;
    }

    return test()->call($method, "/api/v1/intake/uploads{$path}", [], [], [], $server, $body);
}

function pieceTo(string $key, int $at, string $piece, bool $isLast, string $token): TestResponse
{
    return sentAs('PATCH', "/{$key}", $piece, ['Content-Type' => 'application/partial-upload', 'Upload-Offset' => (string) $at, 'Upload-Complete' => $isLast ? '?1' : '?0'], $token);
}

it('puts pieces together, however they are cut, lost and sent twice', function (int $seed) {
    mt_srand($seed);
    $whole = '';
    while (strlen($whole) < 3_000) {
        $whole .= 'line '.mt_rand()." of the sluice\n";
    }
    $length = strlen($whole);
    $isSaid = mt_rand(0, 1) === 1;
    $first = mt_rand(0, 500);
    $begun = sentAs('POST', '?library=waterways&name=log.txt', substr($whole, 0, $first), ['Upload-Complete' => '?0', ...$isSaid ? ['Upload-Length' => (string) $length] : []], $this->token)
        ->assertCreated()
        ->assertHeader('Upload-Complete', '?0')
        ->assertHeader('Upload-Offset', (string) $first);
    $key = basename((string) $begun->headers->get('Location'));
    expect($begun->json())->toMatchArray(['key' => $key, 'offset' => $first, 'is_complete' => false, 'document' => null]);
    $answer = null;
    for ($at = $first; $answer === null || $answer->json('is_complete') !== true;) {
        if (mt_rand(0, 3) === 0) {
            // Who sends was cut off and thinks another place.
            $wrong = max(0, $at - mt_rand(1, 400)) + (mt_rand(0, 1) === 1 ? 900 : 0);
            if ($wrong !== $at) {
                pieceTo($key, $wrong, 'wrong', false, $this->token)
                    ->assertStatus(409)
                    ->assertHeader('Content-Type', 'application/problem+json')
                    ->assertHeader('Upload-Offset', (string) $at)
                    ->assertJson(['type' => 'urn:brenvic:problem:offset', 'expected-offset' => $at, 'provided-offset' => $wrong]);
            }
            sentAs('HEAD', "/{$key}", '', [], $this->token)->assertOk()->assertHeader('Upload-Offset', (string) $at)->assertHeader('Upload-Complete', '?0');
        }
        $piece = substr($whole, $at, mt_rand(0, 700));
        $at += strlen($piece);
        $answer = pieceTo($key, $at - strlen($piece), $piece, $at === $length, $this->token)->assertOk();
    }
    $document = Document::query()->where('ref', $answer->json('document.ref'))->firstOrFail();
    expect($document->sha256)->toBe(hash('sha256', $whole))
        ->and($document->bytes)->toBe($length)
        ->and($document->file_name)->toBe('log.txt')
        ->and($document->state)->toBe(Document::WAITING)
        ->and(glob(Upload::folder().'/*'))->toBe([]);
    // That the answer was lost makes no second document.
    pieceTo($key, $at, '', true, $this->token)->assertStatus(409)->assertHeader('Upload-Complete', '?1');
    sentAs('GET', "/{$key}", '', [], $this->token)->assertOk()->assertJsonPath('document.ref', $document->ref)->assertHeader('Cache-Control', 'no-store, private');
    expect(Document::query()->count())->toBe(1);
})->with([1, 2, 3, 4, 5, 6]);

it('takes a whole file at once, and an empty one', function (string $whole) {
    $done = sentAs('POST', '?library=waterways&name=a.txt', $whole, ['Upload-Complete' => '?1'], $this->token)->assertCreated()->assertHeader('Upload-Complete', '?1');
    expect(Document::query()->where('ref', $done->json('document.ref'))->value('bytes'))->toBe(strlen($whole));
})->with(['The lock leaks.', '']);

it('goes on from what is on the disk where a piece was stored and its answer never came', function () {
    $key = sentAs('POST', '?library=waterways&name=a.txt', 'one ', ['Upload-Complete' => '?0', 'Upload-Length' => '11'], $this->token)->json('key');
    // The server died after a part of the piece.
    file_put_contents(Upload::query()->firstOrFail()->file(), 'tw', FILE_APPEND);
    pieceTo($key, 4, 'two three', true, $this->token)->assertStatus(409)->assertJsonPath('expected-offset', 6);
    pieceTo($key, 6, 'o end', true, $this->token)->assertOk()->assertJsonPath('is_complete', true);
    expect(Document::query()->value('sha256'))->toBe(hash('sha256', 'one two end'));
});

it('says what is wrong with a piece, and keeps what was right', function () {
    foreach ([['', '?0'], ['?library=waterways', '?0'], ['?library=waterways&name=a.txt', ''], ['?library=waterways&name=a.txt', 'yes']] as [$query, $complete]) {
        sentAs('POST', $query, 'x', $complete === '' ? [] : ['Upload-Complete' => $complete], $this->token)->assertUnprocessable();
    }
    sentAs('POST', '?library=nowhere&name=a.txt', 'x', ['Upload-Complete' => '?0'], $this->token)->assertNotFound();
    sentAs('POST', '?library=waterways&name=a.txt', 'x', ['Upload-Complete' => '?0', 'Upload-Length' => '-1'], $this->token)->assertUnprocessable();
    sentAs('POST', '?library=waterways&name=a.txt', 'x', ['Upload-Complete' => '?0', 'Upload-Length' => '999999999999'], $this->token)->assertUnprocessable();
    expect(Upload::query()->count())->toBe(0);

    $key = sentAs('POST', '?library=waterways&name=a.txt', 'abc', ['Upload-Complete' => '?0', 'Upload-Length' => '6'], $this->token)->json('key');
    pieceTo($key, 3, 'defg', false, $this->token)->assertUnprocessable()->assertJsonPath('detail', 'It was to have 6 bytes, and would have 7.');
    pieceTo($key, 3, 'de', true, $this->token)->assertUnprocessable();
    sentAs('PATCH', "/{$key}", 'def', ['Content-Type' => 'text/plain', 'Upload-Offset' => '3', 'Upload-Complete' => '?1'], $this->token)->assertUnprocessable();
    sentAs('PATCH', "/{$key}", 'def', ['Content-Type' => 'application/partial-upload', 'Upload-Complete' => '?1'], $this->token)->assertUnprocessable();
    pieceTo($key, 3, str_repeat('x', Uploads::PIECE + 1), false, $this->token)->assertUnprocessable();
    expect(Uploads::offset(Upload::query()->firstOrFail()))->toBe(3);
    pieceTo($key, 3, 'def', true, $this->token)->assertOk();
});

it('is nobody else’s, and is given up', function () {
    $key = sentAs('POST', '?library=waterways&name=a.txt', 'abc', ['Upload-Complete' => '?0'], $this->token)->json('key');
    $other = Tokens::make(User::query()->where('sign_in', 'librarian')->firstOrFail(), 'x', [Right::Read, Right::File], 1);
    $reader = Tokens::make(User::query()->where('sign_in', 'clerk')->firstOrFail(), 'x', [Right::Read], 1);
    foreach ([[$other, 404], [$reader, 403], ['brenvic_none', 401]] as [$token, $status]) {
        sentAs('GET', "/{$key}", '', [], $token)->assertStatus($status);
        pieceTo($key, 3, 'def', true, $token)->assertStatus($status);
        sentAs('DELETE', "/{$key}", '', [], $token)->assertStatus($status);
    }
    sentAs('DELETE', "/{$key}", '', [], $this->token)->assertNoContent();
    sentAs('GET', "/{$key}", '', [], $this->token)->assertNotFound();
    expect(glob(Upload::folder().'/*'))->toBe([])->and(Document::query()->count())->toBe(0);
    // What nobody goes on with is given up after a week.
    sentAs('POST', '?library=waterways&name=a.txt', 'abc', ['Upload-Complete' => '?0'], $this->token)->assertCreated();
    Uploads::clear();
    expect(Upload::query()->count())->toBe(1);
    $this->travel(8)->days();
    Uploads::clear();
    expect(Upload::query()->count())->toBe(0)->and(glob(Upload::folder().'/*'))->toBe([]);
});
