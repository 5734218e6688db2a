<?php

declare(strict_types=1);

namespace App\Design;

use App\Catalog\Catalog;
use App\Models\Proposal;
use App\Models\User;
use App\Support\Refused;
use App\Tables\TableFile;
use Brenvic\Core\Design\Proposal\ColumnCounts;
use Brenvic\Core\Design\Proposal\FolderTree;
use Brenvic\Core\Design\Proposal\Mapping;
use Brenvic\Core\Design\Proposal\ProposedDesign;
use Brenvic\Core\Design\Proposal\TableProposal;
use Brenvic\Core\Design\Proposal\TableScan;
use Generator;
use Illuminate\Http\UploadedFile;
use RecursiveDirectoryIterator;
use RecursiveIteratorIterator;
use SplFileInfo;

/** Designs proposed from tables that people give: read in the background, decided about, and put into the draft as one act. */
final readonly class Proposals
{
    public function __construct(private Draft $draft)
    {
    }

    /** Keeps the file and has it read; what the person had before is given up. */
    public function begin(User $user, UploadedFile $file, string $what = Proposal::TABLE): Proposal
    {
        $proposal = $this->new($user, $file->getClientOriginalName(), $what);
        $file->move(self::folder(), basename(self::path($proposal->id)));
        ProposeDesign::begin($proposal);

        return $proposal;
    }

    /**
     * The same with a table or folder tree that lies on this machine.
     *
     * @throws Refused when it cannot be read
     */
    public function beginHere(User $user, string $path): Proposal
    {
        if (! is_readable($path)) {
            throw new Refused("“{$path}” cannot be read.");
        }
        $proposal = $this->new($user, basename($path), is_dir($path) ? Proposal::FOLDERS : Proposal::TABLE);
        is_dir(self::folder()) || mkdir(self::folder(), 0775, true);
        if (is_dir($path)) {
            $stream = fopen(self::path($proposal->id), 'wb') ?: throw new Refused('The list of files cannot be written.');
            $all = new RecursiveIteratorIterator(
                new RecursiveDirectoryIterator($path, RecursiveDirectoryIterator::SKIP_DOTS),
                RecursiveIteratorIterator::SELF_FIRST,
                RecursiveIteratorIterator::CATCH_GET_CHILD,
            );
            foreach ($all as $file) {
                fwrite($stream, strtr((string) $file, "\n", ' ').($file instanceof SplFileInfo && $file->isDir() ? '/' : '')."\n");
            }
            fclose($stream);
        } else {
            copy($path, self::path($proposal->id));
        }
        ProposeDesign::begin($proposal);

        return $proposal;
    }

    private function new(User $user, string $name, string $what): Proposal
    {
        $before = Proposal::query()->where('user_id', $user->id)->where('what', $what)->latest('id')->first();
        $this->clear($user);

        return Proposal::query()->create([
            // What was turned down stays so when the source comes again, and what was made is known.
            'decided' => $before?->decided,
            'user_id' => $user->id,
            'file_name' => mb_substr($name, 0, 200),
            'what' => $what,
            'name' => trim((string) preg_replace(['/\.[a-z]{1,5}$/i', '/[_\s]+/'], ['', ' '], mb_substr($name, 0, 200))) ?: 'Register',
        ]);
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
        if ($proposal->what === Proposal::FOLDERS) {
            $this->readFolders($proposal);

            return;
        }
        $file = new TableFile(self::path($proposal->id));
        $scan = TableScan::of(
            $file->rows(),
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
        $names = array_map(static fn (ColumnCounts $column): string => $column->name, $scan->columns);
        $name = ProposalChoices::name($proposal->decided ?? [], $names) ?? $proposal->name;
        $this->keep($proposal, TableProposal::of($scan, $this->draft->design(), $name, $file->rows(...)), $name);
    }

    /** @throws Refused when there are no folders */
    private function readFolders(Proposal $proposal): void
    {
        $lines = (static function (string $path): Generator {
            $stream = fopen($path, 'rb') ?: throw new Refused('The list of files cannot be opened.');
            while (($line = fgets($stream)) !== false) {
                yield mb_scrub(rtrim($line, "\r\n"));
            }
            fclose($stream);
        })(self::path($proposal->id));
        $tree = FolderTree::of($lines);
        if ($tree->depth === 0) {
            throw new Refused('The files lie in no folders.');
        }
        $this->keep($proposal, TableProposal::ofFolders($tree, $this->draft->design(), $proposal->name), $proposal->name);
    }

    private function keep(Proposal $proposal, TableProposal $found, string $name): void
    {
        Proposal::query()->whereKey($proposal->id)->update([
            'name' => $name,
            'state' => Proposal::READY,
            'rows' => $found->rows,
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
     * @return array{parts: int, left: list<string>} how many parts were added or changed, and what was not made
     *
     * @throws Refused
     */
    public function take(User $user, Proposal $proposal, ProposalChoices $choices): array
    {
        $found = self::found($proposal) ?? throw new Refused('The table is not read yet.');
        $taken = $choices->columns($found, $proposal->decided ?? []);
        $gathered = $choices->gatherings($found);
        $made = new ProposedDesign(
            $found,
            $taken,
            $this->draft->design(),
            $choices->name,
            $choices->withTypes,
            $gathered,
            $choices->library($user),
        );
        $this->draft->putAll($user, array_map(
            static fn (array $part): array => [$part[0], $part[1], PartShape::complete($part[0], $part[2])],
            $made->parts,
        ));
        $proposal->update([
            'mapping' => serialize(Mapping::of($found, $made)),
            'decided' => [...$proposal->decided ?? [], ...$choices->remembered($found, $taken, $gathered, $made->fields)],
        ]);

        return ['parts' => count($made->parts), 'left' => $made->left];
    }

    /**
     * How rows become values, by what somebody accepted last.
     *
     * @throws Refused when they have accepted nothing
     */
    public static function mapping(User $user, string $what): Mapping
    {
        $kept = Proposal::query()->where('user_id', $user->id)->where('what', $what)->value('mapping');
        $mapping = is_string($kept) ? unserialize($kept) : null;

        return $mapping instanceof Mapping
            ? $mapping
            : throw new Refused(
                "{$user->name} has accepted no proposal of such a source. Do that under Design, Propose a design…, and publish it.",
            );
    }

    /**
     * @throws Refused when what was accepted is not in use yet
     */
    public static function guardPublished(Mapping $mapping, Catalog $catalog): void
    {
        foreach ($mapping->fields as $code) {
            if (! isset($catalog->fields()[$code])) {
                throw new Refused("The field “{$code}” of the proposal is not published yet.");
            }
        }
    }

    private static function folder(): string
    {
        return config('brenvic.data').'/proposals';
    }

    /** Where the file that was given lies until the proposal is given up. */
    public static function path(int $id): string
    {
        return self::folder()."/{$id}";
    }
}
