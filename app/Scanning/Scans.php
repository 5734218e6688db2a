<?php

declare(strict_types=1);

namespace App\Scanning;

use App\Catalog\Catalog;
use App\Files\FilePages;
use App\Files\FileStore;
use App\Files\PagePdf;
use App\Intake\Sources\ArrivingFile;
use App\Jobs\Urgency;
use App\Models\Document;
use App\Models\Scan;
use App\Models\User;
use App\Support\ExternalProgram;
use App\Support\Refused;
use Brenvic\Core\Design\SourcePart;
use Illuminate\Support\Facades\DB;

/** Scans stacks: page by page as they come, so that a jam costs nothing that was there before. */
final readonly class Scans
{
    /** Pages of one stack. */
    private const MOST = 1_000;

    public function __construct(private Catalog $catalog, private FileStore $files, private ArrivingFile $arriving)
    {
    }

    /** @return list<SourcePart> the scanners that a person may use */
    public function sources(User $user): array
    {
        return array_values(
            array_filter(
                $this->catalog->design()->parts(SourcePart::class),
                static fn (SourcePart $source): bool => $source->way === SourcePart::SCANNER && in_array($source->group, $user->groupNames(), true),
            ),
        );
    }

    public function source(User $user, string $code): SourcePart
    {
        foreach ($this->sources($user) as $source) {
            if ($source->code === $code) {
                return $source;
            }
        }
        abort(404);
    }

    /** @param  array{dots: int, colour: bool, duplex: bool, fed: bool}  $settings */
    public function begin(User $by, SourcePart $source, array $settings): Scan
    {
        if (Scan::query()->where('source', $source->code)->where('state', Scan::RUNNING)->exists()) {
            throw new Refused("The scanner “{$source->name}” is in use. Try again in a moment.");
        }
        $scan = Scan::query()->create(['user_id' => $by->id, 'source' => $source->code, 'settings' => $settings, 'state' => Scan::RUNNING]);
        $this->goOn($scan);

        return $scan;
    }

    /** Goes on with what stopped, or begins. */
    public function goOn(Scan $scan): void
    {
        $scan->update(['state' => Scan::RUNNING, 'says' => '']);
        ScanStack::dispatch($scan->id)->onQueue(Urgency::Awaited->value)->afterCommit();
    }

    /** @return int how many pages came */
    public static function count(Scan $scan): int
    {
        return DB::table('scan_pages')->where('scan_id', $scan->id)->count();
    }

    public function add(Scan $scan, string $file): void
    {
        if (! in_array(@exif_imagetype($file), [IMAGETYPE_JPEG, IMAGETYPE_PNG], true)) {
            throw new Refused('The scanner sent a page that is no picture.');
        }
        [$sha256] = $this->files->take($file);
        DB::transaction(static function () use ($scan, $sha256): void {
            $number = self::count($scan) + 1;
            if ($number > self::MOST) {
                throw new Refused('A stack has '.self::MOST.' pages at most. Keep what came, and scan the rest as another.');
            }
            DB::table('scan_pages')->insert(['scan_id' => $scan->id, 'number' => $number, 'sha256' => $sha256]);
        });
    }

    /** The path of a page that came. */
    public function page(Scan $scan, int $number): string
    {
        $sha256 = DB::table('scan_pages')->where('scan_id', $scan->id)->where('number', $number)->value('sha256') ?? abort(404);

        return $this->files->whole((string) $sha256);
    }

    /** Makes a waiting document of all that came. */
    public function keep(Scan $scan): void
    {
        if ($scan->refresh()->state === Scan::DONE) {
            return;
        }
        $source = $this->catalog->design()->one(SourcePart::class, $scan->source) ?? throw new Refused('Its source is no longer there.');
        $pages = DB::table('scan_pages')->where('scan_id', $scan->id)->orderBy('number')->pluck('sha256');
        if ($pages->isEmpty()) {
            $scan->update(['state' => Scan::DONE]);

            return;
        }
        ExternalProgram::inFolder(function (string $folder) use ($scan, $source, $pages): void {
            $pdf = new PagePdf();
            foreach ($pages as $i => $sha256) {
                FilePages::add($pdf, $this->files->path((string) $sha256), "{$folder}/{$i}.jpg", $scan->settings['dots']);
            }
            file_put_contents("{$folder}/scan.pdf", $pdf->Output('', 'S'));
            unset($pdf);
            DB::transaction(function () use ($scan, $source, $pages, $folder): void {
                $name = 'Scan of '.now()->format('j M Y H.i').'.pdf';
                $document = $this->arriving->bring($source, "scan-{$scan->id}", "{$folder}/scan.pdf", $name, []);
                $document?->update(['wants_layer' => true, 'page_count' => count($pages)]);
                $scan->update(['state' => Scan::DONE, 'says' => '', 'document_id' => $document->id ?? $scan->document_id]);
            });
        });
        $this->forget($scan);
    }

    /** Throws away what came. */
    public function drop(Scan $scan): void
    {
        $this->forget($scan);
        $scan->delete();
    }

    private function forget(Scan $scan): void
    {
        $pages = DB::table('scan_pages')->where('scan_id', $scan->id)->pluck('sha256')->unique();
        DB::table('scan_pages')->where('scan_id', $scan->id)->delete();
        foreach ($pages as $sha256) {
            if (! DB::table('scan_pages')->where('sha256', $sha256)->exists()) {
                $this->files->remove((string) $sha256);
            }
        }
    }

    /** The reference of the document that became of it. */
    public static function document(Scan $scan): ?string
    {
        return $scan->document_id === null ? null : Document::query()->whereKey($scan->document_id)->value('ref');
    }
}
