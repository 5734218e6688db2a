<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Design\Catalog;
use App\Exchange\OdsFile;
use App\Find\Criteria;
use App\History\Act;
use App\History\History;
use App\Index\Indexer;
use App\Models\Delivery;
use App\Models\Document;
use App\Support\Refused;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Exchange\Bag;
use Brenvic\Core\Exchange\CsvRow;
use Brenvic\Core\Exchange\DublinCore;
use Brenvic\Core\Exchange\OdsSheet;
use Brenvic\Core\Exchange\TableDescription;
use Brenvic\Core\Fields\ColumnFormat;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Query\Printer;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;
use RuntimeException;
use ZipArchive;

/**
 * Makes the file of a delivery in a folder of its own, document by document, and puts it in its place when it is whole: a
 * delivery that was stopped in the middle has no file, and is made anew.
 */
final class DeliveryMaker
{
    private const CHUNK = 100;

    /** Days a delivery can be fetched. */
    private const KEPT = 30;

    /** @var resource|null of index values */
    private $table = null;

    /** @var array<string, resource> by algorithm */
    private array $manifests = [];

    private int $bytes = 0;

    /** @var list<array{ref: string, title: string, file: string, sha256: string, remark: string}> */
    private array $contents = [];

    /** @var array<string, FieldDefinition> */
    private array $fields = [];

    public function __construct(
        private readonly Catalog $catalog,
        private readonly Outgoing $outgoing,
        private readonly PullLists $lists,
    ) {
    }

    /** The folder where finished deliveries lie. */
    public static function folder(): string
    {
        return config('brenvic.data').'/deliveries';
    }

    public function make(Delivery $delivery): void
    {
        $folder = self::folder()."/making-{$delivery->id}";
        File::deleteDirectory($folder);
        File::ensureDirectoryExists("{$folder}/bag/metadata/dublin-core", 0700);
        try {
            $ids = $this->lists->seen($delivery->user, $delivery->list);
            $delivery->update(['state' => Delivery::RUNNING, 'total' => count($ids), 'done' => 0, 'message' => '']);
            // What a person may not see uncovered is covered in what they take away.
            $this->fields = $this->catalog->fieldsFor($delivery->user);
            if (! $this->fill($delivery, $folder, $ids)) {
                return;
            }
            $file = $this->packed($delivery, $folder);
            if ($file !== null) {
                $this->finish($delivery, $file);
            }
        } catch (Refused $refused) {
            Delivery::query()->whereKey($delivery->id)->where('state', Delivery::RUNNING)->update(['state' => Delivery::FAILED, 'message' => $refused->getMessage()]);
        } finally {
            array_map(static fn ($stream) => is_resource($stream) && fclose($stream), [$this->table, ...array_values($this->manifests)]);
            File::deleteDirectory($folder);
        }
    }

    /**
     * @param  list<int>  $ids
     * @return bool false when it was cancelled
     */
    private function fill(Delivery $delivery, string $folder, array $ids): bool
    {
        $this->table = self::opened("{$folder}/bag/metadata/index-values.csv");
        fwrite($this->table, CsvRow::of(['reference', 'title', 'library', 'type', 'file', 'note', 'remark', ...array_keys($this->fields)]));
        foreach (Bag::ALGORITHMS as $algorithm) {
            $this->manifests[$algorithm] = self::opened("{$folder}/bag/manifest-{$algorithm}.txt");
        }
        $notes = DB::table('pull_list_items')->where('pull_list_id', $delivery->pull_list_id)->pluck('note', 'document_id');
        $names = $this->names($delivery, $ids);
        $history = self::opened("{$folder}/bag/metadata/history.jsonl");
        foreach (array_chunk($ids, self::CHUNK) as $chunk) {
            if (Delivery::query()->whereKey($delivery->id)->value('state') === Delivery::CANCELLED) {
                fclose($history);

                return false;
            }
            $values = Indexer::values($chunk);
            $documents = Document::query()->findMany($chunk)->keyBy('id');
            foreach ($chunk as $id) {
                if ($documents->has($id)) {
                    $this->document($delivery, $folder, $documents[$id], $this->byCode($values[$id] ?? []), $names[$id], (string) ($notes[$id] ?? ''));
                }
            }
            // Only a bag takes the history with it.
            if ($delivery->format === 'bag') {
                foreach (DB::table('history')->whereIntegerInRaw('document_id', $chunk)->orderBy('id')->cursor() as $row) {
                    fwrite($history, json_encode([...(array) $row, 'detail' => $this->told((string) $row->detail)], JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES)."\n");
                }
            }
            $delivery->update(['done' => $delivery->done + count($chunk)]);
        }
        fclose($history);

        return true;
    }

    private static function form(Delivery $delivery): DeliveryForm
    {
        return DeliveryForm::tryFrom((string) ($delivery->settings['form'] ?? '')) ?? DeliveryForm::AsItIs;
    }

    /**
     * The detail of an entry of the history as it may leave: of values that are covered, or not for this person, only that
     * they changed.
     *
     * @return array<string, mixed>
     */
    private function told(string $detail): array
    {
        $told = [];
        foreach ((array) json_decode($detail, true) as $key => $value) {
            $isValue = is_array($value) && array_key_exists('before', $value);
            $told[(string) $key] = $isValue && (! isset($this->fields[$key]) || $this->fields[$key]->sensitive) ? ColumnFormat::COVER : $value;
        }

        return $told;
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, string> where each file goes, folders and all
     */
    private function names(Delivery $delivery, array $ids): array
    {
        $pattern = (string) ($delivery->settings['names'] ?? '{reference} {file}');
        $levels = array_values(array_filter($delivery->settings['levels'] ?? [], is_string(...)));
        $wanted = [];
        foreach (array_chunk($ids, self::CHUNK) as $chunk) {
            $values = Indexer::values($chunk);
            foreach (Document::query()->findMany($chunk) as $document) {
                $of = $this->byCode($values[$document->id] ?? []);
                $folders = array_map(fn (string $code): string => str_replace('/', '-', $this->level($document, $of, $code)), $levels);
                $file = $this->outgoing->name($delivery->user, $document, self::form($delivery));
                $name = strtr($pattern, ['{reference}' => $document->ref, '{title}' => str_replace('/', '-', $document->title), '{file}' => $file]);
                $ending = pathinfo($file, PATHINFO_EXTENSION);
                $wanted[$document->id] = implode('/', [...$folders, str_replace('/', '-', str_ends_with($name, ".{$ending}") || $ending === '' ? $name : "{$name}.{$ending}")]);
            }
        }
        $ordered = array_map(static fn (int $id): string => $wanted[$id] ?? "missing-{$id}", $ids);

        return array_combine($ids, Bag::names($ordered));
    }

    /** @param  array<string, list<string>>  $values */
    private function level(Document $document, array $values, string $code): string
    {
        return match ($code) {
            'type' => $this->catalog->types()->get((int) $document->document_type_id)->name ?? 'Without a type',
            'library' => $this->catalog->libraries()->get($document->library_id)->name ?? '',
            default => isset($values[$code][0], $this->fields[$code]) && ! $this->fields[$code]->sensitive
                ? ($this->fields[$code]->kind->isDate() ? substr($values[$code][0], 0, 4) : $this->fields[$code]->display($values[$code][0]))
                : 'Without '.($this->fields[$code]->label ?? $code),
        };
    }

    /**
     * @param  array<int, list<string>>  $stored
     * @return array<string, list<string>> normal forms by field code, of the fields that the person may see
     */
    private function byCode(array $stored): array
    {
        $values = [];
        foreach ($stored as $id => $normals) {
            $field = $this->catalog->fieldOfId($id);
            if ($field !== null && isset($this->fields[$field->code])) {
                $values[$field->code] = $normals;
            }
        }

        return $values;
    }

    /** @param  array<string, list<string>>  $values */
    private function document(Delivery $delivery, string $folder, Document $document, array $values, string $name, string $note): void
    {
        $isBag = $delivery->format === 'bag';
        $hasFiles = in_array($delivery->format, ['bag', 'zip', 'pdf', 'print', 'mail'], true);
        $sha256 = $remark = '';
        try {
            $file = $hasFiles ? $this->outgoing->file($delivery->user, $document, self::form($delivery), true) : null;
        } catch (Refused $refused) {
            // Named with the reason, and nothing of it goes along.
            $file = null;
            $remark = $refused->getMessage();
        }
        if ($file !== null) {
            [$path, $sha256, $remark] = [$file->path, $file->sha256, $file->remark];
            // What cannot be opened leaves as it is, with the reason.
            $remark = $remark === '' && $document->text_state === Document::TEXT_NONE ? $document->text_reason : $remark;
            $target = "{$folder}/bag/data/{$name}";
            File::ensureDirectoryExists(dirname($target), 0700);
            // A second name for the same bytes, where the file system has such; else a copy.
            @link($path, $target) || copy($path, $target) || throw new RuntimeException("“{$name}” could not be written.");
            $this->bytes += (int) filesize($target);
            foreach ($isBag ? Bag::ALGORITHMS : [] as $algorithm) {
                fwrite($this->manifests[$algorithm], Bag::manifestLine($algorithm === 'sha256' ? $sha256 : (string) hash_file($algorithm, $target), "data/{$name}"));
            }
        }
        $shown = static fn (FieldDefinition $field): string => implode('|', $field->sensitive ? array_fill(0, count($values[$field->code] ?? []), ColumnFormat::COVER) : ($values[$field->code] ?? []));
        $library = $this->catalog->libraries()->get($document->library_id)->name ?? '';
        $type = $this->catalog->types()->get((int) $document->document_type_id)->name ?? '';
        if ($this->table !== null) {
            fwrite($this->table, CsvRow::of([$document->ref, $document->title, $library, $type, $file === null && $hasFiles ? '' : $name, $note, $remark, ...array_map($shown, array_values($this->fields))]));
        }
        if ($isBag) {
            $open = array_diff_key($values, array_filter($this->fields, static fn (FieldDefinition $f): bool => $f->sensitive));
            file_put_contents("{$folder}/bag/metadata/dublin-core/{$document->ref}.xml", DublinCore::xml(DublinCore::of($this->fields, $open, [
                'title' => [$document->title], 'identifier' => [$document->ref], 'type' => [$type], 'source' => [$document->file_name], 'format' => [FileKind::from($document->file_kind)->label()], 'publisher' => [$library],
            ])));
        }
        $this->contents[] = ['ref' => $document->ref, 'title' => $document->title, 'file' => $file !== null ? "data/{$name}" : '', 'sha256' => $file !== null ? $sha256 : $document->sha256, 'remark' => $remark];
        History::record(Act::Delivered, $delivery->user, $document, ['delivery' => $delivery->id, 'as' => $delivery->format, 'form' => self::form($delivery)->value]);
    }

    /** @return string|null the path of the finished file; null when it was cancelled */
    private function packed(Delivery $delivery, string $folder): ?string
    {
        $bag = "{$folder}/bag";
        if ($this->table !== null) {
            fclose($this->table);
            $this->table = null;
        }
        if ($delivery->format === 'csv') {
            return "{$bag}/metadata/index-values.csv";
        }
        if ($delivery->format === 'ods') {
            return self::spreadsheet("{$bag}/metadata/index-values.csv", "{$folder}/table.ods");
        }
        if ($delivery->format === 'pdf' || $delivery->format === 'print') {
            return OnePdf::make($delivery->name, $this->contents, $folder, $delivery->format === 'print', static fn (): bool => Delivery::query()->whereKey($delivery->id)->value('state') === Delivery::RUNNING);
        }
        if ($delivery->format === 'mail') {
            return MailFile::make($delivery, $this->contents, $folder);
        }
        if ($delivery->format === 'zip') {
            return self::zipped(is_dir("{$bag}/data") ? "{$bag}/data" : $bag, '', "{$folder}/files.zip");
        }
        $this->tags($delivery, $bag);

        return self::zipped($bag, self::name($delivery), "{$folder}/bag.zip");
    }

    private function tags(Delivery $delivery, string $bag): void
    {
        array_map(fclose(...), $this->manifests);
        $this->manifests = [];
        File::ensureDirectoryExists("{$bag}/data", 0700);
        file_put_contents("{$bag}/bagit.txt", Bag::DECLARATION);
        file_put_contents("{$bag}/bag-info.txt", Bag::info($this->bytes, count($this->contents), Carbon::now()->toDateTimeImmutable(), [
            'Source-Organization' => (string) config('brenvic.organisation'), 'Contact-Name' => $delivery->user->name, 'External-Identifier' => "brenvic-delivery-{$delivery->id}",
            'External-Description' => $delivery->list->name.($delivery->list->note === '' ? '' : "\n{$delivery->list->note}"), 'Bag-Software-Agent' => 'Brenvic',
        ]));
        file_put_contents("{$bag}/metadata/index-values.csv-metadata.json", TableDescription::json('index-values.csv', ['reference' => 'Reference', 'title' => 'Title', 'library' => 'Library', 'type' => 'Document type', 'file' => 'File', 'note' => 'Note', 'remark' => 'Remark'], $this->fields));
        $search = $delivery->list->search;
        file_put_contents("{$bag}/metadata/query.cql", $search === null ? '' : Printer::node(Criteria::ofSearch($search)->ledger()->tree())."\n");
        foreach (Bag::ALGORITHMS as $algorithm) {
            $lines = '';
            foreach (File::allFiles($bag, true) as $file) {
                $path = str_replace('\\', '/', $file->getRelativePathname());
                if (! str_starts_with($path, 'data/') && ! str_starts_with($path, 'tagmanifest-')) {
                    $lines .= Bag::manifestLine((string) hash_file($algorithm, $file->getPathname()), $path);
                }
            }
            file_put_contents("{$bag}/tagmanifest-{$algorithm}.txt", $lines);
        }
    }

    /** Packs a folder; what is compressed already is only stored. */
    private static function zipped(string $folder, string $within, string $target): string
    {
        $zip = new ZipArchive;
        $zip->open($target, ZipArchive::CREATE | ZipArchive::OVERWRITE) === true || throw new RuntimeException('The archive cannot be written.');
        $prefix = $within === '' ? '' : "{$within}/";
        // A bag has its payload folder, be it empty.
        $prefix !== '' && $zip->addEmptyDir("{$prefix}data");
        foreach (File::allFiles($folder, true) as $file) {
            $name = $prefix.str_replace('\\', '/', $file->getRelativePathname());
            $zip->addFile($file->getPathname(), $name);
            if (preg_match('/\.(pdf|jpe?g|png|docx|zip)$/i', $name) === 1) {
                $zip->setCompressionName($name, ZipArchive::CM_STORE);
            }
        }
        $zip->close() || throw new RuntimeException('The archive cannot be written; is the disk full?');

        return $target;
    }

    private static function spreadsheet(string $csv, string $target): string
    {
        $rows = fopen($csv, 'rb') ?: throw new RuntimeException('The table is gone.');
        $content = "{$target}.xml";
        $xml = self::opened($content);
        fwrite($xml, OdsSheet::head('Pull list'));
        while (($row = fgetcsv($rows, escape: '')) !== false) {
            fwrite($xml, OdsSheet::row(array_map(strval(...), $row)));
        }
        fwrite($xml, OdsSheet::foot());
        fclose($xml);
        fclose($rows);
        OdsFile::pack($content, $target);

        return $target;
    }

    /** Puts the file in its place and says so in one step. */
    private function finish(Delivery $delivery, string $file): void
    {
        $ending = ['bag' => 'zip', 'zip' => 'zip', 'csv' => 'csv', 'ods' => 'ods', 'pdf' => 'pdf', 'print' => 'pdf', 'mail' => 'eml'][$delivery->format];
        $target = self::folder()."/{$delivery->id}.{$ending}";
        rename($file, $target) || throw new RuntimeException('The delivery could not be put in its place.');
        $updated = Delivery::query()->whereKey($delivery->id)->where('state', Delivery::RUNNING)->update([
            'state' => Delivery::DONE, 'file' => basename($target), 'bytes' => (int) filesize($target), 'sha256' => hash_file('sha256', $target),
            'contents' => json_encode($this->contents, JSON_UNESCAPED_UNICODE), 'expires_at' => now()->addDays(self::KEPT),
        ]);
        if ($updated === 0) {
            @unlink($target);
        } elseif ($delivery->format === 'mail') {
            MailFile::post($delivery);
        }
    }

    /** What a delivery is called as a file, without its ending. */
    public static function name(Delivery $delivery): string
    {
        return Bag::names([trim((string) preg_replace('/[^\p{L}\p{N}]+/u', '-', $delivery->name), '-') ?: "delivery-{$delivery->id}"])[0];
    }

    /** @return resource */
    private static function opened(string $path)
    {
        return fopen($path, 'wb') ?: throw new RuntimeException("“{$path}” cannot be written.");
    }
}
