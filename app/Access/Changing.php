<?php

declare(strict_types=1);

namespace App\Access;

use App\Models\CheckOut;
use App\Models\Document;
use App\Models\Right;
use App\Models\User;
use App\Support\Refused;
use Illuminate\Support\Facades\DB;

/**
 * Whether a person may change documents, and why not: their right in the library, the access rules, holds, check-outs,
 * procedures, and templates, in this order. Every act on filed documents asks here, for many at once.
 */
final readonly class Changing
{
    public function __construct(private Rights $rights)
    {
    }

    /**
     * @param  list<int>  $ids  filed documents that the person sees
     * @return array<int, Hindrance> by document; those that may be changed are not in it
     */
    public function hindrances(User $user, array $ids, Change $change): array
    {
        if ($ids === []) {
            return [];
        }
        $hindrances = $this->ofPerson($user, $ids, $change);
        $holds = Holds::of($ids);
        $destroyed = DB::table('documents')->whereIntegerInRaw('id', $ids)->whereNotNull('destroyed_at')->pluck('id')->flip();
        $outs = CheckOut::query()->with('user')->whereIntegerInRaw('document_id', $ids)->get()->keyBy('document_id');
        $templates =
            $change === Change::File
                ? DB::table('documents')->whereIntegerInRaw('id', $ids)->where('is_template', true)->pluck('id')->flip()
                : collect();
        $locks = $change === Change::File || $change === Change::Values ? self::locks($ids) : [];
        foreach ($ids as $id) {
            $out = $outs->get($id);
            $hindrance =
                $hindrances[$id] ??
                match (true) {
                    $destroyed->has($id) => new Hindrance(HindranceKind::Destroyed, 'The document was destroyed; what is left of it stays as it is.'),
                    isset($holds[$id]) => new Hindrance(HindranceKind::Hold, "On hold: {$holds[$id]}"),
                    // Whoever has it may give it values and another place, but nobody takes it away meanwhile.
                    $out !== null && ($out->user_id !== $user->id || $change === Change::Presence) => self::isOut($out),
                    isset($locks[$id]) => new Hindrance(HindranceKind::Procedure, $locks[$id]),
                    $templates->has($id) => new Hindrance(
                        HindranceKind::Template,
                        'This is a template and cannot be overwritten. Make a new document of it.',
                    ),
                    default => null,
                };
            if ($hindrance !== null) {
                $hindrances[$id] = $hindrance;
            }
        }

        return $hindrances;
    }

    public function hindrance(User $user, Document $document, Change $change): ?Hindrance
    {
        return $this->hindrances($user, [$document->id], $change)[$document->id] ?? null;
    }

    /** @throws Refused saying why the person may not change it now */
    public function guard(User $user, Document $document, Change $change): void
    {
        $hindrance = $this->hindrance($user, $document, $change);
        if ($hindrance !== null) {
            throw new Refused($hindrance->words);
        }
    }

    /**
     * What is not for a person to change, whatever it stands in at the moment.
     *
     * @param  list<int>  $ids  filed documents
     * @return array<int, Hindrance> by document
     */
    public function ofPerson(User $user, array $ids, Change $change): array
    {
        $mayAct = $change === Change::Presence ? $user->may(Right::Remove) : $user->may(Right::Change);
        $libraries = $user->libraryRights();
        // Rules say who changes what a document says; taking it away is for those who answer for it, who are managers too.
        $kept = $change === Change::Presence ? null : $this->rights->keptFrom($user, 'change');
        $hindrances = [];
        foreach (
            DB::table('documents')
                ->whereIntegerInRaw('id', $ids)
                ->get(['id', 'library_id']) as $row
        ) {
            $isEntered = isset($libraries[$row->library_id]);
            if (! $mayAct || ! $isEntered || ($change !== Change::Presence && ! $libraries[$row->library_id])) {
                $hindrances[(int) $row->id] = new Hindrance(HindranceKind::Right, 'You may not change what is in its library.');
            } elseif ($kept?->has((int) $row->id) === true) {
                $hindrances[(int) $row->id] = new Hindrance(HindranceKind::Rule, 'An access rule does not let you change it.');
            }
        }

        return $hindrances;
    }

    /**
     * @param  list<int>  $ids
     * @return array<int, string> by document, why a procedure keeps it from being changed
     */
    private static function locks(array $ids): array
    {
        $locks = [];
        foreach (
            DB::table('documents')
                ->join('cases', 'cases.id', '=', 'locked_by_case')
                ->leftJoin('procedure_versions', 'procedure_versions.id', '=', 'procedure_version_id')
                ->whereIntegerInRaw('documents.id', $ids)
                ->get(['documents.id', 'content']) as $row
        ) {
            $name = (string) (json_decode((string) $row->content, true)['name'] ?? '');
            $locks[(int) $row->id] = "Locked by the procedure “{$name}”.";
        }

        return $locks;
    }

    private static function isOut(CheckOut $out): Hindrance
    {
        $note = $out->note === '' ? '' : " “{$out->note}”";

        return new Hindrance(
            HindranceKind::CheckedOut,
            "{$out->user->name} has checked the document out since {$out->since->format('j M Y')}.{$note}",
        );
    }
}
