<?php

declare(strict_types=1);

namespace App\Versions;

use App\Access\Change;
use App\Access\Changing;
use App\Annotations\Annotations;
use App\Capture\ReadText;
use App\Copies\TextPrints;
use App\Files\FileStore;
use App\Files\FileTitle;
use App\Files\NewFile;
use App\Files\PageStore;
use App\History\Act;
use App\History\History;
use App\Index\Indexer;
use App\Intake\Arrivals;
use App\Models\CheckOut;
use App\Models\Document;
use App\Models\MadeHow;
use App\Models\Page;
use App\Models\Right;
use App\Models\User;
use App\Models\Version;
use App\Redaction\Redactions;
use App\Support\Refused;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Versions\PageMap;
use Illuminate\Support\Facades\DB;

/**
 * Versions of documents: what is checked out and in, kept, compared and brought back. No version is ever changed; each
 * new one stands on top, and the earlier ones stay with their text.
 */
final readonly class Versions
{
    /** What a version is, apart from who made it and why. */
    public const FILE = [
        'sha256',
        'bytes',
        'file_name',
        'file_kind',
        'page_count',
        'drawn_pages',
        'text_state',
        'text_reason',
        'ocr_confidence',
    ];

    public function __construct(
        private Changing $changing,
        private FileStore $files,
        private Indexer $indexer,
        private Redactions $redactions,
        private Annotations $annotations,
    ) {
    }

    /** @return list<Version> the newest first */
    public function of(Document $document): array
    {
        $versions = Version::query()->with('maker')->where('document_id', $document->id)->orderByDesc('number')->get();

        return array_values($versions->isEmpty() ? [$this->first($document)] : $versions->all());
    }

    public function find(Document $document, int $number): Version
    {
        foreach ($this->of($document) as $version) {
            if ($version->number === $number) {
                // What was read of the present version stands with the document.
                return $number === $document->version ? $version->fill($document->only(self::FILE)) : $version;
            }
        }
        abort(404);
    }

    public function page(Document $document, int $version, int $number): TextPage
    {
        $row =
            $version === $document->version
                ? Page::query()->where('document_id', $document->id)->where('number', $number)->firstOrFail()
                : Page::query()
                    ->from('version_pages')
                    ->where('document_id', $document->id)
                    ->where('version', $version)
                    ->where('number', $number)
                    ->firstOrFail();

        return PageStore::page($row);
    }

    /** The whole text of a version, its pages apart by a line. */
    public function text(Document $document, int $version): string
    {
        $pages =
            $version === $document->version
                ? DB::table('pages')->where('document_id', $document->id)
                : DB::table('version_pages')->where('document_id', $document->id)->where('version', $version);

        return $pages->orderBy('number')->pluck('text')->implode("\n\n");
    }

    /** @throws Refused */
    public function checkOut(Document $document, User $by, string $note): CheckOut
    {
        return DB::transaction(function () use ($document, $by, $note): CheckOut {
            $this->guard($document->refresh(), $by);
            $out = CheckOut::query()->firstOrCreate(
                ['document_id' => $document->id],
                ['user_id' => $by->id, 'version' => $document->version, 'note' => $note, 'since' => now()],
            );
            if ($out->wasRecentlyCreated) {
                History::record(Act::CheckedOut, $by, $document, ['note' => $note]);
            }

            return $out;
        });
    }

    /** Puts a copy by that is not a version yet: nobody else sees it. */
    public function putBy(Document $document, User $by, string $file, string $name): void
    {
        [$sha256, $bytes] = $this->files->take($file);
        $before = DB::transaction(function () use ($document, $by, $sha256, $bytes, $name): ?string {
            $out = $this->own($document, $by);
            $before = $out->sha256;
            $out->update(['sha256' => $sha256, 'bytes' => $bytes, 'file_name' => Arrivals::safeName($name), 'kept_at' => now()]);

            return $before;
        });
        if ($before !== null && $before !== $sha256) {
            $this->files->remove($before);
        }
    }

    /** Gives a check-out up, with the copy put by; one's own, or for those who answer for it anybody's. */
    public function giveUp(Document $document, User $by): void
    {
        $copy = DB::transaction(function () use ($document, $by): ?string {
            $out = CheckOut::query()->with('user')->find($document->id) ?? throw new Refused('The document is not checked out.');
            if ($out->user_id !== $by->id && ! $by->may(Right::Remove)) {
                throw new Refused("{$out->user->name} has checked it out. The records librarian or manager can give that up.");
            }
            $out->delete();
            History::record(Act::CheckOutGivenUp, $by, $document, $out->user_id === $by->id ? [] : ['of' => $out->user->name]);

            return $out->sha256;
        });
        if ($copy !== null) {
            $this->files->remove($copy);
        }
    }

    /**
     * Makes a version of a file, or of the copy put by, and ends the check-out.
     *
     * @throws Refused
     */
    public function checkIn(Document $document, User $by, ?string $file, string $name, string $note): void
    {
        $taken = $file === null ? null : $this->files->take($file);
        DB::transaction(function () use ($document, $by, $taken, $name, $note): void {
            $document->refresh();
            $out = $this->own($document, $by);
            if ($taken === null && $out->sha256 === null) {
                throw new Refused('Choose the file to check in.');
            }
            if ($out->version !== $document->version) {
                throw new Refused(
                    "Version {$document->version} was made in the meantime; you checked out version {$out->version}. ".
                        'Compare them, cancel your check-out and check out again.',
                );
            }
            [$sha256, $bytes] = $taken ?? [(string) $out->sha256, (int) $out->bytes];
            $called = $taken === null ? (string) $out->file_name : Arrivals::safeName($name);
            $this->add($document, $by, new NewFile($sha256, $bytes, $called), new NewVersion(MadeHow::CheckedIn, $note));
            $out->delete();
        });
    }

    /**
     * Puts a version on top of the others.
     *
     * @throws Refused when the document may not get one now
     */
    public function add(Document $document, User $by, NewFile $file, NewVersion $made): void
    {
        DB::transaction(function () use ($document, $by, $file, $made): void {
            $this->guard($document->refresh(), $by);
            if ($file->sha256 === $document->sha256) {
                throw new Refused('This is the same file as the current version, byte for byte. No version was made of it.');
            }
            $this->setAside($document);
            $document->fill([
                'sha256' => $file->sha256,
                'bytes' => $file->bytes,
                'file_name' => $file->name,
                'file_kind' => FileKind::detect($this->files->head($file->sha256), $file->name)->value,
                'page_count' => 0,
                'drawn_pages' => null,
                'text_state' => Document::TEXT_PENDING,
                'text_reason' => '',
            ]);
            $this->seal($document, $by, $made);
            ReadText::soon($document);
        });
    }

    /** Makes a version current again: the same file, as a new version. */
    public function makeCurrent(Document $document, User $by, int $number, string $note): void
    {
        DB::transaction(function () use ($document, $by, $number, $note): void {
            $this->guard($document->refresh(), $by);
            if ($number === $document->version) {
                throw new Refused('This is the current version.');
            }
            $old = $this->find($document, $number);
            $this->setAside($document);
            DB::insert(
                'INSERT INTO pages (document_id, number, width, height, text, boxes) SELECT document_id, number, width, height, text, boxes FROM version_pages WHERE document_id = ? AND version = ?',
                [$document->id, $number],
            );
            $document->fill($old->only(self::FILE));
            $pages = self::back($document, $number, (int) $old->page_count);
            $said = $note === '' ? "Version {$number} again" : $note;
            TextPrints::note($document->id);
            $this->seal($document, $by, new NewVersion(MadeHow::MadeCurrent, $said, pages: $pages));
            if ($document->text_state !== Document::TEXT_PENDING) {
                $this->redactions->carry($document);
                $this->annotations->carry($document);
            } else {
                ReadText::dispatch($document->id)->afterCommit();
            }
        });
    }

    /** How the pages of an earlier version come from those of the present one, when Brenvic itself made all in between. */
    private static function back(Document $document, int $number, int $pages): ?PageMap
    {
        $there = null;
        foreach (
            Version::query()
                ->where('document_id', $document->id)
                ->whereBetween('number', [$number + 1, $document->version])
                ->orderBy('number')
                ->get() as $version
        ) {
            if ($version->pages_from === null) {
                return null;
            }
            $there = $there?->then(new PageMap($version->pages_from)) ?? new PageMap($version->pages_from);
        }

        return $there?->back($pages);
    }

    /** A template is taken as a pattern for new documents and gets no version of its own. */
    public function keepAsTemplate(Document $document, User $by, bool $isTemplate): void
    {
        DB::transaction(function () use ($document, $by, $isTemplate): void {
            if ($isTemplate && CheckOut::query()->whereKey($document->id)->exists()) {
                throw new Refused('The document is checked out. Check it in first.');
            }
            $document->update(['is_template' => $isTemplate]);
            History::record($isTemplate ? Act::KeptAsTemplate : Act::NoTemplateAnyMore, $by, $document);
        });
    }

    /** @throws Refused */
    private function guard(Document $document, User $by): void
    {
        if ($document->state !== Document::FILED) {
            throw new Refused('A document has versions once it is filed.');
        }
        $this->changing->guard($by, $document, Change::File);
    }

    private function own(Document $document, User $by): CheckOut
    {
        $this->guard($document, $by);

        return CheckOut::query()->find($document->id) ??
            throw new Refused('Check the document out first, so that nobody else works on it in the meantime.');
    }

    /** The one version of a document that has no other. */
    private function first(Document $document): Version
    {
        $version = new Version([
            'document_id' => $document->id,
            'number' => 1,
            'how' => MadeHow::Filed,
            'note' => '',
            'made_by' => $document->created_by,
            'made_at' => $document->filed_at ?? $document->created_at,
            ...$document->only(self::FILE),
        ]);

        return $version->setRelation('maker', $document->creator()->first());
    }

    /** Keeps the present version as one of the earlier ones. */
    private function setAside(Document $document): void
    {
        $row =
            Version::query()->where('document_id', $document->id)->where('number', $document->version)->first() ?? $this->first($document);
        $row->fill($document->only(self::FILE))->save();
        DB::insert(
            'INSERT INTO version_pages (document_id, version, number, width, height, text, boxes) SELECT document_id, ?, number, width, height, text, boxes FROM pages WHERE document_id = ?',
            [$document->version, $document->id],
        );
        DB::table('pages')->where('document_id', $document->id)->delete();
    }

    private function seal(Document $document, User $by, NewVersion $made): void
    {
        // Where the file’s name was the title, the new one’s is.
        $isTitledByName = $document->title === FileTitle::of((string) $document->getOriginal('file_name'));
        $document
            ->fill([
                'version' => $document->version + 1,
                'lock_version' => $document->lock_version + 1,
                ...$isTitledByName ? ['title' => FileTitle::of($document->file_name)] : [],
            ])
            ->save();
        Version::query()->create([
            'document_id' => $document->id,
            'number' => $document->version,
            'how' => $made->how,
            'note' => $made->note,
            'made_by' => $by->id,
            'made_at' => now(),
            'pages_from' => $made->pages?->from,
            ...$document->only(self::FILE),
        ]);
        $this->indexer->update([$document->id]);
        History::record(Act::NewVersion, $by, $document, [
            'version' => $document->version,
            'how' => $made->how->value,
            'note' => $made->note,
            'sha256' => $document->sha256,
            ...$made->through,
        ]);
    }
}
