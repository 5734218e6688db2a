<?php

declare(strict_types=1);

namespace Demo;

use App\Catalog\Catalog;
use App\Dossiers\DossierFiling;
use App\Models\Document;
use App\Models\Dossier;
use App\Models\Library;
use App\Models\User;
use Illuminate\Support\Facades\DB;

/** The dossiers of the Trust: a file for each structure, for some contracts and some stoppages, with their documents. */
final readonly class Dossiers
{
    private const CONTRACTS = 12;

    private const STOPPAGES = 8;

    public function __construct(private DossierFiling $filing, private Catalog $catalog)
    {
    }

    /** @return int how many there are */
    public function make(): int
    {
        if (Dossier::query()->exists()) {
            return Dossier::query()->count();
        }
        $clerk = User::query()->where('sign_in', 'clerk')->first();
        [$waterways, $works] = array_map(static fn (string $code): Library => Library::query()->where('code', $code)->firstOrFail(), [
            'waterways',
            'works',
        ]);
        $inspections = $this->byValue('structure', ['lock_inspection']);
        $built = $this->byValue('structure', ['completion_certificate', 'site_diary']);
        foreach ($inspections as $structure => $documents) {
            $dossier = $this->filing->make(
                'asset_file',
                $waterways,
                ['structure' => [$structure], 'asset_class' => [str_starts_with($structure, 'LK') ? 'A1.1.1' : 'A2.1.1']],
                $clerk,
            );
            $this->put($dossier, $documents, 'Inspections');
            $this->put($dossier, $built[$structure] ?? [], 'Works');
        }
        foreach (array_slice($this->byValue('works_period', ['contract']), 0, self::CONTRACTS, true) as $period => $documents) {
            $contractor = (string) DB::table('document_values')
                ->where('document_id', $documents[0]->id)
                ->where('field_id', $this->catalog->fieldIds()['contractor'])
                ->value('value');
            $dossier = $this->filing->make(
                'works_contract',
                $works,
                ['contractor' => [$contractor], 'works_period' => [(string) $period]],
                $clerk,
            );
            $this->put($dossier, $documents, 'Contract');
            $this->put($dossier, array_slice($this->byValue('contractor', ['site_diary'])[$contractor] ?? [], 0, 4), 'Site records');
        }
        foreach (array_slice($this->byValue('structure', ['stoppage_notice']), 0, self::STOPPAGES, true) as $structure => $documents) {
            $dossier = $this->filing->make(
                'stoppage',
                $waterways,
                ['structure' => [$structure], 'works_period' => ['2024-01-08/2024-03-15'], 'severity' => ['moderate']],
                $clerk,
            );
            $this->put($dossier, array_slice($documents, 0, 3), 'Notices');
        }

        return Dossier::query()->count();
    }

    /** @param  list<Document>  $documents */
    private function put(Dossier $dossier, array $documents, string $section): void
    {
        if ($documents !== []) {
            $this->filing->put($dossier, $documents, $dossier->sections()->where('name', $section)->first());
        }
    }

    /**
     * @param  list<string>  $types  codes
     * @return array<string, list<Document>> by a value of theirs
     */
    private function byValue(string $field, array $types): array
    {
        $byValue = [];
        $documents = Document::query()
            ->join('document_values', 'document_values.document_id', '=', 'documents.id')
            ->where('field_id', $this->catalog->fieldIds()[$field])
            ->where('state', Document::FILED)
            ->whereIn('document_type_id', $this->catalog->types()->whereIn('code', $types)->pluck('id'))
            ->orderBy('documents.id')
            ->get(['documents.*', 'document_values.value']);
        foreach ($documents as $document) {
            $byValue[(string) $document->getAttribute('value')][] = $document;
        }
        ksort($byValue);

        return $byValue;
    }
}
