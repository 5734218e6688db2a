<?php

declare(strict_types=1);

namespace App\Copies;

use Brenvic\Core\Capture\TextLanguage;
use Brenvic\Core\Copies\TextPrint;
use Illuminate\Support\Facades\DB;

/**
 * Keeps of each document by what texts that are nearly alike are found, and the language that its text is told to be in; all of it is
 * made of the pages, and can be made again.
 */
final class TextPrints
{
    /** So much of a text is compared, in bytes. */
    private const MOST = 4_000_000;

    /** Notes it of the pages as they are now. The index takes the language from it, so it is noted first. */
    public static function note(int $document): void
    {
        self::forget($document);
        $text = self::text($document);
        $print = TextPrint::of($text);
        $keys = $print->keys();
        $families = $print->families();
        // A text that says too little is none like another.
        DB::table('documents')
            ->where('id', $document)
            ->update(['text_print' => pack('V*', ...$keys, ...$families), 'told_language' => TextLanguage::of($text)]);
        DB::table('near_texts')->insertOrIgnore(array_map(static fn (int $key): array => ['key' => $key, 'document_id' => $document], $keys));
        self::join($document, array_combine($keys, $families));
        Layouts::note($document);
    }

    /** @return list<int> the keys that were noted */
    public static function keys(int $document): array
    {
        return self::noted($document)[0];
    }

    public static function forget(int $document): void
    {
        Layouts::forget($document);
        [$keys, $families] = self::noted($document);
        if ($keys === []) {
            return;
        }
        DB::table('near_texts')->whereIntegerInRaw('key', $keys)->where('document_id', $document)->delete();
        if (DB::table('near_families')->whereIntegerInRaw('key', $families)->where('document_id', $document)->delete() === 0) {
            return;
        }
        foreach ($families as $family) {
            // Who is left alone has no family.
            $left = DB::table('near_families')->where('key', $family)->limit(2)->pluck('document_id');
            if ($left->count() === 1) {
                DB::table('near_families')->where('key', $family)->delete();
            }
        }
        self::changed();
    }

    public static function of(int $document): TextPrint
    {
        return TextPrint::of(self::text($document));
    }

    private static function text(int $document): string
    {
        $text = '';
        foreach (DB::table('pages')->where('document_id', $document)->orderBy('number')->select('text')->cursor() as $page) {
            $text .= "{$page->text}\n";
            if (strlen($text) > self::MOST) {
                break;
            }
        }

        return $text;
    }

    /** @param  array<int, int>  $families  the key of a family by the key that leads to it */
    private static function join(int $document, array $families): void
    {
        $rows = [];
        foreach ($families as $key => $family) {
            $others = DB::table('near_texts')
                ->join('documents', 'documents.id', 'near_texts.document_id')
                ->where('near_texts.key', $key)
                ->where('near_texts.document_id', '!=', $document)
                ->pluck('documents.text_print', 'documents.id');
            foreach ($others as $other => $print) {
                if (in_array($family, self::read((string) $print)[1], true)) {
                    $rows[] = ['key' => $family, 'document_id' => $document];
                    $rows[] = ['key' => $family, 'document_id' => (int) $other];
                }
            }
        }
        foreach (array_chunk($rows, 500) as $some) {
            DB::table('near_families')->insertOrIgnore($some);
        }
        if ($rows !== []) {
            self::changed();
        }
    }

    private static function changed(): void
    {
        DB::table('near_families_changed')->increment('times');
    }

    /** @return array{list<int>, list<int>} the keys that were noted, and those of families */
    private static function noted(int $document): array
    {
        return self::read((string) DB::table('documents')->where('id', $document)->value('text_print'));
    }

    /** @return array{list<int>, list<int>} */
    private static function read(string $print): array
    {
        $keys = $print === '' ? [] : array_values((array) unpack('V*', $print));

        return [array_slice($keys, 0, TextPrint::BANDS), array_slice($keys, TextPrint::BANDS)];
    }
}
