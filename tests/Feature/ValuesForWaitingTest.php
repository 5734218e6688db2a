<?php

declare(strict_types=1);

use App\Models\Document;
use App\Models\User;
use Illuminate\Http\UploadedFile;
use Illuminate\Testing\TestResponse;

/** Gives the clerk’s waiting documents what a table says. */
function valuesGiven(string $table, string $name = 'values.csv'): TestResponse
{
    return test()->as('clerk')->post(
        '/api/intake/values',
        ['file' => UploadedFile::fake()->createWithContent($name, $table)],
        ['Accept' => 'application/json'],
    );
}

function waitingAt(string $path, string $contents = 'A text.'): string
{
    return (string) test()->as('clerk')->post(
        '/api/intake',
        ['file' => UploadedFile::fake()->createWithContent(basename($path), $contents), 'library' => 'waterways', 'path' => $path],
        ['Accept' => 'application/json'],
    )->assertCreated()->json('ref');
}

it('puts the values of a table onto the sheets of the files it names, and says of each row what became of it', function () {
    $one = waitingAt('post/one.txt');
    $two = waitingAt('post/2024/two.txt');
    waitingAt('a/same.txt');
    waitingAt('b/same.txt');
    $left = waitingAt('post/left.txt');
    // As a spreadsheet of another country writes it: names of columns as they are labelled, folders by \\.
    $answer = valuesGiven(
        "File;Type;Waterway;Document date\none.txt;stoppage_notice;Sea lock pound;14 March 2024\n".
            "post\\2024\\two.txt;Stoppage notice;Nowhere at all;2024-03\nsame.txt;;;2024\nlost.txt;;;2024\nleft.txt;no_such_type;;2024\n",
    )->assertOk()->json();
    expect(collect($answer['report']['rows'])->pluck('outcome', 'file')->all())
        ->toBe(['one.txt' => 'filled', 'post\\2024\\two.txt' => 'partly', 'same.txt' => 'several', 'lost.txt' => 'no_file', 'left.txt' => 'refused'])
        ->and($answer['report']['without'])
        ->toBe(2)
        ->and($answer['report']['rows'][1])
        ->ref->toBe($two)
        ->note->toStartWith('Without Waterway (');
    $waiting = collect($answer['documents'])->keyBy('ref');
    expect($waiting[$one])
        ->type->code->toBe('stoppage_notice')
        ->lacks->toBe([])
        ->and($waiting[$one]['values']['document_date'][0]['value'])
        ->toBe('2024-03-14')
        ->and($waiting[$two]['values'])
        ->toHaveKey('document_date')
        ->not->toHaveKey('waterway')
        ->and($waiting[$left]['type'])
        ->toBeNull();
    // What was typed before and no row names stays.
    $answer = valuesGiven("file,document_date\npost/one.txt,2025\n")->assertOk()->json();
    $now = collect($answer['documents'])->firstWhere('ref', $one);
    expect($now['values']['document_date'][0]['value'])->toBe('2025')->and($now['values']['waterway'][0]['value'])->toBe('tarn-sea');
});

it('is for what came with the table, when that is said', function () {
    $before = waitingAt('one.txt');
    $now = waitingAt('one.txt');
    $answer = $this->as('clerk')->post(
        '/api/intake/values',
        [
            'file' => UploadedFile::fake()->createWithContent('v.csv', "file,type,document_date\none.txt,stoppage_notice,2024\n"),
            'documents' => "{$now}\n",
        ],
        ['Accept' => 'application/json'],
    )->assertOk()->json();
    expect($answer['report'])->toBe(['rows' => [['file' => 'one.txt', 'outcome' => 'filled', 'note' => '', 'ref' => $now]], 'without' => 0])
        ->and(collect($answer['documents'])->firstWhere('ref', $before)['type'])->toBeNull();
});

it('refuses what is no such table, with nothing changed', function (string $table, string $why) {
    $ref = waitingAt('one.txt');
    $before = Document::query()->where('ref', $ref)->value('lock_version');
    valuesGiven($table)->assertUnprocessable()->assertSee($why);
    expect(Document::query()->where('ref', $ref)->value('lock_version'))->toBe($before);
})->with([
    ["name,document_date\none.txt,2024\n", 'there is no such field'],
    ["document_date\n2024\n", 'no column'],
    ["file,document_dat\none.txt,2024\n", 'Did you mean'],
    ['', 'empty'],
    ["%PDF-1.4\n", 'no CSV file'],
]);

it('gives nobody’s documents values but those that one may file', function () {
    $ref = waitingAt('one.txt');
    $this->as('librarian')->post(
        '/api/intake/values',
        ['file' => UploadedFile::fake()->createWithContent('v.csv', "file,document_date\none.txt,2024\n")],
        ['Accept' => 'application/json'],
    )->assertOk()->assertJsonPath('report.rows.0.outcome', 'no_file');
    App\People\Groups::put(User::query()->where('sign_in', 'clerk')->firstOrFail(), []);
    app()->forgetScopedInstances();
    // Who files nowhere knows of no field either.
    valuesGiven("file,document_date\none.txt,2024\n")->assertUnprocessable();
    expect(Document::query()->where('ref', $ref)->value('lock_version'))->toBe(1);
});
