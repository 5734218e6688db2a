<?php

declare(strict_types=1);

namespace App\Index;

use Illuminate\Support\Facades\DB;

/** Which of the two sets of index tables is searched, and how far a rebuild of the other has come. One row, id 1. */
final readonly class IndexState
{
    /** Changes with the form in which the index is kept; an index of another form is made anew. */
    public const FORMAT = 6;

    private function __construct(
        public int $live,
        public int $format,
        public ?int $building,
        public int $reached,
    ) {
    }

    public static function read(): self
    {
        $row = DB::table('ix_state')->where('id', 1)->sole();

        return new self((int) $row->live, (int) $row->format, $row->building === null ? null : (int) $row->building, (int) $row->reached);
    }

    public function isCurrent(): bool
    {
        return $this->format === self::FORMAT;
    }

    /** Begins to fill the set that is not live. */
    public static function begin(): self
    {
        DB::table('ix_state')->where('id', 1)->update(['building' => 1 - self::read()->live, 'reached' => 0]);

        return self::read();
    }

    /** Notes that all documents up to one are in the set being filled. */
    public static function reach(int $document): void
    {
        DB::table('ix_state')->where('id', 1)->update(['reached' => $document]);
    }

    /** Makes the set that was filled the live one. */
    public static function finish(): void
    {
        DB::table('ix_state')->where('id', 1)->update(['live' => self::read()->building, 'building' => null, 'format' => self::FORMAT]);
    }

    public static function cancel(): void
    {
        DB::table('ix_state')->where('id', 1)->update(['building' => null]);
    }
}
