<?php

declare(strict_types=1);

namespace App\Destroying;

use App\Catalog\Catalog;
use App\History\Act;
use App\History\History;
use App\Models\User;
use App\Support\OfficeSetting;
use App\Support\Refused;
use Brenvic\Core\Design\AccessRule;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\PrefixNode;
use Brenvic\Core\Query\SearchClause;
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

    /** The same as far as a person knows of its fields. */
    public function knownTo(User $user, Catalog $catalog): self
    {
        return new self($this->title, array_values(array_intersect($this->fields, array_keys($catalog->fieldsFor($user)))));
    }

    /**
     * The same with the values that access rules ask for, if these are not sensitive: a rule finds by them what is left.
     *
     * @param  array<AccessRule>  $rules
     */
    public function under(array $rules, Catalog $catalog): self
    {
        $asked = array_merge([], ...array_map(static fn (AccessRule $rule): array => self::asked(Parser::parse($rule->criterion)->root), array_values($rules)));
        $open = array_filter($asked, static fn (string $code): bool => ! Cover::hides($catalog->field($code)));

        return new self($this->title, array_values(array_unique([...$this->fields, ...$open])));
    }

    /**
     * What the person does not know of stays as it is.
     *
     * @throws Refused when a field is none, or is one that is kept from people
     */
    public function keep(User $by, Catalog $catalog): void
    {
        $known = $catalog->fieldsFor($by);
        foreach ($this->fields as $code) {
            $field = $known[$code] ?? throw new Refused("There is no field “{$code}”.");
            if (Cover::hides($field)) {
                throw new Refused("{$field->label} is sensitive: its values do not stay of what is destroyed.");
            }
        }
        $fields = [...$this->fields, ...array_values(array_diff(self::now()->fields, array_keys($known)))];
        DB::transaction(function () use ($by, $fields): void {
            OfficeSetting::put(self::NAME, ['title' => $this->title, 'fields' => $fields]);
            History::record(Act::StubChanged, $by, null, ['title' => $this->title, 'fields' => $fields]);
        });
    }

    /** @return list<string> what a query asks of, without the names of context sets */
    private static function asked(Node $node): array
    {
        return match (true) {
            $node instanceof BooleanNode => [...self::asked($node->left), ...self::asked($node->right)],
            $node instanceof PrefixNode => self::asked($node->inner),
            $node instanceof SearchClause => [substr((string) strrchr(".{$node->index}", '.'), 1)],
            default => [],
        };
    }
}
