<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\PlainCommand;
use App\Files\FileStore;
use App\Fixity\Fixity;
use App\Models\StoredFile;
use App\Support\Column;
use Illuminate\Support\Facades\DB;

final class VerifyCommand extends PlainCommand
{
    protected $signature = 'brenvic:verify {--json : the result as JSON}';

    protected $description = 'Holds every stored file against its SHA-256, and names the documents of those that are missing or damaged';

    public function handle(FileStore $files): int
    {
        $checked = $bytes = 0;
        $faults = [];
        $isShown = ! $this->option('json') && $this->output->isDecorated();
        $bar = $isShown ? $this->output->createProgressBar(StoredFile::query()->count()) : null;
        foreach (StoredFile::query()->orderBy('sha256')->lazy(500) as $file) {
            $fault = $files->fault($file->sha256);
            if ($fault !== null) {
                $faults[] = ['sha256' => $file->sha256, 'fault' => $fault->value, 'documents' => self::documents($file->sha256)];
            }
            $checked++;
            $bytes += (int) $file->bytes;
            $bar?->advance();
        }
        $bar?->clear();
        if ($this->option('json')) {
            $this->json(['files' => $checked, 'bytes' => $bytes, 'faults' => $faults]);
        } else {
            foreach ($faults as $fault) {
                $this->error(
                    "{$fault['fault']}: {$fault['sha256']}".
                        ($fault['documents'] === [] ? '' : ', of '.implode(', ', $fault['documents'])),
                );
            }
            $faults === []
                ? $this->info("All {$checked} files are what was stored.")
                : $this->error(count($faults)." of {$checked} files are not what was stored.");
        }

        return $faults === [] ? self::SUCCESS : self::AMISS;
    }

    /** @return list<string> references of the documents that have the file, now, in an earlier version or as a copy */
    private static function documents(string $sha256): array
    {
        return Column::texts(DB::table('documents')->whereIntegerInRaw('id', Fixity::documents($sha256))->orderBy('id')->pluck('ref'));
    }
}
