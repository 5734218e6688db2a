<?php

declare(strict_types=1);

namespace App\Intake;

use App\Capture\ReadText;
use App\Files\FileStore;
use App\Files\FileTitle;
use App\Files\NewFile;
use App\Models\Document;
use App\Models\Library;
use App\Models\User;
use Brenvic\Core\Capture\FileKind;
use Illuminate\Support\Facades\DB;

/** How documents come into being: from a file, waiting to be filed. */
final readonly class Arrivals
{
    public function __construct(private FileStore $files)
    {
    }

    /**
     * Takes in a file; its text is read in the background.
     *
     * @param  string  $path  where it comes from, if that is worth keeping
     */
    public function receive(string $file, string $name, Library $library, User $by, string $path = ''): Document
    {
        [$sha256, $bytes] = $this->files->take($file);
        $name = self::safeName($name);

        return DB::transaction(function () use ($sha256, $bytes, $name, $library, $by, $path): Document {
            $document = $this->create($library->id, new NewFile($sha256, $bytes, $name), $this->files->head($sha256), [
                'created_by' => $by->id,
                'path' => $path,
            ]);
            ReadText::soon($document);

            return $document;
        });
    }

    /** A new document with the file, type and values of a template, waiting to be filed. */
    public function likeTemplate(Document $template, User $by): Document
    {
        return DB::transaction(function () use ($template, $by): Document {
            $made = $this->create(
                $template->library_id,
                new NewFile($template->sha256, $template->bytes, $template->file_name),
                $this->files->head($template->sha256),
                ['created_by' => $by->id, 'document_type_id' => $template->document_type_id],
            );
            Filing::copyValues($template->id, $made->id);
            ReadText::soon($made);

            return $made;
        });
    }

    /** Makes an attachment a document of its own, kept with its mail and filed with it. */
    public function attach(Document $mail, string $name, string $sha256, int $bytes, string $head): Document
    {
        $name = self::safeName($name);
        $existing = Document::query()->where('parent_id', $mail->id)->where('sha256', $sha256)->where('file_name', $name)->first();
        if ($existing !== null) {
            return $existing;
        }
        $document = $this->create($mail->library_id, new NewFile($sha256, $bytes, $name), $head, [
            'parent_id' => $mail->id,
            'state' => $mail->state,
            'filed_at' => $mail->filed_at,
            'created_by' => $mail->created_by,
            'source' => $mail->source,
            'intake_group' => $mail->intake_group,
            'path' => $mail->path,
        ]);
        if ($this->depth($mail) < config('brenvic.limits.mail_depth')) {
            ReadText::soon($document);
        } else {
            $document->update([
                'text_state' => Document::TEXT_NONE,
                'text_reason' => 'Attachments are nested too deep; this one was not read.',
            ]);
        }

        return $document;
    }

    /**
     * @param  string  $head  the first bytes of the file, by which its kind is told
     * @param  array<string, mixed>  $more
     */
    public function create(int $library, NewFile $file, string $head, array $more = []): Document
    {
        return Document::query()->create([
            'library_id' => $library,
            'title' => FileTitle::of($file->name),
            'file_name' => $file->name,
            'file_kind' => FileKind::detect($head, $file->name)->value,
            'sha256' => $file->sha256,
            'bytes' => $file->bytes,
            'state' => Document::WAITING,
            'text_state' => Document::TEXT_PENDING,
            ...$more,
        ]);
    }

    /** The last part of a path, without what no file system likes; never empty. */
    public static function safeName(string $name): string
    {
        $name = mb_scrub(str_replace('\\', '/', $name));
        $name = trim((string) preg_replace('/[\x00-\x1F\x7F\x{202A}-\x{202E}\x{2066}-\x{2069}]/u', '', basename($name)));
        $name = mb_strcut($name, 0, 200);

        return $name === '' || $name === '.' || $name === '..' ? 'unnamed' : $name;
    }

    private function depth(Document $document): int
    {
        $depth = 1;
        for ($id = $document->parent_id; $id !== null; $depth++) {
            $id = Document::query()->whereKey($id)->value('parent_id');
        }

        return $depth;
    }
}
