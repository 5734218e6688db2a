<?php

declare(strict_types=1);

namespace Brenvic\Core\Index;

use Generator;

/**
 * A set of documents, as one bit string for each segment that holds any. Documents are numbered from 1; document `d`
 * lies in segment `d >> 16`. Sets never change; every operation makes a new one.
 */
final class DocumentSet
{
    private ?int $count = null;

    /** @var array<int, ColumnMask> */
    private array $masks = [];

    /** @var array<int, int> */
    private array $counts = [];

    /** @var array<int, list<int>> */
    private array $offsets = [];

    /** @param  array<int, string>  $segments segment => bits (`Bits::BYTES` bytes); absent segments are empty */
    public function __construct(public readonly array $segments)
    {
    }

    public static function none(): self
    {
        return new self([]);
    }

    /** As few bytes, to be kept. */
    public function packed(): string
    {
        $bytes = '';
        foreach ($this->segments as $segment => $bits) {
            $bytes .= pack('N', $segment).$bits;
        }

        return (string) gzcompress($bytes, 3);
    }

    /** What `packed` made; none of what cannot be read. */
    public static function unpacked(string $packed): self
    {
        $bytes = (string) @gzuncompress($packed);
        $segments = [];
        foreach ($bytes === '' || strlen($bytes) % (4 + Bits::BYTES) !== 0 ? [] : str_split($bytes, 4 + Bits::BYTES) as $piece) {
            /** @var array{1: int} $segment */
            $segment = unpack('N', $piece);
            $segments[$segment[1]] = substr($piece, 4);
        }

        return new self($segments);
    }

    /** @param  iterable<int>  $documents */
    public static function of(iterable $documents): self
    {
        $offsets = [];
        foreach ($documents as $document) {
            $offsets[$document >> 16][] = $document & 0xFFFF;
        }

        return new self(array_map(Bits::of(...), $offsets));
    }

    public function and(self $other): self
    {
        $segments = [];
        foreach ($this->segments as $segment => $bits) {
            if (isset($other->segments[$segment])) {
                $segments[$segment] = Bits::and($bits, $other->segments[$segment]);
            }
        }

        return new self($segments);
    }

    public function or(self $other): self
    {
        $segments = $this->segments;
        foreach ($other->segments as $segment => $bits) {
            $segments[$segment] = isset($segments[$segment]) ? Bits::or($segments[$segment], $bits) : $bits;
        }

        return new self($segments);
    }

    public function minus(self $other): self
    {
        $segments = $this->segments;
        foreach ($segments as $segment => $bits) {
            if (isset($other->segments[$segment])) {
                $segments[$segment] = Bits::minus($bits, $other->segments[$segment]);
            }
        }

        return new self($segments);
    }

    /** @param  iterable<self>  $sets */
    public static function union(iterable $sets): self
    {
        $union = null;
        foreach ($sets as $set) {
            $union = $union === null ? $set : $union->or($set);
        }

        return $union ?? self::none();
    }

    public function count(): int
    {
        return $this->count ??= array_sum(array_map($this->countIn(...), array_keys($this->segments)));
    }

    public function countIn(int $segment): int
    {
        return $this->counts[$segment] ??= Bits::count($this->segments[$segment]);
    }

    /** @return list<int> the offsets of the documents of a segment, ascending */
    public function offsets(int $segment): array
    {
        return $this->offsets[$segment] ??= Bits::offsets($this->segments[$segment]);
    }

    public function countCommon(self $other): int
    {
        $count = 0;
        foreach ($this->segments as $segment => $bits) {
            if (isset($other->segments[$segment])) {
                $count += Bits::countCommon($bits, $other->segments[$segment]);
            }
        }

        return $count;
    }

    public function isEmpty(): bool
    {
        foreach ($this->segments as $bits) {
            if (! Bits::isEmpty($bits)) {
                return false;
            }
        }

        return true;
    }

    public function mask(int $segment): ColumnMask
    {
        return $this->masks[$segment] ??= new ColumnMask($this->segments[$segment]);
    }

    public function has(int $document): bool
    {
        return isset($this->segments[$document >> 16]) && Bits::has($this->segments[$document >> 16], $document & 0xFFFF);
    }

    /** @return list<int> ascending */
    public function documents(): array
    {
        $segments = $this->segments;
        ksort($segments);
        $documents = [];
        foreach (array_keys($segments) as $segment) {
            foreach ($this->offsets($segment) as $offset) {
                $documents[] = ($segment << 16) | $offset;
            }
        }

        return $documents;
    }

    /**
     * The documents from the newest (highest number) on, segment by segment, so that whole segments can be skipped.
     *
     * @return list<int> `$limit` documents behind the first `$offset`
     */
    public function newest(int $offset, int $limit): array
    {
        $segments = $this->segments;
        krsort($segments);
        $page = [];
        foreach (array_keys($segments) as $segment) {
            $here = $this->countIn($segment);
            if ($offset >= $here) {
                $offset -= $here;

                continue;
            }
            foreach (array_slice(array_reverse($this->offsets($segment)), $offset, $limit - count($page)) as $inside) {
                $page[] = ($segment << 16) | $inside;
            }
            $offset = 0;
            if (count($page) >= $limit) {
                break;
            }
        }

        return $page;
    }

    /** How many have this number or a higher one: so many come before those that are older than it. */
    public function upTo(int $document): int
    {
        $own = $document >> 16;
        $count = 0;
        foreach (array_keys($this->segments) as $segment) {
            $count += match ($segment <=> $own) {
                1 => $this->countIn($segment),
                0 => count(array_filter($this->offsets($segment), static fn (int $inside): bool => $inside >= ($document & 0xFFFF))),
                default => 0,
            };
        }

        return $count;
    }

    /** @return list<int> `$limit` documents behind the first `$offset`, from the oldest (lowest number) on */
    public function oldest(int $offset, int $limit): array
    {
        return array_reverse($this->newest(max(0, $this->count() - $offset - $limit), min($limit, max(0, $this->count() - $offset))));
    }

    /** @return list<int> all documents, or `$most` of them, evenly spread, ascending */
    public function spread(int $most): array
    {
        $documents = $this->documents();
        $count = count($documents);

        return $count <= $most
            ? $documents
            : array_map(static fn (int $i): int => $documents[intdiv($i * $count, $most)], range(0, $most - 1));
    }

    /** @return Generator<int, list<int>> the documents ascending, in lists of at most `$size` */
    public function chunks(int $size): Generator
    {
        yield from array_chunk($this->documents(), max(1, $size));
    }
}
