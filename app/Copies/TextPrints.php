<?php

declare(strict_types=1);

namespace App\Copies;

use Brenvic\Core\Copies\TextPrint;
use Illuminate\Support\Facades\DB;

/** Keeps of each document by what texts that are nearly alike are found; all of it is made of the pages, and can be made again. */
final class TextPrints
{
    /** So much of a text is compared, in bytes. */
    private const MOST = 4_000_000;

    /** Notes it of the pages as they are now. */
    public static function note(int $document): void
    {
        self::forget($document);
        $print = self::of($document);
        $keys = $print->keys();
        // A text that says too little is none like another.
        DB::table('documents')->where('id', $document)->update(['text_print' => $keys === [] ? '' : pack('qV*', $print->whole, ...$keys)]);
        DB::table('near_texts')->insertOrIgnore(array_map(static fn (int $key): array => ['key' => $key, 'document_id' => $document], $keys));
    }

    /** @return list<int> the keys that were noted */
    public static function keys(int $document): array
    {
        $print = (string) DB::table('documents')->where('id', $document)->value('text_print');

        return strlen($print) <= 8 ? [] : array_values(unpack('V*', substr($print, 8)) ?: []);
    }

    public static function forget(int $document): void
    {
        DB::table('near_texts')->whereIntegerInRaw('key', self::keys($document))->where('document_id', $document)->delete();
    }

    public static function of(int $document): TextPrint
    {
        $text = '';
        foreach (DB::table('pages')->where('document_id', $document)->orderBy('number')->select('text')->cursor() as $page) {
            $text .= "{$page->text}\n";
            if (strlen($text) > self::MOST) {
                break;
            }
        }

        return TextPrint::of($text);
    }
}
