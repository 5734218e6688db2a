<?php

declare(strict_types=1);

namespace App\Backup;

use App\Files\FileStore;
use App\History\Act;
use App\History\History;
use App\Index\Indexer;
use App\Models\Document;
use App\Support\Refused;
use Illuminate\Support\Facades\DB;
use PDO;

/**
 * Brings one document back from a backup: its file and versions where it is still there, all of it where it was destroyed. Nothing that
 * is there is overwritten, but for files that are not what was stored.
 */
final readonly class DocumentRestore
{
    /** What belongs to a document besides its row. Who has it in hand, links and the history are of the time that has passed. */
    private const TABLES = [
        'document_values', 'pages', 'versions', 'version_pages', 'renditions', 'annotations', 'redactions', 'comments', 'lifted_values',
        'mentioned_values', 'value_changes', 'earlier_places', 'document_dossier', 'pull_list_items',
    ];

    public function __construct(private FileStore $files, private Indexer $indexer)
    {
    }

    /**
     * @return array{documents: int, files: int} how many came back
     *
     * @throws Refused where the backup does not have it
     */
    public function restore(Backups $backups, Snapshot $snapshot, string $ref): array
    {
        $copy = config('brenvic.data').'/backup-work-'.getmypid();
        @unlink($copy);
        try {
            $backups->database($snapshot, $copy);
            $pdo = Backups::pdo($copy);
            $ids = self::idsOf($pdo, $ref);
            $files = 0;
            foreach (self::hashesOf($pdo, $ids) as $sha256) {
                $path = $this->files->path($sha256);
                if (! is_file($path) || hash_file('sha256', $path) !== $sha256) {
                    $files += $backups->mend($sha256, $path) ? 1 : throw new Refused("The backup does not have a file of {$ref}.");
                }
            }
            $missing = array_values(array_diff($ids, Document::query()->withTrashed()->whereIntegerInRaw('id', $ids)->pluck('id')->all()));
            $missing === [] || $this->rows($pdo, $missing, $snapshot->name);

            return ['documents' => count($missing), 'files' => $files];
        } finally {
            array_map(unlink(...), glob("{$copy}*") ?: []);
        }
    }

    /** @param  list<int>  $ids */
    private function rows(PDO $pdo, array $ids, string $name): void
    {
        DB::transaction(function () use ($pdo, $ids, $name): void {
            DB::statement('PRAGMA defer_foreign_keys = ON');
            $in = implode(',', $ids);
            foreach (['documents' => 'id', ...array_fill_keys(self::TABLES, 'document_id')] as $table => $key) {
                $columns = array_flip(DB::getSchemaBuilder()->getColumnListing($table));
                foreach (Backups::asked($pdo, "SELECT * FROM {$table} WHERE {$key} IN ({$in})")->fetchAll(PDO::FETCH_ASSOC) as $row) {
                    // An id of its own that somebody else has by now is given anew.
                    if ($table !== 'documents' && isset($row['id']) && DB::table($table)->where('id', $row['id'])->exists()) {
                        unset($row['id']);
                    }
                    DB::table($table)->insertOrIgnore(array_intersect_key($row, $columns));
                }
            }
            // What belongs to somebody or something that is no more stays away.
            foreach (self::TABLES as $table) {
                foreach (DB::select("PRAGMA foreign_key_check({$table})") as $broken) {
                    DB::table($table)->where(DB::raw('rowid'), $broken->rowid)->delete();
                }
            }
            DB::table('documents')->whereIntegerInRaw('id', $ids)->whereNotNull('parent_id')
                ->whereNotIn('parent_id', DB::table('documents')->select('id'))->update(['parent_id' => null]);
            if (DB::select('PRAGMA foreign_key_check(documents)') !== []) {
                throw new Refused('Its library or its type is no more. Restore the whole backup into a folder of its own, and export it there.');
            }
            // Cases went with the document, and do not come back with it.
            DB::table('documents')->whereIntegerInRaw('id', $ids)
                ->whereNotIn('locked_by_case', DB::table('cases')->select('id'))->update(['locked_by_case' => null]);
            // Made anew of its pages.
            DB::table('documents')->whereIntegerInRaw('id', $ids)->update(['text_print' => null, 'layout_marks' => null]);
            foreach (Document::query()->withTrashed()->whereIntegerInRaw('id', $ids)->get() as $document) {
                History::record(Act::Restored, null, $document, ['from' => "backup of {$name}"]);
            }
            $this->indexer->update($ids);
        });
    }

    /** @return list<int> the document and what is attached to it */
    private static function idsOf(PDO $pdo, string $ref): array
    {
        $find = $pdo->prepare(
            'WITH RECURSIVE of(id) AS ('.
                'SELECT id FROM documents WHERE ref = ? UNION SELECT d.id FROM documents d JOIN of ON d.parent_id = of.id'.
                ') SELECT id FROM of',
        );
        $find->execute([$ref]);
        $ids = array_values(array_map(intval(...), $find->fetchAll(PDO::FETCH_COLUMN)));

        return $ids === [] ? throw new Refused("The backup has no document {$ref}.") : $ids;
    }

    /**
     * @param  list<int>  $ids
     * @return list<string>
     */
    private static function hashesOf(PDO $pdo, array $ids): array
    {
        $in = implode(',', $ids);
        $found = Backups::asked(
            $pdo,
            "SELECT sha256 FROM documents WHERE id IN ({$in}) UNION SELECT sha256 FROM versions WHERE document_id IN ({$in}) ".
                "UNION SELECT sha256 FROM renditions WHERE document_id IN ({$in}) AND sha256 IS NOT NULL",
        );

        return array_values(array_map(strval(...), $found->fetchAll(PDO::FETCH_COLUMN)));
    }
}
