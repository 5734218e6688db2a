<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Access\HistoryRights;
use App\Catalog\Catalog;
use App\History\Act;
use App\History\History;
use App\Index\Indexer;
use App\Index\RedactedTexts;
use App\Models\Delivery;
use App\Models\DeliveryForm;
use App\Models\Document;
use App\Notices\NoticeKind;
use App\Notices\Notices;
use App\Redaction\Redactions;
use App\Support\Refused;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Exchange\BagNames;
use Brenvic\Core\Exchange\DublinCore;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;
use RuntimeException;

/**
 * Makes the file of a delivery in a folder of its own, document by document, and puts it in its place when it is whole: a
 * delivery that was stopped in the middle has no file, and is made anew.
 */
final class DeliveryMaker
{
    private const CHUNK = 100;

    /** Days a delivery can be fetched. */
    private const KEPT = 30;

    /** @var array<string, FieldDefinition> */
    private array $fields = [];

    public function __construct(
        private readonly Catalog $catalog,
        private readonly Outgoing $outgoing,
        private readonly PullLists $lists,
        private readonly HistoryRights $histories,
        private readonly Redactions $redactions,
    ) {
    }

    /** Takes away what is left of a delivery that was not finished. */
    public static function clear(int $delivery): void
    {
        File::deleteDirectory(Delivery::folder()."/making-{$delivery}");
    }

    public function make(Delivery $delivery): void
    {
        $place = Delivery::folder()."/making-{$delivery->id}";
        $format = DeliveryFormats::of($delivery);
        $folder = new DeliveryFolder($place, $format->hasRecords());
        $delivery->items()->delete();
        try {
            $ids = $this->lists->seen($delivery->user, $delivery->list);
            $delivery->update(['state' => Delivery::RUNNING, 'total' => count($ids), 'done' => 0, 'message' => '']);
            // What a person may not see uncovered is covered in what they take away.
            $this->fields = $this->catalog->fieldsFor($delivery->user);
            $file = $this->fill($delivery, $folder, $format, $ids)
                ? $format->pack(
                    $delivery,
                    $folder,
                    new Packing($place, $folder->ended(DeliveryTable::PATH), $this->fields, fn (): bool => $this->goesOn($delivery)),
                )
                : null;
            $isDone = $file !== null && $this->finish($delivery, $format, $file);
        } catch (Refused $refused) {
            Delivery::query()
                ->whereKey($delivery->id)
                ->where('state', Delivery::RUNNING)
                ->update(['state' => Delivery::FAILED, 'message' => $refused->getMessage()]);
            self::tellFailed($delivery->id);
        } finally {
            ($isDone ?? false) || $delivery->items()->delete();
            $folder->delete();
        }
    }

    /** Tells who wants it that a delivery failed. */
    public static function tellFailed(int $id): void
    {
        $delivery = Delivery::query()->with('user')->find($id);
        if ($delivery !== null && $delivery->state === Delivery::FAILED) {
            Notices::tell(
                [$delivery->user],
                NoticeKind::Delivery,
                ['text' => "The delivery “{$delivery->name}” failed. {$delivery->message}"],
                "/lists/{$delivery->pull_list_id}",
            );
        }
    }

    /**
     * @param  list<int>  $ids
     * @return bool false when it was cancelled
     */
    private function fill(Delivery $delivery, DeliveryFolder $folder, DeliveryFormat $format, array $ids): bool
    {
        $folder->append(DeliveryTable::PATH, DeliveryTable::line($delivery, DeliveryTable::head($delivery, $this->fields)));
        $names = new BagNames();
        foreach (array_chunk($ids, self::CHUNK) as $chunk) {
            if (! $this->goesOn($delivery)) {
                return false;
            }
            $values = Indexer::values($chunk);
            $documents = Document::query()->findMany($chunk)->keyBy('id')->all();
            $notes = DB::table('pull_list_items')
                ->where('pull_list_id', $delivery->pull_list_id)
                ->whereIntegerInRaw('document_id', $chunk)
                ->pluck('note', 'document_id');
            $items = [];
            foreach ($chunk as $id) {
                if (isset($documents[$id])) {
                    $of = $this->byCode($values[$id] ?? []);
                    $items[] = [
                        'delivery_id' => $delivery->id,
                        ...$this->document(
                            $delivery,
                            $folder,
                            $documents[$id],
                            $of,
                            [
                                'format' => $format,
                                'name' => $names->take($this->wanted($delivery, $documents[$id], $of)),
                                'note' => (string) ($notes[$id] ?? ''),
                            ],
                        ),
                    ];
                }
            }
            DB::table('delivery_items')->insert($items);
            if ($format->hasRecords()) {
                // And not that of others’ acts on what they may not change; nor, beside a redacted copy, notes that may have
                // the words that were taken out of it.
                $isRedacted = self::form($delivery)->isRedacted();
                $bound = $this->redactions->bound($delivery->user);
                $readable = array_filter(
                    $this->histories->readable($delivery->user, $documents),
                    static fn (int $id): bool => ! in_array($id, $bound, true) && ! ($isRedacted && RedactedTexts::has($id)),
                );
                foreach (DB::table('history')->whereIntegerInRaw('document_id', array_values($readable))->orderBy('id')->cursor() as $row) {
                    $folder->append(
                        BagFormat::HISTORY,
                        json_encode(
                            [...(array) $row, 'detail' => $this->told((string) $row->detail)],
                            JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_THROW_ON_ERROR,
                        )."\n",
                    );
                }
            }
            $delivery->update(['done' => $delivery->done + count($chunk)]);
        }

        return true;
    }

    private function goesOn(Delivery $delivery): bool
    {
        return Delivery::query()->whereKey($delivery->id)->value('state') === Delivery::RUNNING;
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
            $told[(string) $key] = $isValue && (! isset($this->fields[$key]) || Cover::hides($this->fields[$key])) ? Cover::SIGN : $value;
        }

        return $told;
    }

    /**
     * Where the file of a document should go, folders and all.
     *
     * @param  array<string, list<string>>  $values
     */
    private function wanted(Delivery $delivery, Document $document, array $values): string
    {
        $pattern = (string) ($delivery->settings['names'] ?? '{reference} {file}');
        $levels = array_filter($delivery->settings['levels'] ?? [], is_string(...));
        $folders = array_map(
            fn (string $code): string => str_replace('/', '-', $this->level($document, $values, $code)),
            array_values($levels),
        );
        $file = $this->outgoing->name($delivery->user, $document, self::form($delivery));
        $name = strtr($pattern, ['{reference}' => $document->ref, '{title}' => str_replace('/', '-', $document->title), '{file}' => $file]);
        $ending = pathinfo($file, PATHINFO_EXTENSION);

        return implode('/', [
            ...$folders,
            str_replace('/', '-', str_ends_with($name, ".{$ending}") || $ending === '' ? $name : "{$name}.{$ending}"),
        ]);
    }

    /** @param  array<string, list<string>>  $values */
    private function level(Document $document, array $values, string $code): string
    {
        return match ($code) {
            'type' => $this->catalog->types()->get((int) $document->document_type_id)->name ?? 'Without a type',
            'library' => $this->catalog->libraries()->get($document->library_id)->name ?? '',
            default => isset($values[$code][0], $this->fields[$code]) && ! Cover::hides($this->fields[$code])
                ? ($this->fields[$code]->kind->isDate()
                    ? substr($values[$code][0], 0, 4)
                    : $this->fields[$code]->display($values[$code][0]))
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

    /**
     * @param  array<string, list<string>>  $values
     * @param  array{format: DeliveryFormat, name: string, note: string}  $as  what its file is called there, and what the list says of it
     * @return array{ref: string, title: string, file: string, sha256: string, remark: string}
     */
    private function document(Delivery $delivery, DeliveryFolder $folder, Document $document, array $values, array $as): array
    {
        ['format' => $format, 'name' => $name, 'note' => $note] = $as;
        $hasFiles = $format->hasFiles();
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
            $folder->payload($path, $name, $sha256);
        }
        $shown = static function (FieldDefinition $field) use ($values, $delivery): array {
            $of = Cover::each($field, $values[$field->code] ?? []);
            $labels = Cover::hides($field) ? $of : array_map($field->display(...), $of);

            return DeliveryTable::isLabelled($delivery, $field) ? [implode('|', $of), implode('|', $labels)] : [implode('|', $of)];
        };
        $library = $this->catalog->libraries()->get($document->library_id)->name ?? '';
        $type = $this->catalog->types()->get((int) $document->document_type_id)->name ?? '';
        $folder->append(
            DeliveryTable::PATH,
            DeliveryTable::line($delivery, [
                $document->ref,
                $document->title,
                $library,
                $type,
                $file === null && $hasFiles ? '' : $name,
                $note,
                $remark,
                ...array_merge([], ...array_map($shown, array_values($this->fields))),
            ]),
        );
        if ($format->hasRecords()) {
            $open = array_diff_key($values, Cover::hidden($this->fields));
            $folder->tag(
                "metadata/dublin-core/{$document->ref}.xml",
                DublinCore::xml(
                    DublinCore::of($this->fields, $open, [
                        'title' => [$document->title],
                        'identifier' => [$document->ref],
                        'type' => [$type],
                        'source' => [$document->file_name],
                        'format' => [FileKind::from($document->file_kind)->label()],
                        'publisher' => [$library],
                    ]),
                ),
            );
        }
        History::record(Act::Delivered, $delivery->user, $document, [
            'delivery' => $delivery->id,
            'as' => $delivery->format,
            'form' => self::form($delivery)->value,
        ]);

        return [
            'ref' => $document->ref,
            'title' => $document->title,
            'file' => $file !== null ? "data/{$name}" : '',
            'sha256' => $file !== null ? $sha256 : $document->sha256,
            'remark' => $remark,
        ];
    }

    /**
     * Puts the file in its place and says so in one step.
     *
     * @return bool false when it was cancelled meanwhile
     */
    private function finish(Delivery $delivery, DeliveryFormat $format, string $file): bool
    {
        $target = Delivery::folder()."/{$delivery->id}.{$format->ending}";
        rename($file, $target) || throw new RuntimeException('The delivery could not be put in its place.');
        $updated = Delivery::query()
            ->whereKey($delivery->id)
            ->where('state', Delivery::RUNNING)
            ->update([
                'state' => Delivery::DONE,
                'file' => basename($target),
                'bytes' => (int) filesize($target),
                'sha256' => hash_file('sha256', $target),
                'expires_at' => now()->addDays(self::KEPT),
            ]);
        if ($updated === 0) {
            @unlink($target);
        } else {
            $format->done($delivery);
        }

        return $updated > 0;
    }

    /** What a delivery is called as a file, without its ending. */
    public static function name(Delivery $delivery): string
    {
        return (new BagNames())->take(
            trim((string) preg_replace('/[^\p{L}\p{N}]+/u', '-', $delivery->name), '-') ?: "delivery-{$delivery->id}",
        );
    }
}
