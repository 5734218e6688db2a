<?php

declare(strict_types=1);

namespace App\Copies;

use Brenvic\Core\Capture\TextLanguage;
use Brenvic\Core\Copies\KeyBucket;
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
        $families = $print->families();
        // A text that says too little is none like another.
        DB::table('documents')
            ->where('id', $document)
            ->update(['text_print' => pack('V*', ...$families), 'told_language' => TextLanguage::of($text)]);
        $rests = $place = [];
        foreach ($print->keys() as $at => $key) {
            [$bucket, $rest] = KeyBucket::of($key);
            $rests[$bucket][] = $rest;
            $place[$bucket][$rest][] = $families[$at];
        }
        $stored = self::buckets(array_keys($rests));
        foreach ($rests as $bucket => $of) {
            self::keep($bucket, KeyBucket::with($stored[$bucket] ?? '', $document, $of));
        }
        self::join($document, $place, $stored);
        Layouts::note($document);
    }

    /** @return array<int, int> how many keys it has in common with others, by their ids */
    public static function sharers(int $document): array
    {
        $common = [];
        foreach (self::buckets(self::beginnings(self::families($document))) as $stored) {
            $entries = KeyBucket::entries($stored);
            $own = array_column(array_filter($entries, static fn (array $entry): bool => $entry[0] === $document), 1, 1);
            foreach ($entries as [$other, $rest]) {
                if (isset($own[$rest]) && $other !== $document) {
                    $common[$other] = ($common[$other] ?? 0) + 1;
                }
            }
        }

        return $common;
    }

    public static function forget(int $document): void
    {
        Layouts::forget($document);
        $families = self::families($document);
        if ($families === []) {
            return;
        }
        foreach (self::buckets(self::beginnings($families)) as $bucket => $stored) {
            self::keep($bucket, KeyBucket::with($stored, $document, []));
        }
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

    /**
     * @param  array<int, array<int, list<int>>>  $families  the keys of families by the bucket and rest of the key in their place
     * @param  array<int, string>  $stored  what others have in these buckets
     */
    private static function join(int $document, array $families, array $stored): void
    {
        $met = [];
        foreach ($stored as $bucket => $entries) {
            foreach (KeyBucket::entries($entries) as [$other, $rest]) {
                foreach ($families[$bucket][$rest] ?? [] as $family) {
                    $met[$other][] = $family;
                }
            }
        }
        $rows = [];
        foreach (array_chunk(array_keys($met), 500) as $some) {
            foreach (DB::table('documents')->whereIntegerInRaw('id', $some)->pluck('text_print', 'id') as $other => $print) {
                foreach (array_intersect($met[$other], self::read((string) $print)) as $family) {
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

    /**
     * @param  list<int>  $numbers
     * @return array<int, string> what is stored in buckets, by their number
     */
    private static function buckets(array $numbers): array
    {
        return DB::table('near_texts')->whereIntegerInRaw('bucket', $numbers)->pluck('entries', 'bucket')->map(strval(...))->all();
    }

    private static function keep(int $bucket, string $entries): void
    {
        DB::table('near_texts')->upsert(['bucket' => $bucket, 'entries' => $entries], ['bucket'], ['entries']);
    }

    /**
     * @param  list<int>  $families
     * @return list<int> the buckets that its keys are in
     */
    private static function beginnings(array $families): array
    {
        return array_values(array_unique(array_map(TextPrint::beginning(...), $families)));
    }

    /** @return list<int> the keys of families that were noted */
    private static function families(int $document): array
    {
        return self::read((string) DB::table('documents')->where('id', $document)->value('text_print'));
    }

    /** @return list<int> */
    private static function read(string $print): array
    {
        return $print === '' ? [] : array_values((array) unpack('V*', $print));
    }
}
