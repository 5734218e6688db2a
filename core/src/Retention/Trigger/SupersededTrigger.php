<?php

declare(strict_types=1);

namespace Brenvic\Core\Retention\Trigger;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Retention\Facts\KeptDocument;

/** That a newer document is filed which names it in a field. */
final readonly class SupersededTrigger implements Trigger
{
    public function __construct(public string $code, private ?FieldDefinition $field)
    {
    }

    public function of(KeptDocument $document): Begun
    {
        $day = $document->superseded[$this->code] ?? null;

        return $day === null ? Begun::toCome('no newer one takes its place') : Begun::on(PartialDate::parse($day)->firstDay());
    }

    public function words(): string
    {
        return 'being superseded ('.($this->field->label ?? $this->code).')';
    }

    public function about(): ?About
    {
        return $this->code === '' ? null : new About(About::FIELD, $this->code);
    }

    public function fault(): ?string
    {
        return match (true) {
            $this->field === null => 'Choose the reference field in which a newer document names the one that it supersedes.',
            $this->field->kind->value !== 'reference' => "{$this->field->label} does not refer to documents.",
            default => null,
        };
    }
}
