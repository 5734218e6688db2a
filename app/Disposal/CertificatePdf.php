<?php

declare(strict_types=1);

namespace App\Disposal;

use App\Models\Disposal;
use Illuminate\Support\Facades\DB;
use TCPDF;

/** The certificate of a disposal for people: what its JSON says, with where it stands in the history. */
final class CertificatePdf
{
    private const MARGIN = 56;

    /** @param  string  $json  as it was signed */
    public static function of(Disposal $disposal, string $json): string
    {
        /** @var array<string, mixed> $says */
        $says = json_decode($json, true, 64, JSON_THROW_ON_ERROR);
        $pdf = new TCPDF('P', 'pt', 'A4', true, 'UTF-8');
        $pdf->setPrintHeader(false);
        $pdf->setPrintFooter(false);
        $pdf->setCreator('Brenvic');
        $pdf->setTitle("Certificate of disposal {$disposal->id}");
        $pdf->setMargins(self::MARGIN, self::MARGIN, self::MARGIN);
        $pdf->setAutoPageBreak(true, self::MARGIN);
        $pdf->setFont('dejavusans', '', 8.5);
        $pdf->AddPage();
        $entry = DB::table('history')->where('id', $disposal->certificate_entry)->first(['id', 'at', 'hash']);
        $pdf->writeHTML(
            view('certificate', [
                'says' => $says,
                'action' => $disposal->action->label(),
                'sum' => hash('sha256', $json),
                'entry' => (int) ($entry->id ?? 0),
                'hash' => (string) ($entry->hash ?? ''),
                'at' => (string) ($entry->at ?? ''),
            ])->render(),
        );

        return $pdf->Output('', 'S');
    }
}
