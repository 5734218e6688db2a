<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Catalog\Catalog;
use App\Design\Draft;
use App\Find\AskedSearches;
use App\Find\Cursor;
use App\Find\Finder;
use App\Find\FindRequest;
use App\Find\Found;
use App\Find\ResultTable;
use App\Find\WordReach;
use App\History\Act;
use App\History\History;
use App\Http\Requests\CriterionForm;
use App\Http\Requests\SearchInput;
use App\Http\Resources\FoundResource;
use App\Models\Document;
use App\Models\Right;
use App\Models\User;
use Brenvic\Core\Exchange\OdsSheet;
use Brenvic\Core\Query\LedgerLine;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\Printer;
use Brenvic\Core\Search\Asking\Criteria;
use Brenvic\Core\Search\Asking\Criterion;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\StreamedResponse;

final class SearchController
{
    private const LINES = 'application/x-ndjson';

    /** The answer as one; or, for those who take it line by line (application/x-ndjson), in parts as they are known. */
    public function search(SearchInput $input, Finder $finder, Catalog $catalog, Draft $draft): JsonResponse|StreamedResponse
    {
        /** @var User $user */
        $user = $input->user();
        self::tryOut($input, $catalog, $draft);
        $criteria = $input->searched();
        $toggle = $input->validated('toggle');
        if ($toggle !== null) {
            $criteria = $criteria->toggled($catalog->schema($user)->field($toggle['field']), $toggle['value'], $toggle['exclude'] ?? false);
        }

        $asked = $input->asked($criteria);
        if ($input->header('Accept') !== self::LINES) {
            $answer = $finder->find($user, $asked);
            self::note($input, $user, $answer->found, $answer->facets->took);

            return new JsonResponse(FoundResource::of($answer));
        }
        $parts = $finder->parts($user, $asked);
        // What is wrong with the search is found before anything is sent.
        $parts->rewind();

        return new StreamedResponse(
            static function () use ($parts, $input, $user): void {
                $found = null;
                foreach ($parts as $part) {
                    if ($part instanceof Found) {
                        $found = $part;
                    } elseif ($found !== null) {
                        self::note($input, $user, $found, $part->took);
                    }
                    echo json_encode(
                        FoundResource::part($part),
                        JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION | JSON_THROW_ON_ERROR,
                    )."\n";
                    flush();
                }
            },
            200,
            ['Content-Type' => self::LINES, 'Cache-Control' => 'no-store', 'X-Accel-Buffering' => 'no'],
        );
    }

    /** What was asked for is noted when the answer has gone out: nobody waits for it. */
    private static function note(SearchInput $input, User $user, Found $found, float $took): void
    {
        $request = $found->request;
        if (
            $request->offset > 0 ||
            ($request->below ?? Cursor::BEGINNING) < Cursor::BEGINNING ||
            $input->boolean('rows_only') ||
            $input->boolean('draft') ||
            $request->as !== null
        ) {
            return;
        }
        defer(static function () use ($user, $request, $found, $took): void {
            AskedSearches::note($user, $request->criteria, $request->where, $request->once, $found->answer->total, $took);
        });
    }

    /** All rows as a file, shown as the columns show them. */
    public function export(SearchInput $input, ResultTable $table, Catalog $catalog): StreamedResponse|BinaryFileResponse
    {
        /** @var User $user */
        $user = $input->user();
        $how = $input->validate(['format' => 'required|in:csv,ods', 'spreadsheet' => 'boolean']);
        $format = (string) $how['format'];
        $request = $input->asked();
        $head = [
            'Reference',
            'Title',
            ...array_map(
                static fn (string $code): string => $code === 'path' ? 'Path' : $catalog->schema($user)->field($code)->label,
                $request->columns,
            ),
        ];
        History::record(Act::Exported, $user, null, [
            'format' => $format,
            'cql' => Printer::node($request->criteria->ledger()->tree()),
            'columns' => $request->columns,
        ]);
        if ($format === 'ods') {
            [$file] = $table->ods($user, $request, $head);

            return (new BinaryFileResponse($file, 200, [
                'Content-Type' => OdsSheet::MIME,
                'Content-Disposition' => 'attachment; filename="result.ods"',
            ]))->deleteFileAfterSend();
        }

        return new StreamedResponse(
            static fn () => $table->csv($user, $request, $head, (bool) ($how['spreadsheet'] ?? false), static function (string $text): void {
                echo $text;
            }),
            200,
            ['Content-Type' => 'text/csv; charset=utf-8', 'Content-Disposition' => 'attachment; filename="result.csv"'],
        );
    }

    /** What the query line may be going to say: fields, values with counts, and searches made before. */
    public function complete(Request $request, Finder $finder): JsonResponse
    {
        $user = User::of($request);
        $typed = (string) ($request->validate(['typed' => 'nullable|string|max:1000'])['typed'] ?? '');
        $wanted = mb_strtolower(trim($typed));
        $earlier = array_filter(
            SavedSearchController::recents($user),
            static fn (array $recent): bool => $wanted === '' || str_contains(mb_strtolower($recent['words']), $wanted),
        );

        return new JsonResponse([
            ...FoundResource::completion($finder->complete($user, $typed), $typed),
            'searches' => array_slice(array_values($earlier), 0, $wanted === '' ? 8 : 4),
        ]);
    }

    /** Several criteria as one: any of them, all, or none. */
    public function group(Request $request): JsonResponse
    {
        $input = $request->validate([
            'how' => 'required|in:any,all,none',
            'criteria' => 'required|array|min:1|max:100',
            'criteria.*.cql' => 'required|string|max:60000',
            'criteria.*.negated' => 'boolean',
            'criteria.*.on' => 'boolean',
        ]);
        [$node, $negated] = Criteria::ofLines(array_values($input['criteria']))->together((string) $input['how']);

        return new JsonResponse(['cql' => (new LedgerLine($node))->cql(), 'negated' => $negated, 'on' => true]);
    }

    /** The lines that one criterion is made of, where it is a group. */
    public function apart(Request $request): JsonResponse
    {
        $input = $request->validate(['cql' => 'required|string|max:60000', 'negated' => 'boolean']);

        return new JsonResponse([
            'criteria' => Criteria::apart(new LedgerLine(Parser::parse((string) $input['cql'])->root, (bool) ($input['negated'] ?? false))),
        ]);
    }

    /** One level of a view: what a search finds, divided by a field. */
    public function groups(SearchInput $input, Finder $finder): JsonResponse
    {
        /** @var User $user */
        $user = $input->user();
        $request = new FindRequest(
            $input->searched(),
            where: $input->validated('where') ?? [],
            as: $input->lookingAs(),
            once: $input->boolean('once'),
        );

        return new JsonResponse([
            'groups' => FoundResource::groups(
                $finder->groups(
                    $user,
                    $request,
                    (string) $input->validated('level'),
                    $input->validated('below'),
                    $input->validated('total'),
                ),
            ),
        ]);
    }

    /** What a search found is about: its themes, and the words that stand out. */
    public function themes(SearchInput $input, Finder $finder): JsonResponse
    {
        /** @var User $user */
        $user = $input->user();

        return new JsonResponse(FoundResource::themes($finder->themes($user, $input->asked())));
    }

    /** What is attached to a document, as rows of a search that shows it. */
    public function attached(SearchInput $input, Document $document, Finder $finder): JsonResponse
    {
        /** @var User $user */
        $user = $input->user();

        return new JsonResponse(['rows' => FoundResource::attached($finder->attached($user, $input->asked(), $document->id))]);
    }

    /** Whoever designs may ask of what is not published yet, too. */
    private static function tryOut(Request $request, Catalog $catalog, Draft $draft): void
    {
        if ($request->boolean('draft') && User::of($request)->may(Right::Design)) {
            $catalog->tryOut($draft->design());
        }
    }

    /** Makes a criterion of a field, a relation and values, or says what is wrong with them. */
    public function criterion(CriterionForm $request, Catalog $catalog, Draft $draft, WordReach $reach): JsonResponse
    {
        $user = User::of($request);
        self::tryOut($request, $catalog, $draft);
        $node = $request->criterion($catalog->schema($user), $reach->of($user));

        return new JsonResponse(['cql' => (new LedgerLine($node))->cql()]);
    }
}
