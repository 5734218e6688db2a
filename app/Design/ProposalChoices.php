<?php

declare(strict_types=1);

namespace App\Design;

use App\Models\User;
use App\Support\Refused;
use Brenvic\Core\Design\Proposal\ColumnProposal;
use Brenvic\Core\Design\Proposal\GatheredAs;
use Brenvic\Core\Design\Proposal\GatheringTaken;
use Brenvic\Core\Design\Proposal\ProposedLibrary;
use Brenvic\Core\Design\Proposal\Reading;
use Brenvic\Core\Design\Proposal\TableProposal;
use Brenvic\Core\Design\Proposal\Taken;

/** What somebody decided on the sheet of a proposal, as it was sent, and as it is remembered for when the source comes again. */
final readonly class ProposalChoices
{
    /** What is remembered of no column. */
    private const OF_ALL = '';

    /**
     * @param  array<int, array<string, mixed>>  $columns  by place, see rules()
     * @param  array<int, array<string, mixed>>  $gatherings  by the place of the column that gathers
     */
    private function __construct(
        public string $name,
        public bool $withTypes,
        private array $columns,
        private array $gatherings,
        private ?string $library,
        private bool $isNewLibrary,
    ) {
    }

    /** @return array<string, string> */
    public static function rules(): array
    {
        return [
            'name' => 'required|string|max:200',
            'types' => 'required|boolean',
            'columns' => 'present|array|max:500',
            'columns.*.place' => 'required|integer|min:0',
            'columns.*.take' => 'required|boolean',
            'columns.*.label' => 'required|string|max:200',
            'columns.*.kind' => 'required|string|max:40',
            'columns.*.existing' => 'nullable|string|max:40',
            'columns.*.into' => 'nullable|integer|min:0',
            'columns.*.tree' => 'sometimes|boolean',
            'columns.*.adds_terms' => 'sometimes|boolean',
            'library' => 'sometimes|nullable|string|max:40',
            'new_library' => 'sometimes|boolean',
            'gatherings' => 'sometimes|array|max:500',
            'gatherings.*.key' => 'required|integer|min:0',
            'gatherings.*.as' => 'required|in:dossiers,table,nothing',
            'gatherings.*.name' => 'required|string|max:200',
        ];
    }

    /** @param  array<string, mixed>  $input  as rules() has it */
    public static function of(array $input): self
    {
        return new self(
            (string) $input['name'],
            (bool) $input['types'],
            array_column($input['columns'], null, 'place'),
            array_column($input['gatherings'] ?? [], null, 'key'),
            isset($input['library']) ? (string) $input['library'] : null,
            (bool) ($input['new_library'] ?? false),
        );
    }

    /**
     * Where documents of the types are filed: a new library is entered by the groups of the one who makes it.
     *
     * @throws Refused when they are in none
     */
    public function library(User $user): ?ProposedLibrary
    {
        if ($this->isNewLibrary && $user->groupNames() === []) {
            throw new Refused('You are in no group that could enter a new library. Ask the administrator to put you into one.');
        }

        return match (true) {
            $this->isNewLibrary => new ProposedLibrary(null, $this->name, $user->groupNames()),
            $this->library !== null => new ProposedLibrary($this->library),
            default => null,
        };
    }

    /**
     * @param  array<string, array<string, mixed>>  $remembered  what stands for columns that nothing is sent about
     * @return array<int, Taken> by place
     *
     * @throws Refused when a column cannot be read so, or joined to another
     */
    public function columns(TableProposal $found, array $remembered): array
    {
        $taken = [];
        foreach ($found->columns as $column) {
            $choice = $this->columns[$column->place] ?? self::known($found, $column, $remembered[$column->name] ?? null);
            if ($choice === null) {
                $taken[$column->place] = Taken::proposed($column, $found->typeColumn);

                continue;
            }
            $into = isset($choice['into']) ? (int) $choice['into'] : null;
            $taken[$column->place] = new Taken(
                (bool) $choice['take'],
                (string) $choice['label'],
                $this->kind($column, (string) $choice['kind']),
                isset($choice['existing']) ? (string) $choice['existing'] : null,
                $into,
                (bool) ($choice['tree'] ?? false),
                (bool) ($choice['adds_terms'] ?? false),
            );
        }
        foreach ($taken as $place => $of) {
            $target = $of->into === null ? null : $taken[$of->into] ?? null;
            $isField = $target !== null && $of->into !== $place && $target->isTaken && $target->into === null;
            if ($of->isTaken && $of->into !== null && ! $isField) {
                throw new Refused("“{$found->columns[$place]->name}” cannot go into a column that is no field itself.");
            }
            if ($of->isTaken && $target !== null) {
                $this->kind($found->columns[$place], $target->kind);
            }
        }

        return $taken;
    }

    /**
     * What was decided about a column before, where it still makes sense.
     *
     * @param  array<string, mixed>|null  $decided
     * @return array{take: bool, label: string, kind: string, existing: string|null, into: int|null, tree: bool, adds_terms: bool}|null
     */
    public static function known(TableProposal $found, ColumnProposal $column, ?array $decided): ?array
    {
        $kinds = array_map(static fn (Reading $reading): string => $reading->kind, $column->readings);
        if ($decided === null || ! in_array($decided['kind'], $kinds, true)) {
            return null;
        }
        $into = array_search($decided['into'] ?? null, array_map(static fn (ColumnProposal $c): string => $c->name, $found->columns), true);

        return [
            'take' => (bool) $decided['take'],
            'label' => (string) $decided['label'],
            'kind' => (string) $decided['kind'],
            'existing' => isset($decided['existing']) ? (string) $decided['existing'] : null,
            'into' => $into === false ? null : $into,
            'tree' => (bool) ($decided['tree'] ?? false),
            'adds_terms' => (bool) ($decided['adds_terms'] ?? false),
        ];
    }

    /** @return array<int, GatheringTaken> by the place of the column that gathers */
    public function gatherings(TableProposal $found): array
    {
        $taken = [];
        foreach ($found->gatherings as $gathering) {
            $choice = $this->gatherings[$gathering->key] ?? null;
            $taken[$gathering->key] = $choice === null
                ? GatheringTaken::proposed($gathering, $found->columns[$gathering->key])
                : new GatheringTaken(GatheredAs::from((string) $choice['as']), (string) $choice['name']);
        }

        return $taken;
    }

    /**
     * By the names of the columns, as places change from one table to the next.
     *
     * @param  array<int, Taken>  $taken
     * @param  array<int, GatheringTaken>  $gathered
     * @param  array<int, string>  $fields  what they became
     * @return array<string, array<string, mixed>>
     */
    public function remembered(TableProposal $found, array $taken, array $gathered, array $fields): array
    {
        $remembered = [self::OF_ALL => ['name' => $this->name]];
        foreach ($found->columns as $column) {
            $of = $taken[$column->place];
            $gathering = $gathered[$column->place] ?? null;
            $remembered[$column->name] = [
                'take' => $of->isTaken,
                'label' => $of->label,
                'kind' => $of->kind,
                'existing' => $fields[$column->place] ?? null,
                'into' => $of->into === null ? null : $found->columns[$of->into]->name ?? null,
                // The tree is made, and the column is its field from now on.
                'tree' => false,
                'adds_terms' => $of->addsTerms,
                'gathering' => $gathering === null ? null : ['as' => $gathering->as->value, 'name' => $gathering->name],
            ];
        }

        return $remembered;
    }

    /**
     * What a table was called when it was given before, if this is the same one or its next year: most of its columns are known.
     *
     * @param  array<string, array<string, mixed>>  $remembered
     * @param  list<string>  $columns
     */
    public static function name(array $remembered, array $columns): ?string
    {
        $known = count(array_intersect($columns, array_map(strval(...), array_keys($remembered))));
        $name = $remembered[self::OF_ALL]['name'] ?? null;

        return is_string($name) && 2 * $known > count($columns) ? $name : null;
    }

    /** @throws Refused when a column cannot be read as that kind */
    private function kind(ColumnProposal $column, string $kind): string
    {
        foreach ($column->readings as $reading) {
            if ($reading->kind === $kind) {
                return $kind;
            }
        }
        throw new Refused("“{$column->name}” cannot be read as that.");
    }
}
