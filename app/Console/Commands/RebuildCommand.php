<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Index\Indexer;
use App\Index\SqliteStore;
use App\Models\Document;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

final class RebuildCommand extends Command
{
    protected $signature = 'brenvic:rebuild';

    protected $description = 'Makes the search index anew from the documents; searches see the old one until it is done';

    public function handle(SqliteStore $store, Indexer $indexer): int
    {
        $ids = Document::query()->where('state', Document::FILED)->orderBy('id')->pluck('id')->all();
        $bar = $this->output->createProgressBar(count($ids));
        // One transaction: searches go on in the old index, and a rebuild that is stopped has not happened.
        DB::transaction(function () use ($store, $indexer, $ids, $bar): void {
            $store->clear();
            foreach (array_chunk($ids, 1000) as $chunk) {
                $indexer->update($chunk);
                $bar->advance(count($chunk));
            }
        });
        $bar->finish();
        $this->newLine();

        return self::SUCCESS;
    }
}
