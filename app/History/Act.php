<?php

declare(strict_types=1);

namespace App\History;

/** What is recorded in the history. */
enum Act: string
{
    case Filed = 'filed';
    case Viewed = 'viewed';
    case Changed = 'changed';
    case Revealed = 'revealed';
    case Delivered = 'delivered';
    case Exported = 'exported';
    case Commented = 'commented';
    case Held = 'held';
    case Released = 'released';
    case Removed = 'removed';
    case Restored = 'restored';
    case Destroyed = 'destroyed';
    case PutInDossier = 'put_in_dossier';
    case TakenOutOfDossier = 'taken_out_of_dossier';

    public function words(): string
    {
        return match ($this) {
            self::PutInDossier => 'put into a dossier',
            self::TakenOutOfDossier => 'taken out of a dossier',
            self::Revealed => 'uncovered',
            self::Held => 'put on hold',
            self::Released => 'released from a hold',
            default => $this->value,
        };
    }
}
