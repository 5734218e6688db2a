<?php

declare(strict_types=1);

namespace App\Http\Resources;

use App\Catalog\Catalog;
use App\Models\Document;
use App\Models\User;
use App\Retention\KeptFacts;
use Brenvic\Core\Fields\PartialDate;
use Brenvic\Core\Retention\RetentionRule;
use Brenvic\Core\Retention\RuleOutcome;
use Illuminate\Support\Facades\DB;

/** Shapes how long a document is kept. Rules that speak of what a person does not know of are not named to them. */
final readonly class RetentionResource
{
    public function __construct(private Catalog $catalog, private KeptFacts $facts)
    {
    }

    /** @return array<string, mixed> */
    public function of(Document $document, User $user): array
    {
        $keeping = $this->facts->keepings([$document->id])[$document->id];
        $known = $this->catalog->systemFieldsFor($user)['retention_rule']->vocabulary->terms ?? [];
        $isKnown = static fn (?RetentionRule $rule): bool => $rule === null || isset($known[$rule->code]);

        return [
            'state' => $keeping->state->value,
            'label' => $keeping->state->label(),
            'due' => $keeping->dueOn()?->iso(),
            'action' => $keeping->action()?->label(),
            'reason' => $isKnown($keeping->rule) ? $keeping->reason : 'by a rule about what you may not see',
            'rules' => array_values(
                array_map(
                    static fn (RuleOutcome $outcome): array => [
                        'of' => ucfirst($outcome->rule->of),
                        'words' => $outcome->rule->words(),
                        'action' => $outcome->rule->action->label(),
                        'authority' => $outcome->rule->authority,
                        'state' => $outcome->state->label(),
                        'due' => $outcome->due === null ? null : PartialDate::ofDay($outcome->due)->iso(),
                        'why' => $outcome->why,
                    ],
                    array_filter($keeping->outcomes, static fn (RuleOutcome $outcome): bool => $isKnown($outcome->rule)),
                ),
            ),
            'begun_anew' => $document->kept_from === null ? null : substr($document->kept_from, 0, 10),
            'postponed_to' => $document->kept_until === null ? null : substr($document->kept_until, 0, 10),
            'exempt' => $document->exempt_reason,
            'destroyed' => $this->destroyed($document),
        ];
    }

    /** @return array{at: string, disposal: int|null}|null */
    private function destroyed(Document $document): ?array
    {
        if ($document->destroyed_at === null) {
            return null;
        }
        $disposal = DB::table('disposal_items')->where('document_id', $document->id)->whereNotNull('entry')->value('disposal_id');

        return ['at' => $document->destroyed_at->toIso8601String(), 'disposal' => $disposal === null ? null : (int) $disposal];
    }
}
