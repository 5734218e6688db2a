<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** What a change of the design does to documents that exist. */
enum EffectKind: string
{
    /** Values that could not be given any more; they stay until somebody changes the sheet. */
    case Invalid = 'invalid';
    /** Values that cannot be turned into the new kind, or whose term is gone: the change cannot be published. */
    case Lost = 'lost';
    /** Values that are written in the new kind, or in another field. */
    case Converted = 'converted';
    /** Values that give way to another term. */
    case Replaced = 'replaced';
    /** Values put aside because the document has one already; bringing the version back brings them back. */
    case Dropped = 'dropped';
    /** Values that a version brought back gives back: what later ones did to them is undone. */
    case GivenBack = 'given_back';
    /** Documents without a value that is required from now on. */
    case Missing = 'missing';
    /** Values that index sheets do not show any more. */
    case Unshown = 'unshown';
    /** Values that readers cannot see any more, or see for the first time. */
    case Hidden = 'hidden';
    case Revealed = 'revealed';
    /** Values shown only in part, or whole again, in a view. */
    case Masked = 'masked';
    /** Titles that are made anew. */
    case Retitled = 'retitled';
    /** Documents that come into a view, or leave it. */
    case Appears = 'appears';
    case Vanishes = 'vanishes';
    /** Documents that another name, place or sort of term is shown for. */
    case Reworded = 'reworded';
    /** Concepts that documents had and none has any more. Counted in concepts. */
    case Emptied = 'emptied';
    /** Documents that people come to see, or see no more. */
    case Gains = 'gains';
    case Loses = 'loses';
    /** Documents in dossiers that have a value of their dossier from now on, or no more. */
    case HandedDown = 'handed_down';
    /** Documents that become due, or are no longer. */
    case FallsDue = 'falls_due';
    case NoLongerDue = 'no_longer_due';
    /** Documents that are kept for another time, or for another end. */
    case KeptOtherwise = 'kept_otherwise';
    /** Documents that stand in what is taken out. */
    case Orphaned = 'orphaned';

    /** Whether the change cannot be published while it has this effect. */
    public function stops(): bool
    {
        return $this === self::Lost || $this === self::Orphaned;
    }
}
