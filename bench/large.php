<?php

declare(strict_types=1);

/*
 * A large office to measure the interface in: php bench/large.php DEMO FOLDER DOCUMENTS
 *
 * The demo data with documents added until there are as many as asked for. Each has the type, library and values of
 * one of the demo’s, a day of its own and a text of its own, made by the seeded generator with some words of the trade
 * among it. Kept in the folder; what was begun and not finished is made anew.
 */

use App\Index\Indexer;
use App\Index\IndexState;
use App\Index\SqliteStore;
use App\Models\Document;
use Bench\Corpus;
use Brenvic\Core\Index\IndexWriter;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;

require __DIR__.'/../vendor/autoload.php';

[, $demo, $folder, $wanted] = [...$argv, '', '', '0'];
$made = "{$folder}.making";
(new Illuminate\Filesystem\Filesystem())->deleteDirectory($made);
(new Illuminate\Filesystem\Filesystem())->copyDirectory($demo, $made);
putenv("BRENVIC_DATA={$made}");
$_ENV['BRENVIC_DATA'] = $_SERVER['BRENVIC_DATA'] = $made;
putenv("DB_DATABASE={$made}/brenvic.sqlite");
$_ENV['DB_DATABASE'] = $_SERVER['DB_DATABASE'] = "{$made}/brenvic.sqlite";
$application = require __DIR__.'/../bootstrap/app.php';
$application->make(Kernel::class)->bootstrap();
Artisan::call('migrate', ['--force' => true]);
Artisan::call('brenvic:rebuild', ['--if-needed' => true]);

/** Rank of a word of the generator => the word of the trade that stands for it. */
const WORDS = [
    8 => 'gate',
    11 => 'lock',
    25 => 'depth',
    40 => 'silt',
    60 => 'keeper',
    90 => 'sill',
    130 => 'seepage',
    200 => 'contract',
    350 => 'towpath',
    500 => 'gear',
    501 => 'winding',
    900 => 'masonry',
    1_400 => 'holm',
    2_500 => 'marigold',
];
$said = [];
foreach (WORDS as $rank => $word) {
    $said[Corpus::word($rank)] = $word;
}
$last = (int) DB::table('documents')->max('id');
$more = (int) $wanted - $last;
$since = microtime(true);
$tell = static fn (string $what) => fwrite(STDERR, sprintf("  %5.0f s  %s\n", microtime(true) - $since, $what));

DB::statement('CREATE TEMP TABLE patterns (n INTEGER PRIMARY KEY, id INTEGER NOT NULL)');
DB::statement(
    "INSERT INTO patterns (n, id) SELECT row_number() OVER (ORDER BY d.id) - 1, d.id FROM documents d JOIN libraries l ON l.id = d.library_id WHERE d.state = 'filed' AND d.parent_id IS NULL AND l.code IN ('waterways', 'harbour', 'works')",
);
$patterns = (int) DB::table('patterns')->count();
DB::transaction(function () use ($last, $more, $patterns): void {
    $new = "WITH RECURSIVE new(id) AS (SELECT {$last} + 1 UNION ALL SELECT id + 1 FROM new WHERE id < {$last} + {$more})";
    DB::statement("{$new} INSERT INTO documents (id, ref, library_id, document_type_id, title, file_name, path, file_kind, sha256, bytes, state, text_state, page_count, created_by, filed_at, created_at, updated_at)
        SELECT new.id, NULL, d.library_id, d.document_type_id, d.title, d.file_name, d.path, d.file_kind, d.sha256, d.bytes, d.state, 'read', 1, d.created_by, d.filed_at, d.created_at, d.updated_at
        FROM new JOIN patterns p ON p.n = (new.id * 7919) % {$patterns} JOIN documents d ON d.id = p.id");
    DB::statement("INSERT INTO document_values (document_id, field_id, position, value)
        SELECT d.id, v.field_id, v.position, CASE WHEN f.code = 'document_date' THEN date('1990-01-01', '+' || (d.id * 104729 % 12000) || ' days') ELSE v.value END
        FROM documents d JOIN patterns p ON p.n = (d.id * 7919) % {$patterns} JOIN document_values v ON v.document_id = p.id JOIN fields f ON f.id = v.field_id WHERE d.id > {$last}");
});
$tell('rows and values');
$reference = DB::connection()->getPdo()->prepare('UPDATE documents SET ref = ? WHERE id = ?');
$page = DB::connection()->getPdo()->prepare('INSERT INTO pages (document_id, number, width, height, text) VALUES (?, 1, 595, 842, ?)');
$number = $last;
$texts = (new Corpus($more))->documents();
DB::beginTransaction();
foreach ($texts as $text) {
    $number++;
    $page->execute([$number, ucfirst(strtr($text['text'], $said)).'.']);
    $reference->execute([Document::refOf($number), $number]);
}
DB::commit();
$tell('texts and references');
$indexer = app(Indexer::class);
$writer = new IndexWriter(new SqliteStore(IndexState::read()->live));
for ($from = $last + 1; $from <= $number; $from += 2_000) {
    $writer->put(array_values($indexer->documents(range($from, min($number, $from + 1_999)))));
    if ($writer->pending() >= 65_536 || $from + 2_000 > $number) {
        DB::transaction(static fn () => $writer->flush());
        $tell(number_format($from + 1_999).' indexed');
    }
}
DB::statement('ANALYZE');
rename($made, $folder);
