<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

/**
 * Compares what the index holds under its keys with what its records say must be there: the records of a segment are
 * put into an empty index, and both are laid side by side.
 */
final readonly class IndexCheck
{
    public function __construct(private IndexStore $store)
    {
    }

    /**
     * @param  array<int, string>  $records  document => encoded record, all of the segment
     * @param  list<string>  $keys  the keys that the segment has blobs under
     * @return array<string, list<int>> key => documents that it holds and should not, or should and does not
     */
    public function segment(int $segment, array $records, array $keys): array
    {
        $fresh = new MemoryStore();
        foreach ([Keys::PARTS, Keys::FIELDS] as $space) {
            $names = $this->store->terms($space);
            ksort($names);
            $fresh->addTerms($space, array_values($names));
        }
        $writer = new IndexWriter($fresh);
        foreach ($records as $document => $record) {
            $writer->replay($document, ForwardRecord::decode($record));
        }
        $writer->flush();
        $differences = [];
        foreach (array_unique([...$keys, ...$fresh->keys()]) as $key) {
            $offsets = self::different($key, $this->store->blob($key, $segment), $fresh->blob($key, $segment));
            if ($offsets !== []) {
                $differences[$key] = array_map(static fn (int $offset): int => ($segment << 16) | $offset, $offsets);
            }
        }

        return $differences;
    }

    /** @return list<int> the offsets at which two blobs of one key differ */
    private static function different(string $key, ?string $is, ?string $should): array
    {
        if ($is === $should) {
            return [];
        }

        return match ($key[0]) {
            'w', 'v' => self::differentPostings($is, $should),
            'c' => self::differentBytes(
                $is ?? str_repeat("\0", Bits::SEGMENT_DOCUMENTS),
                $should ?? str_repeat("\0", Bits::SEGMENT_DOCUMENTS),
            ),
            default => Bits::offsets(($is ?? Bits::none()) ^ ($should ?? Bits::none())),
        };
    }

    /**
     * A posting that shrank may be written otherwise than one that grew, and yet say the same.
     *
     * @return list<int>
     */
    private static function differentPostings(?string $is, ?string $should): array
    {
        $none = array_fill(0, Posting::DIGITS + 1, Bits::none());
        $left = $is === null ? $none : [Posting::bits($is), ...Posting::ownSlices($is)];
        $right = $should === null ? $none : [Posting::bits($should), ...Posting::ownSlices($should)];
        $different = Bits::none();
        foreach ($left as $i => $bits) {
            $different |= $bits ^ $right[$i];
        }

        return Bits::offsets($different);
    }

    /** @return list<int> */
    private static function differentBytes(string $is, string $should): array
    {
        $different = $is ^ $should;
        $offsets = [];
        for ($at = strspn($different, "\0"), $end = strlen($different); $at < $end; $at++, $at += strspn($different, "\0", $at)) {
            $offsets[] = $at;
        }

        return $offsets;
    }
}
