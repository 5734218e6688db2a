<?php

declare(strict_types=1);

namespace App\History;

/** What is recorded in the history. */
enum Act: string
{
    case Filed = 'filed';
    case Unfiled = 'unfiled';
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
    case Copied = 'copied';
    case Moved = 'moved';
    case Lent = 'lent';
    case Returned = 'returned';
    case ChangedOutside = 'changed_outside';
    case LoanEnded = 'loan_ended';
    case CheckedOut = 'checked_out';
    case CheckOutGivenUp = 'check_out_given_up';
    case NewVersion = 'new_version';
    case KeptAsTemplate = 'kept_as_template';
    case NoTemplateAnyMore = 'no_template_any_more';
    case Annotated = 'annotated';
    case Redacted = 'redacted';
    case RedactionTakenBack = 'redaction_taken_back';
    case RedactionChecked = 'redaction_checked';
    case PutInDossier = 'put_in_dossier';
    case TakenOutOfDossier = 'taken_out_of_dossier';
    case Renamed = 'renamed';
    case ReadInPart = 'read_in_part';
    case SignedIn = 'signed_in';
    case SignInFailed = 'sign_in_failed';
    case PersonAdded = 'person_added';
    case PersonChanged = 'person_changed';
    case RoleAdded = 'role_added';
    case RoleChanged = 'role_changed';
    case RoleRemoved = 'role_removed';
    case GroupAdded = 'group_added';
    case GroupRemoved = 'group_removed';
    case GroupChanged = 'group_changed';
    case SignInRules = 'sign_in_rules';
    case FactorOn = 'factor_on';
    case FactorOff = 'factor_off';
    case RecoveryUsed = 'recovery_used';
    case SessionsEnded = 'sessions_ended';
    case TokenMade = 'token_made';
    case TokenRevoked = 'token_revoked';
    case PersonOut = 'person_out_of_use';
    case PersonBack = 'person_brought_back';
    case CodeMade = 'code_made';
    case PasswordSet = 'password_set';
    case ProcedureBegun = 'procedure_begun';
    case ProcedureEnded = 'procedure_ended';
    case ProcedureGivenUp = 'procedure_given_up';
    case Decided = 'decided';
    case Acted = 'acted';
    case CaseMoved = 'case_moved';
    case StubChanged = 'stub_changed';
    case RetentionDecided = 'retention_decided';
    case DisposalPrepared = 'disposal_prepared';
    case DisposalApproved = 'disposal_approved';
    case DisposalReturned = 'disposal_returned';
    case DisposalCancelled = 'disposal_cancelled';
    case HandedOver = 'handed_over';
    case Certified = 'certified';
    case FileRestored = 'file_restored';
    case HistorySearched = 'history_searched';
    case HistoryExported = 'history_exported';
    case ReadersRule = 'readers_rule';
    case HoldMade = 'hold_made';
    case HoldChanged = 'hold_changed';
    case HoldEnded = 'hold_ended';
    case HoldAcknowledged = 'hold_acknowledged';
    case DossierClosed = 'dossier_closed';
    case DossierReopened = 'dossier_reopened';
    case ServedTo = 'served_to';
    case WebhookMade = 'webhook_made';
    case WebhookRemoved = 'webhook_removed';

    public function words(): string
    {
        return match ($this) {
            self::Unfiled => 'back in intake',
            self::PutInDossier => 'put into a dossier',
            self::TakenOutOfDossier => 'removed from a dossier',
            self::RedactionTakenBack => 'redaction undone',
            self::RedactionChecked => 'redaction checked',
            self::Renamed => 'names cleared of what is removed',
            self::ReadInPart => 'not all of it read',
            self::SignedIn => 'signed in',
            self::SignInFailed => 'sign-in failed',
            self::PersonAdded => 'person added',
            self::PersonChanged => 'rights of a person changed',
            self::RoleAdded => 'role added',
            self::RoleChanged => 'rights of a role changed',
            self::RoleRemoved => 'role removed',
            self::GroupAdded => 'group added',
            self::GroupRemoved => 'group removed',
            self::GroupChanged => 'group changed',
            self::SignInRules => 'rules of signing in changed',
            self::FactorOn => 'second factor turned on',
            self::FactorOff => 'second factor turned off',
            self::RecoveryUsed => 'recovery code used',
            self::SessionsEnded => 'sessions ended',
            self::TokenMade => 'token made',
            self::TokenRevoked => 'token revoked',
            self::PersonOut => 'person put out of use',
            self::PersonBack => 'person brought back',
            self::CodeMade => 'one-time code made',
            self::PasswordSet => 'password set',
            self::ProcedureBegun => 'procedure begun',
            self::ProcedureEnded => 'procedure ended',
            self::ProcedureGivenUp => 'procedure cancelled',
            self::Acted => 'acted by a procedure',
            self::CaseMoved => 'moved to another step',
            self::StubChanged => 'what is left of destroyed documents changed',
            self::RetentionDecided => 'retention decided',
            self::DisposalPrepared => 'disposal prepared',
            self::DisposalApproved => 'disposal approved',
            self::DisposalReturned => 'disposal returned for review',
            self::DisposalCancelled => 'disposal cancelled',
            self::HandedOver => 'handed over to an archive',
            self::HistorySearched => 'history searched',
            self::HistoryExported => 'history exported',
            self::ReadersRule => 'what is kept of readers changed',
            self::FileRestored => 'stored file restored from the backup',
            self::HoldMade => 'hold begun',
            self::HoldChanged => 'hold changed',
            self::HoldEnded => 'hold ended',
            self::HoldAcknowledged => 'hold acknowledged',
            self::DossierClosed => 'dossier closed',
            self::ServedTo => 'whom programs ask as without a token changed',
            self::DossierReopened => 'dossier reopened',
            self::LoanEnded => 'loan ended',
            self::ChangedOutside => 'lent copy changed',
            self::CheckedOut => 'checked out',
            self::CheckOutGivenUp => 'check-out cancelled',
            self::NewVersion => 'given a new version',
            self::KeptAsTemplate => 'kept as a template',
            self::NoTemplateAnyMore => 'no longer a template',
            self::Revealed => 'revealed',
            self::Held => 'put on hold',
            self::Released => 'released from a hold',
            default => $this->value,
        };
    }
}
