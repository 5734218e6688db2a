<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Support\Outbox;
use App\Support\Refused;
use Brenvic\Core\Procedures\Acts\Act;
use Brenvic\Core\Procedures\Acts\SendMail;

/** @implements Performs<SendMail> */
final readonly class SendsMails implements Performs
{
    public function __construct(private Filled $filled, private SenderOf $senders)
    {
    }

    public function perform(Act $act, Doing $doing): string
    {
        $to = trim($act->to === SendMail::SENDER ? (string) $this->senders->of($doing->document) : $this->filled->text($act->to, $doing));
        if (filter_var($to, FILTER_VALIDATE_EMAIL) === false) {
            throw new Refused($to === '' ? 'No address is known that the mail could go to.' : "“{$to}” is not an e-mail address.");
        }
        $by = $doing->decider->id ?? $doing->case->begun_by ?? $doing->document->created_by;
        Outbox::put(
            (int) $by,
            $to,
            Outbox::line($this->filled->text($act->subject, $doing)),
            $this->filled->text($act->text, $doing),
        );

        return "Wrote to {$to}";
    }
}
