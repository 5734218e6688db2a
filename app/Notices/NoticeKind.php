<?php

declare(strict_types=1);

namespace App\Notices;

/** What people are told of. */
enum NoticeKind: string
{
    case Task = 'task';
    case Reminder = 'reminder';
    case Overdue = 'overdue';
    case Question = 'question';
    case Answer = 'answer';
    case HandedOn = 'handed_on';
    case Stopped = 'stopped';
    case Told = 'told';
    case Watched = 'watched';
    case Loan = 'loan';
    case Delivery = 'delivery';
    case Source = 'source';
    case Hold = 'hold';
    case Report = 'report';
    case Webhook = 'webhook';

    /** What it is about, for who chooses what they are told. */
    public function label(): string
    {
        return match ($this) {
            self::Task => 'A task for you or your group',
            self::Reminder => 'A deadline is near',
            self::Overdue => 'A deadline is over',
            self::Question => 'Somebody asks you something',
            self::Answer => 'Your question is answered',
            self::HandedOn => 'A task is given to you',
            self::Stopped => 'A case that you look after stopped',
            self::Told => 'A procedure tells you something',
            self::Watched => 'New documents in a watched search',
            self::Loan => 'A loan was returned',
            self::Delivery => 'A delivery failed',
            self::Source => 'A source cannot be reached',
            self::Hold => 'A hold that you keep begins or ends',
            self::Report => 'A monthly report is ready',
            self::Webhook => 'A webhook of yours stopped',
        };
    }

    /** What it says where the office has no words of its own. */
    public function words(): string
    {
        return match ($this) {
            self::Task => '{step}: {document}. {question}',
            self::Reminder => 'Due on {due}: {step}, {document}.',
            self::Overdue => 'Overdue since {due}: {step}, {document}.',
            self::Question => '{by} asks about {document}: {text}',
            self::Answer => '{by} answers about {document}: {text}',
            self::HandedOn => '{by} gave you {step}: {document}. {text}',
            self::Stopped => '{procedure} stopped with {document}: {text}',
            self::Told, self::Watched, self::Loan, self::Delivery, self::Source, self::Hold, self::Report, self::Webhook => '{text}',
        };
    }

    /** @return list<string> the names that words may have in braces */
    public static function names(): array
    {
        return ['document', 'procedure', 'step', 'question', 'due', 'by', 'text'];
    }
}
