<?php

declare(strict_types=1);

namespace App\Access;

use App\Catalog\Catalog;
use App\Index\Names;
use App\Index\SqliteStore;
use App\Models\Document;
use App\Models\Group;
use App\Models\Right;
use App\Models\User;
use App\Support\Column;
use Brenvic\Core\Design\AccessRule;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\DesignKind;
use Brenvic\Core\Design\LibraryPart;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Search\Asking\Asker;
use Brenvic\Core\Search\Searcher;

/**
 * Who may do what, as the design says. What a person sees is a set of documents in the index: whatever is shown of
 * documents, by whatever way it was found, is held against that one set.
 */
final class Rights
{
    /** @var array<int, Asker> by the person’s id */
    private array $askers = [];

    public function __construct(private readonly Catalog $catalog, private readonly SqliteStore $store)
    {
    }

    public function asker(User $user): Asker
    {
        return $this->askers[$user->id] ??= $this->askerOf(
            $user->libraryRights(),
            $user->groupNames(),
            $this->catalog->design(),
            $this->catalog->stamp(),
        );
    }

    /** What two people may see both: how a librarian looks at things as somebody else. */
    public function together(User $user, User $other): Asker
    {
        $mine = $this->asker($user);
        $theirs = $this->asker($other);

        return new Asker($theirs->libraries, $theirs->withheld, $theirs->rules, $theirs->design, $mine);
    }

    /**
     * @param  array<int, bool>  $libraries  as User::libraryRights gives them
     * @param  list<string>  $groups
     */
    private function askerOf(array $libraries, array $groups, Design $design, string $stamp): Asker
    {
        $codes = Column::texts($this->catalog->libraries()->only(array_keys($libraries))->pluck('code'));

        return self::withRules($codes, $groups, $design, fn () => $this->catalog->fullSchema($design), $stamp);
    }

    /**
     * @param  list<string>  $libraries
     * @param  list<string>  $groups
     * @param  \Closure(): \Brenvic\Core\Search\Asking\SearchSchema  $schema
     */
    private static function withRules(array $libraries, array $groups, Design $design, \Closure $schema, string $stamp): Asker
    {
        $withheld = self::withheld($design, 'see', $groups);

        return new Asker($libraries, $withheld, $withheld === [] ? null : $schema(), $stamp);
    }

    /**
     * What a group of people would see with a design, be it published or not.
     *
     * @param  list<string>  $groups
     */
    public function askerIn(Design $design, array $groups): Asker
    {
        $libraries = [];
        foreach ($design->parts(LibraryPart::class) as $library) {
            if (array_intersect($library->memberGroups(), $groups) !== []) {
                $libraries[] = $library->code;
            }
        }

        return self::withRules(
            $libraries,
            $groups,
            $design,
            fn () => $this->catalog->fullSchema($design),
            md5((string) json_encode([$design->all(DesignKind::Field), $design->all(DesignKind::Vocabulary)])),
        );
    }

    /**
     * @param  list<string>  $groups
     * @return list<Node> what finds the documents that people of these groups may not do something with
     */
    private static function withheld(Design $design, string $act, array $groups): array
    {
        $nodes = [];
        foreach ($design->parts(AccessRule::class) as $rule) {
            if ($rule->withholds($act, $groups)) {
                $nodes[] = Parser::parse($rule->criterion)->root;
            }
        }

        return $nodes;
    }

    /** All filed documents that a person may see. */
    public function sight(User $user): DocumentSet
    {
        return $this->store->snapshot(fn (): DocumentSet => $this->searcher()->sight($this->asker($user)));
    }

    /**
     * Those of some filed documents that a person may see.
     *
     * @param  list<int>  $ids
     * @return list<int>
     */
    public function seen(User $user, array $ids): array
    {
        $sight = $ids === [] ? DocumentSet::none() : $this->sight($user);

        return array_values(array_filter($ids, $sight->has(...)));
    }

    /**
     * Those of some people who may see a filed document. People of the same rights are looked at once.
     *
     * @param  iterable<User>  $people
     * @return list<User>
     */
    public function seers(iterable $people, Document $document): array
    {
        return $this->store->snapshot(function () use ($people, $document): array {
            $searcher = $this->searcher();
            $sees = [];
            $seers = [];
            foreach ($people as $person) {
                $asker = $this->asker($person);
                if ($sees[$asker->name()] ??= $searcher->sight($asker)->has($document->id)) {
                    $seers[] = $person;
                }
            }

            return $seers;
        });
    }

    public function sees(User $user, Document $document): bool
    {
        if (! isset($user->libraryRights()[$document->library_id])) {
            return false;
        }

        return $document->state === Document::FILED
            ? $this->seen($user, [$document->id]) !== []
            : $user->may(Right::File) && WaitingSight::sees($user, $document);
    }

    /** Whether a rule of the design keeps a person from changing, or filing, a filed document. */
    public function isKeptFrom(User $user, string $act, int $document): bool
    {
        return $this->keptFrom($user, $act)->has($document);
    }

    /** The filed documents that a rule of the design keeps a person from changing, or filing. */
    public function keptFrom(User $user, string $act): DocumentSet
    {
        $nodes = self::withheld($this->catalog->design(), $act, $user->groupNames());

        return $nodes === []
            ? DocumentSet::none()
            : $this->store->snapshot(function () use ($user, $nodes): DocumentSet {
                $searcher = $this->searcher();
                $kept = DocumentSet::none();
                foreach ($nodes as $node) {
                    $kept = $kept->or($searcher->documents($this->asker($user), $node));
                }

                return $kept;
            });
    }

    /**
     * Whether a filed document matches a criterion, whoever may see it.
     *
     * @throws \Brenvic\Core\Query\SyntaxError|\Brenvic\Core\Search\Asking\SearchError
     */
    public function matches(Document $document, string $criterion): bool
    {
        $node = Parser::parse($criterion)->root;
        $all = $this->unlimited([$this->catalog->libraries()->get($document->library_id)->code ?? '']);

        return $this->store->snapshot(fn (): bool => $this->searcher()->documents($all, $node)->has($document->id));
    }

    /**
     * All filed documents that match a criterion, whoever may see them.
     *
     * @throws \Brenvic\Core\Query\SyntaxError|\Brenvic\Core\Search\Asking\SearchError
     */
    public function allMatching(string $criterion): DocumentSet
    {
        return $this->allFound(Parser::parse($criterion)->root);
    }

    /** The same for a query that is read. */
    public function allFound(Node $node): DocumentSet
    {
        $all = $this->unlimited(Column::texts($this->catalog->libraries()->pluck('code')));

        return $this->store->snapshot(fn (): DocumentSet => $this->searcher()->documents($all, $node));
    }

    /** @return list<AccessRule> those whose criterion finds a filed document */
    public function rulesAbout(Document $document): array
    {
        return array_values($this->rulesOver([$document->id], $this->catalog->design()->parts(AccessRule::class))[$document->id] ?? []);
    }

    /**
     * The access rules that keep documents from somebody, whoever that is.
     *
     * @param  list<int>  $ids  of filed documents
     * @return array<int, array<string, AccessRule>> by document, then by code; those that no rule is about are not there
     */
    public function withholding(array $ids): array
    {
        $rules = array_filter(
            $this->catalog->design()->parts(AccessRule::class),
            static fn (AccessRule $rule): bool => in_array('see', $rule->acts, true),
        );

        return $this->rulesOver($ids, $rules);
    }

    /**
     * @param  list<int>  $ids
     * @param  array<AccessRule>  $rules
     * @return array<int, array<string, AccessRule>> those whose criterion finds each document, by code
     */
    private function rulesOver(array $ids, array $rules): array
    {
        sort($ids);
        $of = DocumentSet::of($ids);
        $over = [];
        foreach ($rules as $rule) {
            foreach ($this->allMatching($rule->criterion)->and($of)->documents() as $id) {
                $over[$id][$rule->code] = $rule;
            }
        }

        return $over;
    }

    /** @return list<string> the codes of the access rules that keep documents from a person */
    public function rulesAgainst(User $user): array
    {
        $groups = $user->groupNames();
        $against = array_filter(
            $this->catalog->design()->parts(AccessRule::class),
            static fn (AccessRule $rule): bool => $rule->withholds('see', $groups),
        );

        return array_column(array_values($against), 'code');
    }

    /** @return array<string, list<string>> the groups of people who are in the same ones, by the people’s names */
    public static function circles(): array
    {
        $circles = [];
        foreach (User::query()->with('memberships')->orderBy('name')->get() as $user) {
            $groups = Column::texts($user->memberships->pluck('name')->sort());
            $circles[implode("\n", $groups)][] = [$user->name, $groups];
        }
        $byName = [];
        foreach ($circles as $people) {
            $names = array_column($people, 0);
            $byName[
                count($names) > 3
                    ? implode(', ', array_slice($names, 0, 2)).' and '.(count($names) - 2).' others'
                    : implode(', ', $names)
            ] = $people[0][1];
        }

        return $byName;
    }

    /** @param  list<string>  $libraries  codes of those that are looked in, whatever rules keep back */
    private function unlimited(array $libraries): Asker
    {
        return new Asker($libraries, [], null, $this->catalog->stamp());
    }

    private function searcher(): Searcher
    {
        return new Searcher(new IndexReader($this->store), $this->catalog->fullSchema(), new Names());
    }
}
