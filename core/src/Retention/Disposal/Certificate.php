<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention\Disposal;

use JsonException;

/**
 * What was disposed of, by which rules and by whom: the proof of a disposal. It is kept as JSON text whose SHA-256 stands in
 * the history, so that whoever has both can tell that nothing of it was changed.
 */
final readonly class Certificate
{
    /**
     * @param  int  $number  of the disposal
     * @param  array{by: string, at: string}  $prepared  times in UTC, as ISO 8601
     * @param  array{by: string, at: string}  $submitted
     * @param  array{by: string, at: string}  $approved
     * @param  array{from: string, to: string}|null  $carriedOut  null where nothing was
     * @param  list<array{ref: string, type: string, library: string, rule: string, due: string|null, sha256: string, bytes: int, at: string, entry: int, entry_hash: string}>  $documents
     *   that were disposed of, with the entries of the history that say so
     * @param  list<array{ref: string, decision: string, until: string|null, reason: string, by: string}>  $kept
     * @param  list<array{ref: string, why: string}>  $leftOut
     * @param  array{text: string, by: string, at: string}|null  $receipt  of the archive that they were handed over to
     * @param  array{entry: int, hash: string}  $history  its last entry before the certificate was made
     */
    public function __construct(
        public int $number,
        public string $name,
        public string $action,
        public string $covers,
        public array $prepared,
        public array $submitted,
        public array $approved,
        public ?array $carriedOut,
        public array $documents,
        public array $kept,
        public array $leftOut,
        public ?array $receipt,
        public array $history,
    ) {
    }

    /**
     * The text that is signed.
     *
     * @throws JsonException
     */
    public function json(): string
    {
        return json_encode(
            [
                'certificate' => 'disposal',
                'number' => $this->number,
                'name' => $this->name,
                'action' => $this->action,
                'covers' => $this->covers,
                'prepared' => $this->prepared,
                'submitted' => $this->submitted,
                'approved' => $this->approved,
                'carried_out' => $this->carriedOut,
                'documents' => $this->documents,
                'kept' => $this->kept,
                'left_out' => $this->leftOut,
                'receipt' => $this->receipt,
                'backups' => 'Backups that were made before hold these documents until they expire.',
                'history' => $this->history,
            ],
            JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES | JSON_PRETTY_PRINT | JSON_THROW_ON_ERROR,
        )."\n";
    }
}
