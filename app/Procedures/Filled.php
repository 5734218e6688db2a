<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Catalog\Catalog;
use App\Index\Indexer;
use Illuminate\Support\Facades\DB;

/** Texts of a procedure with what a case has in place of {code}: values of the document, and what was decided. */
final readonly class Filled
{
    public function __construct(private Catalog $catalog, private Indexer $indexer)
    {
    }

    /** @param  bool  $asTyped  whether values are written as they are typed into fields, and not as they are read */
    public function text(string $pattern, Doing $doing, bool $asTyped = false): string
    {
        $fields = $this->catalog->fields();
        $values = $this->indexer->valuesOf($doing->document->id);
        foreach ($asTyped ? [] : $values as $code => $normals) {
            $values[$code] = array_map($fields[$code]->display(...), $normals);
        }
        $own = [
            'title' => $doing->document->title,
            'reference' => $doing->document->ref,
            'procedure' => $doing->part->name,
            'decision' => $doing->decision,
            'comment' => $doing->comment,
            'decided_by' => $doing->decider->name ?? '',
            'decided_on' => $asTyped ? $doing->decidedOn : self::day($doing->decidedOn),
            'today' => $asTyped ? now()->toDateString() : now()->format('j M Y'),
            'dossier' => (string) DB::table('document_dossier')
                ->join('dossiers', 'dossiers.id', '=', 'dossier_id')
                ->where('document_id', $doing->document->id)
                ->orderByDesc('dossiers.id')
                ->value('ref'),
        ];

        return (string) preg_replace_callback(
            '/\{([a-z0-9_]+)\}/',
            static fn (array $m): string => isset($values[$m[1]]) ? implode(', ', $values[$m[1]]) : $own[$m[1]] ?? '',
            $pattern,
        );
    }

    private static function day(string $day): string
    {
        return $day === '' ? '' : (new \DateTimeImmutable($day))->format('j M Y');
    }
}
