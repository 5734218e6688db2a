<?php

declare(strict_types=1);

namespace Bench;

use App\Index\SqliteStore;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Index\IndexedDocument;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Index\IndexWriter;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Search\Filing\DocumentEntries;
use Brenvic\Core\Search\Filing\FiledDocument;
use Illuminate\Support\Facades\DB;
use RuntimeException;

/** Brings the collection into the index, and changes one document of the full one. */
final readonly class IndexSuite
{
    private const BATCH = 65_536;

    private const PIECE = 4_096;

    public function __construct(private Corpus $corpus, private Report $report)
    {
    }

    public function run(): void
    {
        $store = new SqliteStore();
        if ($store->stamps() === []) {
            $this->build($store);
        }
        $this->changeOne($store);
    }

    private function build(SqliteStore $store): void
    {
        $writer = new IndexWriter($store);
        $batch = [];
        $putting = 0.0;
        $text = 0;
        foreach ($this->corpus->documents() as $number => $document) {
            $text += strlen($document['title']) + strlen($document['text']);
            $batch[] = self::indexed($number, $document);
            $isLast = $number === $this->corpus->documents;
            if (count($batch) === self::PIECE || $isLast) {
                $mark = microtime(true);
                $writer->put($batch);
                $batch = [];
                $putting += microtime(true) - $mark;
            }
            if ($writer->pending() === self::BATCH || $isLast) {
                $mark = microtime(true);
                DB::transaction(fn () => $writer->flush());
                $putting += microtime(true) - $mark;
                $this->report->note(
                    sprintf(
                        '  %9s indexed, %.0f a second, %.0f MB of memory',
                        number_format($number),
                        $number / $putting,
                        memory_get_peak_usage(true) / 1e6,
                    ),
                );
            }
        }
        $this->report->add(
            'index',
            'a document, in bulk',
            'Brenvic',
            (1000 * $putting) / $this->corpus->documents,
            (1000 * $putting) / $this->corpus->documents,
        );
        $size = (int) DB::scalar('SELECT page_count * page_size FROM pragma_page_count(), pragma_page_size()');
        $this->report->note(sprintf('  text %.1f MB, index %.1f MB: %.2f times the text', $text / 1e6, $size / 1e6, $size / max(1, $text)));
    }

    private function changeOne(SqliteStore $store): void
    {
        $number = $this->corpus->documents + 1;
        $turn = 0;
        $this->report->time('index', 'change one document and find it again', 'Brenvic', function () use ($store, $number, &$turn): void {
            $writer = new IndexWriter($store);
            $word = 'changed'.++$turn;
            $writer->put([
                self::indexed($number, [
                    'title' => 'a changed one',
                    'text' => "{$word} and some more words",
                    'values' => ['library' => 8] + array_map(static fn (): int => 1, Corpus::FIELDS),
                    'day' => 730_000,
                    'amount' => $turn,
                ]),
            ]);
            $writer->flush();
            $reader = new IndexReader($store);
            $found = $reader->words([Part::Text->value], array_values($reader->wordNumbers([$word])));
            if ($found->documents() !== [$number]) {
                throw new RuntimeException('The changed document was not found again.');
            }
        });
        $writer = new IndexWriter($store);
        $writer->remove($number);
        $writer->flush();
    }

    /** @param  array{title: string, text: string, values: array<string, int>, day: int, amount: int}  $document */
    private static function indexed(int $number, array $document): IndexedDocument
    {
        static $fields = null;
        $fields ??= array_column(Corpus::definitions(), null, 'code');
        $values = array_map(static fn (int $value): array => [(string) $value], array_diff_key($document['values'], ['library' => 0]));
        $values['dated'] = [PartialDate::ofDay($document['day'])->iso()];
        $values['amount'] = [(string) $document['amount']];

        return DocumentEntries::of(
            new FiledDocument($number, $document['title'], $document['text'], (string) $document['values']['library'], $values),
            $fields,
        );
    }
}
