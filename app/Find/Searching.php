<?php

declare(strict_types=1);

namespace App\Find;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Index\Names;
use App\Index\RedactedTexts;
use App\Index\SqliteStore;
use App\Models\User;
use App\Redaction\Redactions;
use Brenvic\Core\Index\IndexReader;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Search\Asking\Asker;
use Brenvic\Core\Search\Asking\SearchError;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Searcher;
use Closure;

/** The core's search with what a person may search and see. All that is read within `snapshot` is of one state of the index. */
final readonly class Searching
{
    public function __construct(
        private SqliteStore $store,
        private Catalog $catalog,
        private Rights $rights,
        private Redactions $redactions,
    ) {
    }

    /**
     * @template T
     *
     * @param  Closure(): T  $read
     * @return T
     */
    public function snapshot(Closure $read): mixed
    {
        return $this->store->snapshot($read);
    }

    public function reader(?SearchSchema $schema = null): IndexReader
    {
        return new IndexReader($this->store, $schema->beside ?? []);
    }

    public function searcher(SearchSchema $schema): Searcher
    {
        return new Searcher($this->reader($schema), $schema, new Names());
    }

    /**
     * @param  list<string>  $where  parts that words are looked for in; none means all
     * @param  User|null  $as  what only that person may know of as well; pull lists are of those who ask, and nobody else’s
     */
    public function schema(User $user, array $where = [], ?User $as = null): SearchSchema
    {
        $schema = $this->catalog->schema($as ?? $user)->lookingIn($where, RedactedTexts::any() && $this->redactions->bound($as ?? $user) === []);

        return HeldDocuments::beside(ListedDocuments::beside($schema, $user), $user);
    }

    /** Who asks; with `$as`, only for what that person sees as well. */
    public function asker(User $user, ?User $as = null): Asker
    {
        return $as === null ? $this->rights->asker($user) : $this->rights->together($user, $as);
    }

    /**
     * How many documents that a person may see some criteria find. What cannot be searched finds nothing.
     *
     * @param  array<string, string>  $criteria  CQL by name
     * @return array<string, int>
     */
    public function counts(User $user, array $criteria, ?User $as = null): array
    {
        return $this->snapshot(function () use ($user, $criteria, $as): array {
            $searcher = $this->searcher($this->schema($user, [], $as));
            $asker = $this->asker($user, $as);

            return array_map(static function (string $cql) use ($searcher, $asker): int {
                try {
                    return $searcher->documents($asker, Parser::parse($cql)->root)->count();
                } catch (SearchError) {
                    return 0;
                }
            }, $criteria);
        });
    }
}
