<?php

declare(strict_types=1);

namespace App\Templates;

use App\Access\Rights;
use App\Catalog\Catalog;
use App\Catalog\OwnValues;
use App\Files\FileStore;
use App\Intake\Arrivals;
use App\Intake\Filing;
use App\Models\Document;
use App\Models\Library;
use App\Models\User;
use App\Redaction\Redactions;
use App\Support\Column;
use App\Support\ExternalProgram;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Templates\Placeholders;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Gate;

/** New documents from templates: one sheet filled in once makes one document of each, with its own type. */
final readonly class Templates
{
    private const MOST = 200;

    public function __construct(
        private Catalog $catalog,
        private Rights $rights,
        private Redactions $redactions,
        private FileStore $files,
        private Arrivals $arrivals,
        private Filing $filing,
    ) {
    }

    /** @return list<Document> the templates that a person may make documents of, by title */
    public function of(User $user): array
    {
        $libraries = array_keys(array_filter($user->libraryRights()));
        $templates = Document::query()
            ->where('is_template', true)
            ->where('state', Document::FILED)
            ->whereIntegerInRaw('library_id', $libraries)
            ->orderBy('title')
            ->limit(self::MOST)
            ->get();
        $seen = array_flip($this->rights->seen($user, Column::numbers($templates->modelKeys())));

        return array_values(
            $templates->filter(fn (Document $d): bool => isset($seen[$d->id]) && ! $this->redactions->binds($user, $d))->all(),
        );
    }

    /**
     * Makes a waiting document of each template.
     *
     * @param  list<Document>  $templates
     * @param  array<string, list<string>>  $input  as typed, for all of them
     * @return list<Document>
     */
    public function make(User $by, array $templates, array $input): array
    {
        return ExternalProgram::inFolder(fn (string $folder): array => DB::transaction(function () use ($by, $templates, $input, $folder): array {
            $made = [];
            foreach ($templates as $i => $template) {
                Gate::authorize('file', $this->catalog->libraries()->get($template->library_id));
                $made[] = $this->one($by, $template, $input, "{$folder}/{$i}");
            }

            return $made;
        }));
    }

    /** @param  array<string, list<string>>  $input */
    private function one(User $by, Document $template, array $input, string $file): Document
    {
        $type = $this->catalog->types()->get((int) $template->document_type_id);
        $fields = array_column($this->catalog->sheet($type)->fields, null, 'code');
        $own = OwnValues::of([$template->id])[$template->id] ?? [];
        $values = $this->filing->checked($type, [...$own, ...array_intersect_key($input, $fields)], $own, $by);
        $shown = array_fill_keys(array_keys($this->catalog->fields()), '');
        foreach ($values as $code => $list) {
            $field = $fields[$code] ?? null;
            $shown[$code] = $field === null ? '' : implode(', ', array_map($field->display(...), $list));
        }
        $kind = FileKind::from($template->file_kind);
        TemplateFile::fill($this->files->whole($template->sha256), $kind, new Placeholders($shown), $file);
        $library = $this->catalog->libraries()->get($template->library_id);
        /** @var Library $library */
        $document = $this->arrivals->receive($file, $template->file_name, $library, $by);
        $this->filing->put($document, $type, $values);

        return $document;
    }
}
