<?php

declare(strict_types=1);

namespace App\Design;

use App\Models\Proposal;
use App\Models\User;
use App\Support\Refused;
use App\Tables\TableFile;
use Brenvic\Core\Design\Proposal\ColumnProposal;
use Brenvic\Core\Design\Proposal\ProposedDesign;
use Brenvic\Core\Design\Proposal\TableProposal;
use Brenvic\Core\Design\Proposal\TableScan;
use Brenvic\Core\Design\Proposal\Taken;
use Illuminate\Http\UploadedFile;

/** Designs proposed from tables that people give: read in the background, decided about, and put into the draft as one act. */
final readonly class Proposals
{
    public function __construct(private Draft $draft)
    {
    }

    /** Keeps the file and has it read; what the person had before is given up. */
    public function begin(User $user, UploadedFile $file): Proposal
    {
        $this->clear($user);
        $name = mb_substr($file->getClientOriginalName(), 0, 200);
        $proposal = Proposal::query()->create([
            'user_id' => $user->id,
            'file_name' => $name,
            'name' => trim((string) preg_replace(['/\.[a-z]{1,5}$/i', '/[_\s]+/'], ['', ' '], $name)) ?: 'Register',
        ]);
        $file->move(self::folder(), basename(self::path($proposal->id)));
        ProposeDesign::begin($proposal);

        return $proposal;
    }

    public function clear(User $user): void
    {
        foreach (Proposal::query()->where('user_id', $user->id)->pluck('id') as $id) {
            @unlink(self::path((int) $id));
            Proposal::query()->whereKey($id)->delete();
        }
    }

    /** @throws Refused when the file is no table */
    public function read(Proposal $proposal): void
    {
        $scan = TableScan::of(
            (new TableFile(self::path($proposal->id)))->rows(),
            static function (int $rows) use ($proposal): void {
                // Given up meanwhile: nobody waits for the rest.
                if (Proposal::query()->whereKey($proposal->id)->update(['rows' => $rows]) === 0) {
                    throw new Refused('It was given up.');
                }
            },
        );
        if ($scan->columns === []) {
            throw new Refused('The table has no columns.');
        }
        $found = TableProposal::of($scan, $this->draft->design(), $proposal->name);
        Proposal::query()->whereKey($proposal->id)->update([
            'state' => Proposal::READY,
            'rows' => $scan->rows,
            'found' => gzcompress(serialize($found), 3),
            'updated_at' => now(),
        ]);
    }

    public static function found(Proposal $proposal): ?TableProposal
    {
        $found = $proposal->found === null ? null : unserialize((string) gzuncompress($proposal->found));

        return $found instanceof TableProposal ? $found : null;
    }

    /**
     * Puts what was accepted into the draft, all of it or nothing.
     *
     * @param  array<int, array{take: bool, label: string, kind: string, existing: string|null}>  $columns  by place
     * @return int how many parts were added
     *
     * @throws Refused
     */
    public function take(User $user, Proposal $proposal, array $columns, string $name, bool $withTypes): int
    {
        $found = self::found($proposal) ?? throw new Refused('The table is not read yet.');
        $taken = [];
        foreach ($found->columns as $column) {
            $choice = $columns[$column->place] ?? null;
            $taken[$column->place] = $choice === null
                ? Taken::proposed($column, $found->typeColumn)
                : new Taken($choice['take'], $choice['label'], $this->kind($column, $choice['kind']), $choice['existing']);
        }

        $made = new ProposedDesign($found, $taken, $this->draft->design(), $name, $withTypes);
        $this->draft->putAll(
            $user,
            array_map(static fn (array $part): array => [$part[0], $part[1], PartShape::complete($part[0], $part[2])], $made->parts),
        );

        return count($made->parts);
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

    private static function folder(): string
    {
        return config('brenvic.data').'/proposals';
    }

    private static function path(int $id): string
    {
        return self::folder()."/{$id}";
    }
}
