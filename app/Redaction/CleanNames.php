<?php

declare(strict_types=1);

namespace App\Redaction;

use App\History\Act;
use App\History\History;
use App\Models\Document;
use App\Models\Redaction;
use App\Support\Column;
use Brenvic\Core\Index\Tokenizer;

/**
 * Takes words that are removed from a document out of its names too: the file name, the title and the path go with it into
 * columns, deliveries and the search, whoever sees it. They are what they were again when nothing of them is removed any more.
 */
final readonly class CleanNames
{
    private const NAMES = ['file_name', 'title', 'path'];

    /** Shorter words (“the”, “and”) say nothing by themselves. */
    private const LEAST = 4;

    public function follow(Document $document): void
    {
        $removed = self::words(Column::texts(Redaction::query()->where('document_id', $document->id)->pluck('exact')));
        $before = $document->names_before ?? [];
        $names = $kept = [];
        foreach (self::NAMES as $name) {
            // What somebody has changed since is theirs.
            $was =
                isset($before[$name]) && $document->{$name} === $before[$name]['now']
                    ? (string) $before[$name]['was']
                    : (string) $document->{$name};
            $clean = self::names($was, $removed) ? self::instead($document, $name, $was) : $was;
            if ($clean !== $was) {
                $kept[$name] = ['was' => $was, 'now' => $clean];
            }
            if ($clean !== $document->{$name}) {
                $names[$name] = $clean;
            }
        }
        if ($names === [] && $kept === $before) {
            return;
        }
        $document->fill([...$names, 'names_before' => $kept === [] ? null : $kept])->save();
        // The history names what changed, and not the words.
        $names === [] || History::record(Act::Renamed, null, $document, ['names' => array_keys($names), 'why' => 'redaction']);
    }

    private static function instead(Document $document, string $name, string $was): string
    {
        $ending = pathinfo($was, PATHINFO_EXTENSION);

        return match ($name) {
            'file_name' => $document->ref.($ending === '' ? '' : ".{$ending}"),
            'title' => $document->ref,
            default => '',
        };
    }

    /**
     * @param  list<string>  $texts
     * @return array<string, true> folded words
     */
    private static function words(array $texts): array
    {
        $words = [];
        foreach ($texts as $text) {
            foreach (Tokenizer::located(str_replace(['_', '-', '.'], ' ', $text)) as [$word]) {
                if (mb_strlen($word) >= self::LEAST) {
                    $words[$word] = true;
                }
            }
        }

        return $words;
    }

    /** @param  array<string, true>  $removed */
    private static function names(string $text, array $removed): bool
    {
        return $removed !== [] && array_intersect_key(self::words([$text]), $removed) !== [];
    }
}
