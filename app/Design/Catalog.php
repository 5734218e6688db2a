<?php

declare(strict_types=1);

namespace App\Design;

use App\Models\DocumentType;
use App\Models\Field;
use App\Models\Library;
use App\Models\Repository;
use App\Models\Term;
use App\Models\User;
use App\Models\VocabularyModel;
use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Design\IndexSheet;
use Brenvic\Core\Fields\Calendar;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\FieldKind;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Search\Asker;
use Brenvic\Core\Search\SearchSchema;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/** The design as the core speaks of it, read once a request. */
final class Catalog
{
    /** @var array<string, FieldDefinition>|null */
    private ?array $fields = null;

    /** @var array<int, FieldDefinition> by the field's id */
    private array $byId = [];

    /** @var array<int, IndexSheet> by the type's id, 0 for none */
    private array $sheets = [];

    /** @var Collection<int, DocumentType>|null by id */
    private ?Collection $types = null;

    /** @var Collection<int, Library>|null by id */
    private ?Collection $libraries = null;

    /** @return array<string, FieldDefinition> the designed fields by code */
    public function fields(): array
    {
        if ($this->fields === null) {
            $vocabularies = self::vocabularies();
            $this->fields = [];
            foreach (Field::query()->orderBy('position')->orderBy('id')->get() as $field) {
                $this->fields[$field->code] = $this->byId[$field->id] = self::definition($field, $vocabularies[$field->vocabulary_id] ?? null);
            }
        }

        return $this->fields;
    }

    public static function definition(Field $field, ?Vocabulary $vocabulary): FieldDefinition
    {
        return new FieldDefinition(
            code: $field->code,
            label: $field->label,
            kind: FieldKind::from($field->kind),
            multiple: $field->multiple,
            faceted: $field->faceted,
            sensitive: $field->sensitive,
            vocabulary: $vocabulary,
            unit: $field->unit,
            pattern: $field->pattern,
            minimum: $field->minimum,
            maximum: $field->maximum,
            help: $field->help,
            dublinCore: $field->dublin_core,
        );
    }

    /** @return array<int, Vocabulary> by id; read without models, as every search needs them */
    private static function vocabularies(): array
    {
        $terms = [];
        foreach (DB::table('terms')->orderBy('position')->orderBy('id')->get(['vocabulary_id', 'code', 'label', 'parent', 'synonyms']) as $term) {
            $terms[(int) $term->vocabulary_id][] = new VocabularyTerm((string) $term->code, (string) $term->label, $term->parent, $term->synonyms === '[]' ? [] : json_decode((string) $term->synonyms, true));
        }
        $vocabularies = [];
        foreach (DB::table('vocabularies')->pluck('code', 'id') as $id => $code) {
            $vocabularies[(int) $id] = new Vocabulary((string) $code, $terms[(int) $id] ?? []);
        }

        return $vocabularies;
    }

    public static function vocabulary(VocabularyModel $vocabulary): Vocabulary
    {
        return new Vocabulary($vocabulary->code, $vocabulary->terms->map(
            static fn (Term $term): VocabularyTerm => new VocabularyTerm($term->code, $term->label, $term->parent),
        ));
    }

    public function fieldOfId(int $id): ?FieldDefinition
    {
        $this->fields();

        return $this->byId[$id] ?? null;
    }

    /** @return Collection<int, DocumentType> by id, without their fields */
    public function types(): Collection
    {
        return $this->types ??= DocumentType::query()->orderBy('name')->get()->keyBy('id');
    }

    /** @return Collection<int, Library> by id, with their repositories */
    public function libraries(): Collection
    {
        return $this->libraries ??= Library::query()->with('repository')
            ->join('repositories', 'repositories.id', '=', 'libraries.repository_id')
            ->orderBy('repositories.position')->orderBy('libraries.position')->orderBy('libraries.id')
            ->select('libraries.*')->get()->keyBy('id');
    }

    public function sheet(?DocumentType $type): IndexSheet
    {
        return $this->sheets[$type->id ?? 0] ??= $this->makeSheet($type);
    }

    private function makeSheet(?DocumentType $type): IndexSheet
    {
        $fields = $this->fields();
        $required = [];
        $chosen = [];
        foreach ($type?->fields()->get() ?? [] as $field) {
            $chosen[] = $fields[$field->code];
            if ((bool) $field->getRelationValue('pivot')->required) {
                $required[] = $field->code;
            }
        }

        return new IndexSheet($chosen, $required);
    }

    /** What a person may search. Sensitive fields are there only for those who work on documents. */
    public function schema(User $user): SearchSchema
    {
        return new SearchSchema([...array_values($this->systemFields()), ...array_values($this->fieldsFor($user))], calendar: $this->calendar());
    }

    public function calendar(): Calendar
    {
        return Calendar::today((int) config('brenvic.fiscal_year_start'));
    }

    /**
     * Answers as if other fields were published, for the one request that tries a draft.
     *
     * @param  array<string, FieldDefinition>  $fields
     */
    public function tryOut(array $fields): void
    {
        $this->fields();
        $this->byId = array_filter(array_map(static fn (FieldDefinition $field): ?FieldDefinition => $fields[$field->code] ?? null, $this->byId));
        $this->fields = $fields;
    }

    /** @return array<string, FieldDefinition> by code */
    public function fieldsFor(User $user): array
    {
        return array_filter($this->fields(), static fn (FieldDefinition $field): bool => ! $field->sensitive || $user->role->maySeeSensitive());
    }

    /** @return array<string, FieldDefinition> the fields Brenvic fills itself, by code */
    public function systemFields(): array
    {
        $vocabulary = static fn (string $code, iterable $terms): Vocabulary => new Vocabulary($code, $terms);
        $libraries = $this->libraries()->map(static fn (Library $l): VocabularyTerm => new VocabularyTerm($l->code, $l->name));
        $repositories = Repository::query()->orderBy('position')->get()->map(static fn (Repository $r): VocabularyTerm => new VocabularyTerm($r->code, $r->name));
        $types = $this->types()->map(static fn (DocumentType $t): VocabularyTerm => new VocabularyTerm($t->code, $t->name));
        $kinds = array_map(static fn (FileKind $k): VocabularyTerm => new VocabularyTerm($k->value, $k->label()), FileKind::cases());
        $states = [new VocabularyTerm('read', 'Read'), new VocabularyTerm('pending', 'Waiting to be read'), new VocabularyTerm('none', 'None')];
        $fields = [
            new FieldDefinition('repository', 'Repository', FieldKind::Choice, faceted: true, vocabulary: $vocabulary('repository', $repositories), system: true),
            new FieldDefinition('library', 'Library', FieldKind::Choice, faceted: true, vocabulary: $vocabulary('library', $libraries), system: true),
            new FieldDefinition('type', 'Document type', FieldKind::Choice, faceted: true, vocabulary: $vocabulary('type', $types), dublinCore: 'type', system: true),
            new FieldDefinition('file_type', 'File type', FieldKind::Choice, faceted: true, vocabulary: $vocabulary('file_type', $kinds), dublinCore: 'format', system: true),
            new FieldDefinition('text_state', 'Text', FieldKind::Choice, faceted: true, vocabulary: $vocabulary('text_state', $states), system: true),
            new FieldDefinition('creator', 'Brought in by', FieldKind::Person, system: true),
            new FieldDefinition('created', 'Filed on', FieldKind::Date, system: true),
            new FieldDefinition('pages', 'Pages', FieldKind::Number, system: true),
            new FieldDefinition('ref', 'Reference', FieldKind::Identifier, dublinCore: 'identifier', system: true),
            new FieldDefinition('dossier', 'Dossier', FieldKind::Text, dublinCore: 'relation', system: true),
            new FieldDefinition('file_name', 'File name', FieldKind::Text, dublinCore: 'source', system: true),
        ];
        $byCode = [];
        foreach ($fields as $field) {
            $byCode[$field->code] = $field;
        }

        return $byCode;
    }

    /** Any field by code, system fields too. */
    public function field(string $code): ?FieldDefinition
    {
        return $this->fields()[$code] ?? $this->systemFields()[$code] ?? null;
    }

    public function asker(User $user): Asker
    {
        return new Asker($this->libraries()->only(array_keys($user->libraryRights()))->pluck('code')->values()->all());
    }
}
