<?php

declare(strict_types=1);

namespace App\Reading;

use App\Catalog\Catalog;
use App\Files\PageStore;
use App\Models\Document;
use App\Models\Field;
use App\Models\Page;
use App\Support\Column;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Design\ReadingPart;
use Brenvic\Core\Reading\Reader;
use Brenvic\Core\Reading\TooManySteps;
use Closure;
use Illuminate\Support\Facades\DB;

/**
 * What the texts of filed documents mention, by the reading rules that say so. It is made of the pages alone and read anew whenever a
 * document comes into the index, so that it follows texts, rules and redactions.
 */
final readonly class Mentions
{
    /** Values of a field that a document mentions at most. */
    private const MOST = 100;

    public function __construct(private Catalog $catalog)
    {
    }

    /**
     * @param  list<int>  $ids
     * @param  Closure(): array<int, array<int, string>>  $redacted  gives of redacted documents what is left of each page
     */
    public function read(array $ids, Closure $redacted): void
    {
        $design = $this->catalog->design();
        $rules = array_filter($design->parts(ReadingPart::class), static fn (ReadingPart $part): bool => $part->isMention);
        $had = DB::table('mentioned_values')->whereIntegerInRaw('document_id', $ids)->exists();
        if ($rules === [] && ! $had) {
            return;
        }
        $types = DB::table('documents')->whereIntegerInRaw('id', $ids)->where('state', Document::FILED)->pluck('document_type_id', 'id')->all();
        $left = $rules === [] ? [] : $redacted();
        $fields = Field::query()->pluck('id', 'code')->all();
        $rows = [];
        foreach ($rules === [] ? [] : $types as $id => $type) {
            $code = $this->catalog->types()->get((int) $type)?->code;
            $its = array_filter($rules, static fn (ReadingPart $part): bool => $part->reads($code));
            $pages = $its === [] ? [] : self::pages((int) $id, $left);
            foreach ($this->mentioned($its, $pages) as $field => $values) {
                foreach (array_slice($values, 0, self::MOST) as $position => $value) {
                    $rows[] = ['document_id' => (int) $id, 'field_id' => (int) $fields[$field], 'position' => $position, 'value' => $value];
                }
            }
        }
        DB::transaction(static function () use ($ids, $rows): void {
            DB::table('mentioned_values')->whereIntegerInRaw('document_id', $ids)->delete();
            foreach (array_chunk($rows, 200) as $some) {
                DB::table('mentioned_values')->insert($some);
            }
        });
    }

    /**
     * @param  array<string, ReadingPart>  $rules
     * @param  array<int, TextPage>  $pages
     * @return array<string, list<string>> normal forms by field code, each once
     */
    private function mentioned(array $rules, array $pages): array
    {
        $mentioned = [];
        foreach ($rules as $part) {
            $field = $this->catalog->fields()[$part->field] ?? null;
            if ($field === null) {
                continue;
            }
            try {
                $found = Reader::read($part->rule($this->catalog->design()), $field, $pages)->values();
            } catch (TooManySteps) {
                // Its trial says so; of this document it reads nothing.
                continue;
            }
            $mentioned[$part->field] = Column::texts(array_values(array_unique([...$mentioned[$part->field] ?? [], ...$found])));
        }

        return $mentioned;
    }

    /**
     * @param  array<int, array<int, string>>  $left
     * @return array<int, TextPage>
     */
    private static function pages(int $document, array $left): array
    {
        if (isset($left[$document])) {
            // What is removed is mentioned nowhere; words have no places there.
            return array_map(static fn (string $text): TextPage => new TextPage(0, 0, $text), $left[$document]);
        }
        $pages = [];
        foreach (Page::query()->where('document_id', $document)->orderBy('number')->cursor() as $page) {
            $pages[$page->number] = PageStore::page($page);
        }

        return $pages;
    }
}
