<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Annotations\AnnotatedPdf;
use App\Files\FileStore;
use App\Files\MadeFile;
use App\Files\Renditions;
use App\Index\RedactedTexts;
use App\Models\Annotation;
use App\Models\DeliveryForm;
use App\Models\Document;
use App\Models\Redaction;
use App\Models\User;
use App\Redaction\Redactions;
use App\Redaction\Redactor;
use App\Support\Column;
use App\Support\ExternalProgram;
use App\Support\Refused;
use Brenvic\Core\Capture\UnreadableFile;
use Brenvic\Core\Pages\Overlay;
use Brenvic\Core\Redaction\RedactedPage;
use Brenvic\Core\Redaction\Sought;

/** The one way by which a document's file leaves, in whatever form a person may have it. */
final readonly class Outgoing
{
    public function __construct(
        private FileStore $files,
        private Redactions $redactions,
        private Redactor $redactor,
        private Renditions $renditions,
    ) {
    }

    /** @return list<DeliveryForm> those a person may choose for a document */
    public function forms(User $user, Document $document): array
    {
        return $this->redactions->binds($user, $document) ? [DeliveryForm::Redacted] : DeliveryForm::cases();
    }

    /**
     * The file of the present version. Whoever may see the redacted copy only gets that, whatever is asked for.
     *
     * @param  bool  $waits  whether a copy that is not there yet is made on the spot, as in the background it may be
     *
     * @throws Refused when it may not leave in this form
     */
    public function file(User $user, Document $document, DeliveryForm $form, bool $waits = false): OutgoingFile
    {
        if ($document->destroyed_at !== null) {
            throw new Refused('The document was destroyed: there is no file to deliver.');
        }
        if (! in_array($form, $this->forms($user, $document), true)) {
            $form = DeliveryForm::Redacted;
        }
        $file =
            $form->isRedacted() && RedactedTexts::has($document->id)
                ? $this->redacted($document, $waits)
                : new OutgoingFile($this->files->whole($document->sha256), $document->file_name, $document->sha256);

        return $form->isAnnotated() ? $this->annotated($document, $form, $file) : $file;
    }

    /** A PDF with what people laid over it, but for what they keep to themselves. */
    private function annotated(Document $document, DeliveryForm $form, OutgoingFile $file): OutgoingFile
    {
        $annotations = Annotation::query()
            ->with('user')
            ->where('document_id', $document->id)
            ->where('is_private', false)
            ->where('is_lost', false)
            ->orderBy('id')
            ->get();
        if ($annotations->isEmpty()) {
            return $file;
        }
        if (! str_ends_with(strtolower($file->name), '.pdf')) {
            return new OutgoingFile(
                $file->path,
                $file->name,
                $file->sha256,
                'This kind of file cannot carry annotations; it is delivered without them.',
            );
        }
        $stamp = hash(
            'sha256',
            $file->sha256.$annotations->map(static fn (Annotation $a): string => "{$a->id} {$a->lock_version} {$a->version}")->join(','),
        );
        $made = $this->renditions->find($document, $form, $stamp);
        if ($made === null) {
            $removed = $form->isRedacted()
                ? Column::texts(
                    Redaction::query()->where('document_id', $document->id)->where('exact', '!=', '')->distinct()->pluck('exact'),
                )
                : [];
            $overlays = $annotations
                ->groupBy('page')
                ->map(static fn ($of): array => array_values($of->map(static fn (Annotation $a): Overlay => self::told($a, $removed))->all()))
                ->all();
            try {
                $made = ExternalProgram::inFolder(
                    fn (string $folder) => $this->renditions->keep(
                        $document,
                        $form,
                        $stamp,
                        new MadeFile(
                            AnnotatedPdf::write($file->path, $overlays, $folder),
                            pathinfo($file->name, PATHINFO_FILENAME).' (annotated).pdf',
                        ),
                    ),
                );
            } catch (UnreadableFile $fault) {
                $none = new MadeFile(null, '', "{$fault->getMessage()} It leaves without annotations.");
                $made = $this->renditions->keep($document, $form, $stamp, $none);
            }
        }

        return $made->sha256 === null
            ? new OutgoingFile($file->path, $file->name, $file->sha256, $made->fault)
            : new OutgoingFile($this->files->whole($made->sha256), $made->file_name, $made->sha256);
    }

    /**
     * An annotation as it leaves: on a redacted copy it does not say what was removed.
     *
     * @param  list<string>  $removed  words that must not be said
     */
    private static function told(Annotation $annotation, array $removed): Overlay
    {
        $overlay = $annotation->overlay();
        $text = $overlay->text;
        foreach ($removed as $exact) {
            foreach (array_reverse(Sought::words($exact)?->in($text) ?? []) as $hit) {
                $text = substr_replace($text, RedactedPage::BAR, $hit->offset, $hit->length);
            }
        }

        return new Overlay(
            $overlay->kind,
            $overlay->boxes,
            $overlay->strokes,
            $text,
            $overlay->author,
            $overlay->at,
            $overlay->name,
            $overlay->isFolded,
        );
    }

    /** What the file is called in a form, known before it is made. */
    public function name(User $user, Document $document, DeliveryForm $form): string
    {
        $isRedacted = RedactedTexts::has($document->id) && ($form->isRedacted() || $this->redactions->binds($user, $document));

        return $isRedacted ? Redactor::nameOf($document) : $document->file_name;
    }

    private function redacted(Document $document, bool $waits): OutgoingFile
    {
        $open = $this->redactions->openReason($document);
        if ($open !== null) {
            throw new Refused("The redacted copy of “{$document->title}” may not leave yet. {$open}");
        }
        $copy = $this->redactions->copy($document);
        if ($copy === null && $waits) {
            $this->redactor->make($document);
            $copy = $this->redactions->copy($document);
        }
        if ($copy === null) {
            throw new Refused('The redacted copy is being made. Try again in a moment.');
        }
        if ($copy->sha256 === null) {
            throw new Refused("There is no redacted copy of “{$document->title}”. {$copy->fault}");
        }

        return new OutgoingFile($this->files->whole($copy->sha256), $copy->file_name, $copy->sha256);
    }
}
