<?php

declare(strict_types=1);

namespace App\Destroying;

use App\Catalog\Catalog;
use App\History\Act;
use App\History\History;
use App\Models\User;
use App\Support\OfficeSetting;
use App\Support\Refused;
use Brenvic\Core\Fields\Cover;
use Illuminate\Support\Facades\DB;

/** What the office leaves of a document that is destroyed, so that it is still found as such. */
final readonly class Stub
{
    private const NAME = 'stub';

    /**
     * @param  bool  $title  whether its title stays; without it, it is called by its type
     * @param  list<string>  $fields  codes of the fields whose values stay
     */
    public function __construct(public bool $title = true, public array $fields = ['document_date'])
    {
    }

    public static function now(): self
    {
        $kept = OfficeSetting::get(self::NAME);

        return is_array($kept)
            ? new self((bool) ($kept['title'] ?? true), array_values(array_filter((array) ($kept['fields'] ?? []), is_string(...))))
            : new self;
    }

    /** @throws Refused when a field is none, or is one that is kept from people */
    public function keep(User $by, Catalog $catalog): void
    {
        foreach ($this->fields as $code) {
            $field = $catalog->fields()[$code] ?? throw new Refused("There is no field “{$code}”.");
            if (Cover::hides($field)) {
                throw new Refused("{$field->label} is sensitive: its values do not stay of what is destroyed.");
            }
        }
        DB::transaction(function () use ($by): void {
            OfficeSetting::put(self::NAME, ['title' => $this->title, 'fields' => $this->fields]);
            History::record(Act::StubChanged, $by, null, ['title' => $this->title, 'fields' => $this->fields]);
        });
    }
}
