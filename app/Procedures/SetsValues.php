<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Access\Holds;
use App\Catalog\Catalog;
use App\Intake\Filing;
use App\Support\Refused;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Procedures\Acts\Act;
use Brenvic\Core\Procedures\Acts\SetValue;

/** @implements Performs<SetValue> */
final readonly class SetsValues implements Performs
{
    public function __construct(private Catalog $catalog, private Filing $filing, private Filled $filled)
    {
    }

    public function perform(Act $act, Doing $doing): string
    {
        $document = $doing->document;
        $type = $this->catalog->types()->get((int) $document->document_type_id);
        $hold = Holds::on($document->id)[0] ?? null;
        if ($hold !== null) {
            throw new Refused("The document is on hold, so its values stay as they are: {$hold}");
        }
        $field = $this->catalog->fields()[$act->field] ?? throw new Refused("There is no field “{$act->field}” any more.");
        if (! in_array($act->field, array_column($this->catalog->sheet($type)->fields, 'code'), true)) {
            throw new Refused("“{$document->title}” has no field {$field->label}.");
        }
        $typed = trim($this->filled->text($act->value, $doing, true));
        try {
            $parsed = $typed === '' ? null : $field->parse($typed);
        } catch (InvalidValue $fault) {
            throw new Refused("{$field->label} cannot be “{$typed}”: {$fault->getMessage()}");
        }
        $value = $parsed === null ? [] : [$parsed];
        $this->filing->put(
            $document,
            $type,
            array_filter([...$this->filing->present($document), $act->field => $value], static fn (array $v): bool => $v !== []),
            ['lock_version' => $document->lock_version + 1],
        );

        return $value === [] ? "{$field->label} emptied" : "{$field->label} set to {$field->display($value[0])}";
    }
}
