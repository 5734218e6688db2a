<?php

declare(strict_types=1);

namespace App\Dossiers;

use App\Intake\Completed;
use App\Intake\Filing;
use App\Intake\InvalidSheet;
use App\Models\Document;
use App\Models\Dossier;
use App\Models\DossierSection;
use App\Models\User;
use App\Reading\ProposalRecord;
use App\Support\Refused;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Gate;

/** Files what waits and puts it where it belongs, as one act: it is filed into its dossier, or not at all. */
final readonly class FilingInto
{
    public function __construct(private Filing $filing, private DossierFiling $dossiers)
    {
    }

    /**
     * @param  list<Completed>  $completed
     * @param  string  $dossier  its reference as typed; empty for none
     * @return int the act, to be undone by
     *
     * @throws InvalidSheet|Refused
     */
    public function file(array $completed, string $dossier, ?int $section, User $by): int
    {
        return DB::transaction(function () use ($completed, $dossier, $section, $by): int {
            $act = $this->filing->fileAll($completed, $by);
            if (trim($dossier) !== '') {
                $documents = array_map(static fn (Completed $one): Document => $one->document, $completed);
                $this->put($this->dossier($dossier, $by), $documents, $section, $by);
                ProposalRecord::settle(array_map(static fn (Document $one): int => $one->id, $documents));
            }

            return $act;
        });
    }

    private function dossier(string $typed, User $by): Dossier
    {
        try {
            $dossier = $this->dossiers->find($by, $typed);
        } catch (Refused $fault) {
            throw new InvalidSheet(['dossier' => $fault->getMessage()]);
        }
        if (! Gate::allows('fill', $dossier->library()->firstOrFail())) {
            throw new InvalidSheet(['dossier' => 'You may not put documents into this dossier.']);
        }

        return $dossier;
    }

    /** @param  list<Document>  $documents */
    private function put(Dossier $dossier, array $documents, ?int $section, User $by): void
    {
        $in = $section === null ? null : DossierSection::query()->where('dossier_id', $dossier->id)->find($section);
        try {
            $this->dossiers->put($dossier, $documents, $in, $by);
        } catch (Refused $fault) {
            throw new InvalidSheet(['dossier' => $fault->getMessage()]);
        }
    }
}
