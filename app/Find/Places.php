<?php

declare(strict_types=1);

namespace App\Find;

use App\Catalog\Catalog;
use App\Models\Library;
use App\Models\User;
use Brenvic\Core\Design\ViewPart;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Query\SearchClause;

/** How many documents stand in the places that a person is offered: libraries, views, anything with a criterion. */
final readonly class Places
{
    public function __construct(private Searching $searching, private Catalog $catalog)
    {
    }

    /**
     * The libraries and views that a person is offered, with how many documents there are in them that somebody else may
     * see too.
     *
     * @return array{
     *     libraries: list<array{code: string, name: string, documents: int}>,
     *     views: list<array{code: string, name: string, documents: int}>
     * }
     */
    public function of(User $person, User $asking): array
    {
        /** @var array<string, Library> $libraries */
        $libraries = $this->catalog
            ->libraries()
            ->only(array_keys($person->libraryRights()))
            ->only(array_keys($asking->libraryRights()))
            ->keyBy('code')
            ->all();
        $groups = $person->groupNames();
        $views = array_filter(
            $this->catalog->design()->parts(ViewPart::class),
            static fn (ViewPart $view): bool => $view->isFor($groups),
        );
        [$inLibraries, $inViews] = $this->searching->snapshot(fn (): array => [
            $this->searching->counts(
                $asking,
                array_map(static fn (Library $library): string => Printer::node(new SearchClause('library', '==', $library->code)), $libraries),
                $person,
            ),
            $this->searching->counts($asking, array_map(static fn (ViewPart $view): string => $view->criterion, $views), $person),
        ]);

        return [
            'libraries' => array_map(
                static fn (Library $library): array => [
                    'code' => $library->code,
                    'name' => $library->name,
                    'documents' => $inLibraries[$library->code],
                ],
                array_values($libraries),
            ),
            'views' => array_map(
                static fn (int|string $code): array => [
                    'code' => (string) $code,
                    'name' => $views[$code]->name,
                    'documents' => $inViews[$code],
                ],
                array_keys(array_filter($inViews)),
            ),
        ];
    }

    /**
     * How many documents that a person may see some criteria find. What cannot be searched finds nothing.
     *
     * @param  array<string, string>  $criteria  CQL by name
     * @return array<string, int>
     */
    public function counts(User $user, array $criteria): array
    {
        return $this->searching->counts($user, $criteria);
    }

    /**
     * Which of some criteria find anything that a person may see.
     *
     * @param  array<string, string>  $criteria  CQL by name
     * @return list<string> names
     */
    public function filled(User $user, array $criteria): array
    {
        return array_map(strval(...), array_keys(array_filter($this->counts($user, $criteria))));
    }
}
