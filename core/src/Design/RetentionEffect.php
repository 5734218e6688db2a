<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Index\DocumentSet;
use Brenvic\Core\Query\BooleanNode;
use Brenvic\Core\Query\BooleanOperator;
use Brenvic\Core\Query\Node;
use Brenvic\Core\Query\SearchClause;
use Brenvic\Core\Retention\Keeping;
use Brenvic\Core\Retention\KeepingState;
use Brenvic\Core\Search\Asking\Criterion;
use Closure;

/**
 * What a change of retention rules would do to the documents that they cover: both designs are asked how long each is kept.
 */
final readonly class RetentionEffect
{
    /**
     * @param  Closure(Node): DocumentSet  $before  finds documents with the design as it is
     * @param  Closure(Node): DocumentSet  $after  finds documents with the design as it would be
     */
    public function __construct(
        private Design $old,
        private Design $new,
        private KeptDocuments $documents,
        private Closure $before,
        private Closure $after,
    ) {
    }

    /** @return list<EffectCount> */
    public function of(DesignChange $change): array
    {
        $node = match ($change->kind) {
            DesignKind::Vocabulary => $this->ofVocabulary($change),
            DesignKind::Type => self::isOther($change->before, $change->after) ? self::is('type', '==', $change->code) : null,
            DesignKind::DossierKind => self::isOther($change->before, $change->after) ? self::is('dossier_kind', '==', $change->code) : null,
            default => null,
        };

        return $node === null ? [] : $this->counts($change, ($this->before)($node)->or(($this->after)($node)));
    }

    /** Documents with concepts whose rule is another, or whose place is, where that hands down a rule. */
    private function ofVocabulary(DesignChange $change): ?Node
    {
        $was = self::byCode($change->before);
        $is = self::byCode($change->after);
        $rules = array_filter(array_map(RetentionOfDesign::in(...), [...array_values($was), ...array_values($is)]));
        if ($rules === []) {
            return null;
        }
        $terms = [];
        foreach ($is + $was as $code => $_) {
            $old = $was[$code] ?? [];
            $new = $is[$code] ?? [];
            $places = ($old['parent'] ?? null) !== ($new['parent'] ?? null) || ! Design::same($old['also_below'] ?? [], $new['also_below'] ?? []);
            if ($places || self::isOther($old, $new)) {
                $terms[] = (string) $code;
            }
        }
        $nodes = [];
        foreach ($this->old->fields() + $this->new->fields() as $field) {
            foreach ($field->vocabulary?->code === $change->code ? $terms : [] as $term) {
                $nodes[] = self::is($field->code, '=', $term);
            }
        }

        return BooleanNode::join(BooleanOperator::Or, $nodes);
    }

    /** @return list<EffectCount> */
    private function counts(DesignChange $change, DocumentSet $documents): array
    {
        $old = $this->documents->rules($this->old);
        $new = $this->documents->rules($this->new);
        $found = [];
        foreach ($this->documents->facts($documents, [$old, $new]) as $number => $facts) {
            $what = $this->told($old->of($facts), $new->of($facts));
            $what === null || ($found[$what][] = $number);
        }
        $counts = [];
        foreach (self::WORDS as $what => [$kind, $words]) {
            if (isset($found[$what])) {
                $counts[] = new EffectCount($kind, $change, count($found[$what]), $words, null, [], DocumentSet::of($found[$what]));
            }
        }

        return $counts;
    }

    private const WORDS = [
        'due' => [EffectKind::FallsDue, 'due this quarter, or already'],
        'not_due' => [EffectKind::NoLongerDue, 'no longer due this quarter'],
        'sooner' => [EffectKind::KeptOtherwise, 'kept for a shorter time'],
        'longer' => [EffectKind::KeptOtherwise, 'kept for a longer time'],
        'no_date' => [EffectKind::KeptOtherwise, 'without the date that their period counts from'],
        'waiting' => [EffectKind::KeptOtherwise, 'with a period that has not begun'],
        'permanent' => [EffectKind::KeptOtherwise, 'kept permanently'],
        'lifted' => [EffectKind::KeptOtherwise, 'exempt from their rule'],
        'no_rule' => [EffectKind::KeptOtherwise, 'no longer covered by a rule'],
        'dated' => [EffectKind::KeptOtherwise, 'due later, without a date before'],
        'action' => [EffectKind::KeptOtherwise, 'with another action when due'],
    ];

    private function told(Keeping $was, Keeping $is): ?string
    {
        $end = $this->documents->quarterEnd();
        if ($was->isDue($end) !== $is->isDue($end)) {
            return $is->isDue($end) ? 'due' : 'not_due';
        }
        if ($was->state !== $is->state) {
            return $is->state === KeepingState::Destroyed ? null : $is->state->value;
        }

        return match (true) {
            $is->due < $was->due => 'sooner',
            $is->due > $was->due => 'longer',
            $is->action() !== $was->action() => 'action',
            default => null,
        };
    }

    private static function is(string $field, string $relation, string $value): Node
    {
        return new SearchClause($field, $relation, Criterion::escaped($value));
    }

    /**
     * @param  array<string, mixed>|null  $was
     * @param  array<string, mixed>|null  $is
     */
    private static function isOther(?array $was, ?array $is): bool
    {
        return ! Design::same(RetentionOfDesign::in($was ?? []), RetentionOfDesign::in($is ?? []));
    }

    /**
     * @param  array<string, mixed>|null  $vocabulary
     * @return array<string, array<string, mixed>>
     */
    private static function byCode(?array $vocabulary): array
    {
        return (new Terms(Design::entries($vocabulary, 'terms')))->byCode;
    }
}
