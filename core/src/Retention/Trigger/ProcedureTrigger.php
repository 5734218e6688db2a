<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention\Trigger;

use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Retention\Facts\KeptDocument;

/** The end of a procedure; of several cases, that of the last. */
final readonly class ProcedureTrigger implements Trigger
{
    public function __construct(private ?string $code, private string $name)
    {
    }

    public function of(KeptDocument $document): Begun
    {
        $ends = $this->code === null ? array_merge([], ...array_values($document->procedures)) : $document->procedures[$this->code] ?? [];
        if ($ends === []) {
            return Begun::toCome($this->code === null ? 'no procedure has ended' : "“{$this->name}” has not begun");
        }
        if (in_array(null, $ends, true)) {
            return Begun::toCome($this->code === null ? 'it is in a procedure' : "“{$this->name}” has not ended");
        }

        return Begun::on(max(array_map(static fn (string $day): int => PartialDate::parse($day)->firstDay(), $ends)));
    }

    public function words(): string
    {
        return $this->code === null ? 'the end of the procedure' : "the end of “{$this->name}”";
    }

    public function about(): ?About
    {
        return $this->code === null ? null : new About(About::PROCEDURE, $this->code);
    }

    public function fault(): ?string
    {
        return null;
    }
}
