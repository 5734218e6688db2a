<?php

declare(strict_types=1);

namespace App\Reading;

use App\Files\PageStore;
use App\Find\FoundDocument;
use App\Find\Searching;
use App\Models\User;
use App\Redaction\Redactions;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\ReadingPart;
use Brenvic\Core\Design\TypePart;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Reading\Context;
use Brenvic\Core\Reading\Found;
use Brenvic\Core\Reading\Outcome;
use Brenvic\Core\Reading\Reader;
use Brenvic\Core\Reading\Reading;
use Brenvic\Core\Reading\ReadingRule;
use Brenvic\Core\Reading\TooManySteps;
use Generator;
use Illuminate\Support\Facades\DB;

/** Tries a reading rule on the documents that there are, and holds what it reads against what people gave. */
final readonly class Trials
{
    /** So many documents are read. */
    private const MOST = 1_500;

    /** Seconds that a trial takes. */
    private const SECONDS = 6.0;

    private const AT_ONCE = 50;

    /** Documents that are listed for each outcome, and places for each document. */
    private const LISTED = 30;

    private const PLACES = 3;

    public function __construct(private Searching $searching, private Redactions $redactions)
    {
    }

    /** @param  Design  $design  with the rule’s field as it would be */
    public function of(User $user, ReadingPart $part, Design $design, FieldDefinition $field, string $cql): Trial
    {
        $documents = $this->documents($user, $part, $design, $cql);
        $rule = $part->rule($design);
        $until = microtime(true) + self::SECONDS;
        $tried = $hits = 0;
        $fault = null;
        $listed = $refs = [];
        foreach (array_chunk($documents->spread(self::MOST), self::AT_ONCE) as $ids) {
            if (microtime(true) > $until) {
                break;
            }
            $about = FoundDocument::of($ids);
            $given = $part->isMention ? [] : self::given($field, $ids);
            try {
                foreach ($this->read($rule, $field, $ids) as $id => [$reading, $texts]) {
                    $values = $given[$id] ?? [];
                    $read = array_map(static fn (Found $of): string => $of->value, $reading->proposed($field->multiple));
                    $outcome = Outcome::of($read, $values)->value;
                    $tried++;
                    $hits += count($reading->found);
                    $refs[$outcome][] = $about[$id]->ref;
                    if (count($listed[$outcome] ?? []) < self::LISTED) {
                        $listed[$outcome][] = new TriedDocument(
                            $about[$id]->ref,
                            $about[$id]->title,
                            array_map($field->display(...), $values),
                            array_map(
                                static fn (Found $of): array => [$of, Context::of($texts[$of->page], $of->offset, $of->length)],
                                array_slice($reading->found, 0, self::PLACES),
                            ),
                        );
                    }
                }
            } catch (TooManySteps $stopped) {
                $fault = $stopped->getMessage();
                break;
            }
        }

        return new Trial($documents->count(), $tried, $hits, $fault, $listed, $refs);
    }

    /** Those of a search whose types the rule reads, without those that its person does not see whole and those still to be read. */
    private function documents(User $user, ReadingPart $part, Design $design, string $cql): DocumentSet
    {
        return $this->searching->snapshot(function () use ($user, $part, $design, $cql): DocumentSet {
            $searcher = $this->searching->searcher($this->searching->schema($user));
            $asker = $this->searching->asker($user);
            $found = $searcher->documents($asker, Parser::parse($cql === '' ? SearchClause::EVERYTHING.' = 1' : $cql)->root);
            // What is still being read says nothing yet.
            $unread = $searcher->documents($asker, new SearchClause('text_state', '==', 'pending'));
            $found = $found->minus(DocumentSet::of($this->redactions->bound($user)))->minus($unread);
            if ($part->isMention && $part->types === []) {
                return $found;
            }
            $types = array_map(
                static fn (string $type): SearchClause => new SearchClause('type', '==', $type),
                $part->types === [] ? self::typesWith($design, $part->field) : $part->types,
            );
            $node = BooleanNode::join(BooleanOperator::Or, $types);

            return $node === null ? DocumentSet::none() : $found->and($searcher->documents($asker, $node));
        });
    }

    /** @return list<string> codes of the document types that have a field */
    private static function typesWith(Design $design, string $field): array
    {
        $types = array_filter(
            $design->parts(TypePart::class),
            static fn (TypePart $type): bool => in_array($field, $type->fieldCodes(), true),
        );

        return array_map(strval(...), array_keys($types));
    }

    /**
     * What people gave documents for a field, what they gave their dossiers among it.
     *
     * @param  list<int>  $ids
     * @return array<int, list<string>> normal forms by document
     */
    private static function given(FieldDefinition $field, array $ids): array
    {
        $given = [];
        foreach (
            DB::table('effective_values')
                ->join('fields', 'fields.id', '=', 'field_id')
                ->where('fields.code', $field->code)
                ->whereIntegerInRaw('document_id', $ids)
                ->orderBy('effective_values.position')
                ->get(['document_id', 'value']) as $row
        ) {
            $given[(int) $row->document_id][] = (string) $row->value;
        }

        return $given;
    }

    /**
     * @param  list<int>  $ids
     * @return Generator<int, array{Reading, array<int, string>}> document => what was read, and the texts of its pages
     *
     * @throws TooManySteps
     */
    private function read(ReadingRule $rule, FieldDefinition $field, array $ids): Generator
    {
        $pages = PageStore::of($ids);
        foreach ($ids as $id) {
            $its = $pages[$id] ?? [];
            yield $id => [Reader::read($rule, $field, $its), array_map(static fn (TextPage $page): string => $page->text, $its)];
        }
    }
}
