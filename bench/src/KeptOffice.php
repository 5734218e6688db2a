<?php

declare(strict_types=1);

namespace Bench;

use App\Files\FileStore;
use App\Index\SqliteStore;
use App\Models\Document;
use App\Models\Field;
use App\Models\Library;
use App\Models\User;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexWriter;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Foundation\Application;
use Illuminate\Support\Facades\DB;

/** An office with so many documents of types, dates and concepts, in a data folder that is kept. */
final class KeptOffice
{
    private const CONCEPTS = ['NAV.01', 'NAV.02.3', 'NAV.03', 'HAR.01.1', 'HAR.03', 'WRK.01', 'WRK.02', 'HER', 'GOV.01'];

    /** The application on this folder, with the demo's design and people. */
    public static function open(): Application
    {
        $folder = sys_get_temp_dir().'/brenvic-bench-retention';
        @mkdir($folder, 0700, true);
        putenv("BRENVIC_DATA={$folder}");
        /** @var Application $app */
        $app = require dirname(__DIR__, 2).'/bootstrap/app.php';
        $kernel = $app->make(Kernel::class);
        $kernel->bootstrap();
        config(['brenvic.data' => $folder]);
        @touch("{$folder}/brenvic.sqlite");
        $kernel->call('migrate', ['--force' => true]);
        if (User::query()->doesntExist()) {
            \Demo\TrustDesign::install();
            app()->forgetScopedInstances();
        }

        return $app;
    }

    /** Fills it up to so many documents. */
    public static function fill(int $documents): void
    {
        $types = DB::table('document_types')->pluck('id', 'code')->all();
        $codes = array_keys($types);
        $library = Library::query()->where('code', 'waterways')->firstOrFail();
        $fields = Field::query()->whereIn('code', ['document_date', 'subject'])->pluck('id', 'code')->all();
        mt_srand(11);
        $clerk = (int) User::query()->where('sign_in', 'clerk')->value('id');
        $empty = app(FileStore::class)->takeContents('x')[0];
        DB::statement('PRAGMA synchronous = OFF');
        for ($id = (int) DB::table('documents')->max('id') + 1; $id <= $documents;) {
            $rows = $values = $indexed = [];
            for ($i = 0; $i < 5_000 && $id <= $documents; $i++, $id++) {
                $code = $codes[mt_rand(0, count($codes) - 1)];
                $filed = sprintf('%04d-%02d-%02d 00:00:00', mt_rand(2016, 2026), mt_rand(1, 11), mt_rand(1, 28));
                $rows[] = [
                    'id' => $id, 'ref' => Document::refOf($id), 'library_id' => $library->id, 'document_type_id' => $types[$code],
                    'title' => "Document {$id}", 'file_name' => 'x.txt', 'file_kind' => ['text', 'pdf', 'mail'][$id % 3], 'sha256' => $empty,
                    'bytes' => mt_rand(1, 900_000), 'state' => 'filed', 'text_state' => 'read', 'created_by' => $clerk, 'filed_at' => $filed,
                    'created_at' => $filed,
                ];
                $date = sprintf('%04d-%02d-%02d', mt_rand(1990, 2026), mt_rand(1, 12), mt_rand(1, 28));
                if ($id % 50 !== 0) {
                    $values[] = ['document_id' => $id, 'field_id' => $fields['document_date'], 'position' => 0, 'value' => $date];
                }
                $values[] = ['document_id' => $id, 'field_id' => $fields['subject'], 'position' => 0, 'value' => self::CONCEPTS[mt_rand(0, 8)]];
                $text = implode(' ', array_map(static fn (): string => 'word'.mt_rand(1, 30_000), range(1, 60)));
                $indexed[] = new IndexedDocument($id, ['text' => [$text]], ['library' => ['waterways'], 'type' => [$code]], [], ['library', 'type']);
            }
            DB::transaction(static function () use ($rows, $values, $indexed): void {
                foreach (array_chunk($rows, 500) as $chunk) {
                    DB::table('documents')->insert($chunk);
                }
                foreach (array_chunk($values, 2_000) as $chunk) {
                    DB::table('document_values')->insert($chunk);
                }
                $writer = new IndexWriter(new SqliteStore());
                $writer->put($indexed);
                $writer->flush();
            });
            $id % 100_000 < 5_000 && fwrite(STDERR, number_format($id)."\n");
        }
        DB::statement('PRAGMA synchronous = NORMAL');
    }
}
