<?php

declare(strict_types=1);

namespace App\Reading;

use App\Catalog\Catalog;
use App\Files\PageStore;
use App\Models\Document;
use App\Models\Field;
use App\Support\Column;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Design\ReadingPart;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Reading\Reader;
use Brenvic\Core\Reading\ReadingRule;
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

    /** Documents whose pages are in memory together. */
    private const AT_ONCE = 20;

    public function __construct(private Catalog $catalog)
    {
    }

    /**
     * @param  list<int>  $ids
     * @param  Closure(): array<int, array<int, string>>  $redacted  gives of redacted documents what is left of each page
     */
    public function read(array $ids, Closure $redacted): void
    {
        $rules = $this->rules();
        $rows = $rules === [] ? [] : $this->rows($rules, $ids, $redacted());
        if ($rows === [] && ! DB::table('mentioned_values')->whereIntegerInRaw('document_id', $ids)->exists()) {
            return;
        }
        DB::transaction(static function () use ($ids, $rows): void {
            DB::table('mentioned_values')->whereIntegerInRaw('document_id', $ids)->delete();
            foreach (array_chunk($rows, 200) as $some) {
                DB::table('mentioned_values')->insert($some);
            }
        });
    }

    /** @return list<array{ReadingPart, FieldDefinition, ReadingRule}> those that count what texts mention */
    private function rules(): array
    {
        $design = $this->catalog->design();
        $rules = [];
        foreach ($design->parts(ReadingPart::class) as $part) {
            $field = $part->isMention ? $this->catalog->fields()[$part->field] ?? null : null;
            if ($field !== null) {
                $rules[] = [$part, $field, $part->rule($design)];
            }
        }

        return $rules;
    }

    /**
     * @param  list<array{ReadingPart, FieldDefinition, ReadingRule}>  $rules
     * @param  list<int>  $ids
     * @param  array<int, array<int, string>>  $redacted  what is left of each page of redacted documents
     * @return list<array{document_id: int, field_id: int, position: int, value: string}>
     */
    private function rows(array $rules, array $ids, array $redacted): array
    {
        $types = DB::table('documents')->whereIntegerInRaw('id', $ids)->where('state', Document::FILED)->pluck('document_type_id', 'id');
        $fields = Field::query()->pluck('id', 'code');
        $rows = [];
        foreach ($types->chunk(self::AT_ONCE) as $some) {
            $pages = PageStore::of(Column::numbers($some->keys()));
            foreach ($some as $id => $type) {
                $code = $this->catalog->types()->get((int) $type)?->code;
                $its = array_filter($rules, static fn (array $rule): bool => $rule[0]->reads($code));
                foreach (self::mentioned($its, self::whole($pages[$id] ?? [], $redacted[$id] ?? null)) as $field => $values) {
                    foreach ($values as $position => $value) {
                        $rows[] = ['document_id' => (int) $id, 'field_id' => (int) $fields[$field], 'position' => $position, 'value' => $value];
                    }
                }
            }
        }

        return $rows;
    }

    /**
     * @param  array<array{ReadingPart, FieldDefinition, ReadingRule}>  $rules
     * @param  array<int, TextPage>  $pages
     * @return array<string, list<string>> normal forms by field code, each once
     */
    private static function mentioned(array $rules, array $pages): array
    {
        $mentioned = [];
        foreach ($rules as [, $field, $rule]) {
            try {
                $found = Reader::read($rule, $field, $pages)->values();
            } catch (TooManySteps) {
                // Its trial says so; of this document it reads nothing.
                continue;
            }
            $known = array_values(array_unique([...$mentioned[$field->code] ?? [], ...$found]));
            $mentioned[$field->code] = array_slice($known, 0, self::MOST);
        }

        return $mentioned;
    }

    /**
     * The pages of a document without what was removed from it: that is mentioned nowhere. Words have no places there.
     *
     * @param  array<int, TextPage>  $pages
     * @param  array<int, string>|null  $left  of each page; null where nothing was removed
     * @return array<int, TextPage>
     */
    private static function whole(array $pages, ?array $left): array
    {
        return $left === null ? $pages : array_map(static fn (string $text): TextPage => new TextPage(0, 0, $text), $left);
    }
}
