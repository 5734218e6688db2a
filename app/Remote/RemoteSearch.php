<?php

declare(strict_types=1);

namespace App\Remote;

use App\Catalog\Catalog;
use App\Find\FindRequest;
use App\Models\User;
use Brenvic\Core\Exchange\Sru\LeftOut;
use Brenvic\Core\Exchange\Sru\RemoteQuery;
use Brenvic\Core\Exchange\Sru\SruAnswer;
use Brenvic\Core\Exchange\Sru\SruFault;
use Brenvic\Core\Exchange\Sru\SruRecord;
use Brenvic\Core\Exchange\Sru\SruRequest;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Index\Part;
use Brenvic\Core\Pages\HitFinder;
use Brenvic\Core\Search\Asking\Criterion;

/** The search of a person, made in a repository elsewhere, and its records in the words of the design here. */
final readonly class RemoteSearch
{
    public function __construct(private Catalog $catalog, private RemoteServer $server)
    {
    }

    /**
     * @return array<string, mixed> `state` is a RemoteState; `says` tells what happened; `total` is null unless found
     */
    public function find(User $user, RemoteRepository $repository, FindRequest $request): array
    {
        $schema = $this->catalog->schema($request->as ?? $user)->lookingIn($request->where);
        $ledger = $request->criteria->ledger();
        $answer = [
            'repository' => $repository->code,
            'name' => $repository->name,
            'state' => RemoteState::Found,
            'says' => '',
            'total' => null,
            'cql' => '',
            'left_out' => [],
            'offset' => $request->offset,
            'rows' => [],
        ];
        $since = hrtime(true);
        try {
            $there = $this->server->explain($repository);
            $query = RemoteQuery::of($ledger, $schema, $there, $request->sort);
            $answer['cql'] = $query->cql;
            $answer['left_out'] = array_map(
                static fn (LeftOut $line): array => [...Criterion::describe($line->node, $schema), 'reason' => $line->reason, 'asked' => $line->isAsked],
                $query->leftOut,
            );
            if (! $query->asks) {
                return [
                    ...$answer,
                    'state' => RemoteState::Refused,
                    'says' => "No line of this search can be sent to {$repository->name}.",
                ];
            }
            $got = SruAnswer::read(
                $this->server->text(
                    $repository,
                    SruRequest::search(
                        $repository->address,
                        $query->cql,
                        $request->offset,
                        min($request->limit, $there->most),
                        $there->schema,
                    ),
                ),
                $request->offset,
            );
            if ($got->diagnostics !== [] && $got->records === []) {
                return [
                    ...$answer,
                    'state' => RemoteState::Refused,
                    'says' => "{$repository->name} says: ".implode('; ', $got->diagnostics),
                ];
            }
            $answer['total'] = $got->total;
            $answer['says'] = implode('; ', $got->diagnostics);
            $values = new RemoteValues($schema);
            $titles = HitFinder::forPart($ledger, Part::Names, $schema->everywhere);
            $texts = HitFinder::forText($ledger);
            $answer['rows'] = array_map(
                static fn (SruRecord $record): array => self::row($record, $repository, $request->columns, $values->of($record), [$titles, $texts]),
                $got->records,
            );
        } catch (RemoteFault $fault) {
            return [...$answer, 'state' => $fault->state, 'says' => $fault->getMessage()];
        } catch (SruFault $fault) {
            return [
                ...$answer,
                'state' => RemoteState::Unreachable,
                'says' => "{$repository->name} does not answer as it should: {$fault->getMessage()}",
            ];
        }

        return [...$answer, 'took_ms' => round((hrtime(true) - $since) / 1e6, 1)];
    }

    /**
     * What each field of the design is called there.
     *
     * @return array<string, mixed> state as of `find`
     */
    public function look(User $user, RemoteRepository $repository): array
    {
        $this->server->forget($repository);
        try {
            $there = $this->server->explain($repository);
        } catch (RemoteFault $fault) {
            return ['state' => $fault->state, 'says' => $fault->getMessage(), 'title' => '', 'fields' => []];
        }
        $schema = $this->catalog->schema($user);
        $fields = [
            [
                'code' => 'title',
                'label' => 'Title',
                'element' => 'title',
                'searched' => $there->searches('dc.title'),
                'sorted' => $there->sorts('dc.title'),
            ],
        ];
        foreach ($schema->fields as $field) {
            $element = RemoteQuery::element($schema, $field->code);
            if ($element !== null || isset($this->catalog->fields()[$field->code])) {
                $fields[] = [
                    'code' => $field->code,
                    'label' => $field->label,
                    'element' => $element,
                    'searched' => $element !== null && $there->searches("dc.{$element}"),
                    'sorted' => $element !== null && $there->sorts("dc.{$element}"),
                ];
            }
        }

        return [
            'state' => RemoteState::Found,
            'says' => $there->indexes === [] ? 'It does not say what it can do; it is asked as any server is.' : '',
            'title' => $there->title,
            'fields' => $fields,
        ];
    }

    /**
     * @param  list<string>  $columns
     * @param  array<string, list<string>>  $values  by field code
     * @param  array{HitFinder, HitFinder}  $finders  of what was looked for in titles, and in texts
     * @return array<string, mixed>
     */
    private static function row(SruRecord $record, RemoteRepository $repository, array $columns, array $values, array $finders): array
    {
        [$titles, $texts] = $finders;
        $cells = [];
        foreach ($columns as $code) {
            $cells[$code] = implode(', ', $values[$code] ?? []);
        }
        $address = $record->address();
        $title = $record->fault ?: ($record->first('title') ?: ($record->first('identifier') ?: 'Without a title'));

        return [
            'position' => $record->position,
            'title' => $title,
            'title_pieces' => $record->fault === '' ? $titles->pieces($title) : [[$title, false]],
            'is_faulty' => $record->fault !== '',
            'cells' => (object) $cells,
            'elements' => array_map(
                static fn (string $element, array $values): array => [
                    'element' => $element,
                    'values' => array_map(
                        static fn (string $value): array => $texts->pieces($element === 'date' ? self::day($value) : $value),
                        $values,
                    ),
                ],
                array_keys($record->elements),
                array_values($record->elements),
            ),
            'address' => $address,
            // What is kept on the server itself is fetched from here; anything else is only named.
            'may_fetch' => $address !== null && $repository->serves($address),
            'seal' => $address === null ? '' : $repository->seal($address),
        ];
    }

    private static function day(string $value): string
    {
        try {
            return PartialDate::parse($value)->display();
        } catch (InvalidValue) {
            return $value;
        }
    }
}
