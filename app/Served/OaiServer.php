<?php

declare(strict_types=1);

namespace App\Served;

use App\Find\Searching;
use App\Models\Document;
use App\Models\User;
use Brenvic\Core\Exchange\Oai\ListPlace;
use Brenvic\Core\Exchange\Oai\OaiFault;
use Brenvic\Core\Exchange\Oai\OaiHeader;
use Brenvic\Core\Exchange\Oai\OaiQuestion;
use Brenvic\Core\Exchange\Oai\OaiWriter;
use Brenvic\Core\Exchange\Oai\Verb;
use Brenvic\Core\Exchange\Records\RecordSchema;
use Brenvic\Core\Facets\FacetCounter;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Search\Asking\Criterion;

/** Answers OAI-PMH 2.0, each request with the sight of the person who asks. */
final readonly class OaiServer
{
    /** Records of one answer, and heads. */
    private const RECORDS = 250;

    private const HEADS = 1_000;

    private const SETS = 500;

    private const FORMATS = [RecordSchema::OaiDublinCore, RecordSchema::Mods];

    public function __construct(private Changes $changes, private Searching $searching, private ServedRecords $records)
    {
    }

    /**
     * @param  string  $query  verb and arguments, as they came
     * @param  string  $address  of the server
     * @return string XML
     */
    public function answer(User $user, string $query, string $address): string
    {
        try {
            $question = OaiQuestion::read($query);
        } catch (OaiFault $fault) {
            // What is not understood is not echoed (3.2).
            return self::refused($address, $fault, []);
        }
        $request = ['verb' => $question->verb->value, ...$question->arguments];
        try {
            return $this->told($user, $question, new OaiWriter($address, Changes::now(), $request), $address)->end();
        } catch (OaiFault $fault) {
            return self::refused($address, $fault, $fault->kind === OaiFault::BAD_ARGUMENT ? [] : $request);
        }
    }

    /** @param  array<string, string>  $request */
    public static function refused(string $address, OaiFault $fault, array $request): string
    {
        $writer = new OaiWriter($address, Changes::now(), $request);
        $writer->fault($fault);

        return $writer->end();
    }

    /** By which records are known here, before the reference of the document. */
    public static function prefix(): string
    {
        $host = (string) parse_url((string) config('brenvic.url'), PHP_URL_HOST);
        $mail = substr((string) strrchr((string) config('brenvic.mail_from'), '@'), 1);

        return 'oai:'.(preg_match('/^[a-z][a-z0-9-]*(\.[a-z][a-z0-9-]*)+$/i', $host) === 1 ? $host : $mail).':';
    }

    /** @throws OaiFault */
    private function told(User $user, OaiQuestion $question, OaiWriter $writer, string $address): OaiWriter
    {
        match ($question->verb) {
            Verb::Identify => $writer->identify(
                (string) config('brenvic.organisation'),
                $address,
                [(string) config('brenvic.mail_from')],
                Changes::earliest(),
                self::prefix().Document::refOf(1),
            ),
            Verb::ListMetadataFormats => $this->formats($user, $question, $writer),
            Verb::ListSets => $this->sets($user, $question, $writer),
            Verb::GetRecord => $this->get($user, $question, $writer),
            Verb::ListIdentifiers, Verb::ListRecords => $this->list($user, $question, $writer),
        };

        return $writer;
    }

    /** @throws OaiFault */
    private function formats(User $user, OaiQuestion $question, OaiWriter $writer): void
    {
        $question->argument('identifier') === '' || $this->known($user, $question->argument('identifier'));
        $writer->formats(self::FORMATS);
    }

    /** @throws OaiFault */
    private function get(User $user, OaiQuestion $question, OaiWriter $writer): void
    {
        $schema = self::schema($question->argument('metadataPrefix'));
        [$id, $goneAt] = $this->known($user, $question->argument('identifier'));
        if ($goneAt !== null) {
            $writer->get($schema, new OaiHeader($question->argument('identifier'), $goneAt, [], true), null);

            return;
        }
        $record = $this->records->of($user, [$id])[$id] ?? throw new OaiFault(OaiFault::NO_IDENTIFIER, 'There is no such record.');
        $stamp = $this->changes->stamp($id) ?? $record->changedAt;
        $writer->get($schema, new OaiHeader(self::prefix().$record->ref, $stamp, $this->setsOf($user, [$id])[$id] ?? []), $record);
    }

    /**
     * @return array{int, string|null} the document, and when it went out of sight
     *
     * @throws OaiFault
     */
    private function known(User $user, string $identifier): array
    {
        $sight = $this->changes->seen($user);
        $ref = str_starts_with($identifier, self::prefix()) ? substr($identifier, strlen(self::prefix())) : '';
        $id = preg_match('/^D-0*(\d{1,12})-/', $ref, $m) === 1 && Document::refOf((int) $m[1]) === $ref ? (int) $m[1] : 0;
        $goneAt = $sight->has($id) ? null : $this->changes->goneAt($this->changes->asker($user), $id);
        if ($id === 0 || ($goneAt === null && ! $sight->has($id))) {
            throw new OaiFault(OaiFault::NO_IDENTIFIER, 'There is no such record.');
        }

        return [$id, $goneAt];
    }

    /** @throws OaiFault */
    private function list(User $user, OaiQuestion $question, OaiWriter $writer): void
    {
        $asker = $this->changes->asker($user);
        $token = $question->argument('resumptionToken');
        $sight = $this->changes->seen($user);
        $place =
            $token === ''
                ? new ListPlace(
                    $asker,
                    $question->verb->value,
                    $question->argument('metadataPrefix'),
                    $question->argument('set'),
                    $question->from,
                    // What changes while the list is read is for the next time: a list has an end.
                    min($question->until === '' ? '9' : $question->until, Changes::now()),
                )
                : ListPlace::read($token, (string) config('app.key'), $asker, $question->verb->value);
        $schema = self::schema($place->prefix);
        $most = $question->verb === Verb::ListRecords ? self::RECORDS : self::HEADS;
        $found = $this->changes->next(
            $asker,
            $this->within($user, $place->set, $sight),
            $place->from,
            $place->until,
            $place->stamp,
            $place->number,
            $most + 1,
        );
        if ($found === [] && $place->given === 0) {
            throw new OaiFault(OaiFault::NO_RECORDS, 'Nothing changed in this time, or nothing is in the set.');
        }
        $isMore = count($found) > $most;
        $found = array_slice($found, 0, $most);
        $last = $found[count($found) - 1] ?? null;
        $next =
            $isMore && $last !== null
                ? $place->at($last['stamp'], $last['id'], $place->given + count($found))->token((string) config('app.key'))
                : '';
        $writer->list(
            $question->verb,
            $schema,
            $this->shaped($user, $question->verb, $found),
            $next === '' && $place->given === 0 ? null : $next,
            $place->given,
        );
    }

    /**
     * @param  list<array{id: int, stamp: string, gone: bool}>  $found
     * @return list<array{OaiHeader, \Brenvic\Core\Exchange\Records\ServedRecord|null}>
     */
    private function shaped(User $user, Verb $verb, array $found): array
    {
        $there = array_values(
            array_map(static fn (array $of): int => $of['id'], array_filter($found, static fn (array $of): bool => ! $of['gone'])),
        );
        $records = $verb === Verb::ListRecords ? $this->records->of($user, $there) : [];
        $sets = $this->setsOf($user, $there);
        $shaped = [];
        foreach ($found as ['id' => $id, 'stamp' => $stamp, 'gone' => $isGone]) {
            $record = $records[$id] ?? null;
            // What went between the two is told of the next time.
            if ($isGone || $record !== null || $verb === Verb::ListIdentifiers) {
                $shaped[] = [
                    new OaiHeader(self::prefix().Document::refOf($id), $stamp, $isGone ? [] : $sets[$id] ?? [], $isGone),
                    $record,
                ];
            }
        }

        return $shaped;
    }

    /** @throws OaiFault */
    private static function schema(string $prefix): RecordSchema
    {
        foreach (self::FORMATS as $schema) {
            if ($schema->value === $prefix) {
                return $schema;
            }
        }
        throw new OaiFault(OaiFault::NO_FORMAT, 'Records are given as oai_dc and mods.');
    }

    /** @throws OaiFault */
    private function sets(User $user, OaiQuestion $question, OaiWriter $writer): void
    {
        $asker = $this->changes->asker($user);
        $token = $question->argument('resumptionToken');
        $place =
            $token === ''
                ? new ListPlace($asker, Verb::ListSets->value, '', '', '', '')
                : ListPlace::read($token, (string) config('app.key'), $asker, Verb::ListSets->value);
        $all = $this->allSets($user);
        $piece = array_slice($all, $place->given, self::SETS, true);
        $given = $place->given + count($piece);
        $next = $given < count($all) ? $place->at('', 0, $given)->token((string) config('app.key')) : '';
        $writer->sets(
            array_map(static fn (string $spec, array $of): array => [$spec, $of[0]], array_map(strval(...), array_keys($piece)), $piece),
            $next === '' && $place->given === 0 ? null : $next,
            $place->given,
        );
    }

    /**
     * The sets that a person sees documents in: libraries, and concepts of schemes.
     *
     * @return array<string, array{string, SearchClause}> name and criterion by specification
     */
    private function allSets(User $user): array
    {
        return $this->searching->snapshot(function () use ($user): array {
            $schema = $this->searching->schema($user);
            $reader = $this->searching->reader($schema);
            $reader->refresh();
            $asker = $this->searching->asker($user);
            $sight = $this->searching->searcher($schema)->sight($asker);
            $counter = new FacetCounter($reader);
            $sets = [];
            foreach ($this->setFields($user) as $code => $field) {
                $numbers = $reader->valueTerms((string) $code);
                foreach ($counter->byNumber((string) $code, $sight, $asker->name()) as $number => $documents) {
                    $normal = $numbers[$number] ?? null;
                    if ($normal !== null && $documents > 0 && isset($field->vocabulary->terms[$normal])) {
                        $name = $code === 'library' ? $field->display($normal) : "{$field->label}: {$field->display($normal)}";
                        $sets[self::spec((string) $code, $normal)] = [
                            $name,
                            new SearchClause((string) $code, '==', Criterion::escaped($normal)),
                        ];
                    }
                }
            }
            ksort($sets);

            return $sets;
        });
    }

    /** @return array<string, FieldDefinition> the library, and fields whose values are concepts of schemes */
    private function setFields(User $user): array
    {
        $schema = $this->searching->schema($user);

        return array_filter(
            Cover::open($schema->fields),
            static fn (FieldDefinition $field): bool => $field->faceted && ($field->code === 'library' || $field->isTree()),
        );
    }

    /** Letters, digits and a few signs: others are written by their numbers. */
    private static function spec(string $field, string $value): string
    {
        $of = preg_replace_callback('/[^A-Za-z0-9_.~()\'*-]/', static fn (array $m): string => sprintf('!%02X', ord($m[0])), $value);

        return "{$field}:{$of}";
    }

    /** @throws OaiFault */
    private function within(User $user, string $set, DocumentSet $sight): DocumentSet
    {
        if ($set === '') {
            return $sight;
        }
        $clause = $this->allSets($user)[$set][1] ?? throw new OaiFault(OaiFault::NO_RECORDS, 'There is no such set.');
        $schema = $this->searching->schema($user);

        return $this->searching->snapshot(
            fn (): DocumentSet => $this->searching->searcher($schema)->documents($this->searching->asker($user), $clause),
        );
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, list<string>>
     */
    private function setsOf(User $user, array $ids): array
    {
        $fields = $this->setFields($user);
        $sets = [];
        $reader = $this->searching->reader($this->searching->schema($user));
        foreach (
            $this->searching->snapshot(
                static fn (): array => $ids === [] ? [] : $reader->entriesOf(array_map(strval(...), array_keys($fields)), $ids),
            ) as $id => $entries
        ) {
            foreach ($entries as $code => [$values]) {
                foreach ($values as $value) {
                    isset($fields[$code]->vocabulary->terms[$value]) && ($sets[$id][] = self::spec((string) $code, $value));
                }
            }
        }

        return array_map(static function (array $of): array {
            sort($of);

            return $of;
        }, $sets);
    }
}
