<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Models\User;
use App\Notices\NoticeKind;
use App\Notices\Notices;
use App\Support\Refused;
use Brenvic\Core\Procedures\Acts\Act;
use Brenvic\Core\Procedures\Acts\SendNotice;

/** @implements Performs<SendNotice> */
final readonly class SendsNotices implements Performs
{
    public function __construct(private Rights $rights, private Catalog $catalog, private Filled $filled)
    {
    }

    public function perform(Act $act, Doing $doing): string
    {
        $audience = $act->to?->find(new CaseFacts($doing->document, $this->rights, $this->catalog));
        if ($audience === null || $audience->isEmpty()) {
            throw new Refused('Nobody can be told: '.($act->to?->missing() ?? 'nobody is named').'.');
        }
        $people = User::among($audience->groups, $audience->people)->get();
        $told = $this->rights->seers($people, $doing->document);
        Notices::tell(
            $told,
            NoticeKind::Told,
            ['text' => $this->filled->text($act->text, $doing), 'document' => $doing->document->title, 'procedure' => $doing->part->name],
            "/documents/{$doing->document->ref}",
            $doing->document,
        );

        return 'Told '.implode(', ', $audience->groups === [] ? array_map(static fn (User $user): string => $user->name, $told) : $audience->groups);
    }
}
