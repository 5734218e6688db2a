<?php

declare(strict_types=1);

namespace App\Catalog;

use App\Models\DocumentType;
use App\Models\Library;
use App\Models\Right;
use App\Models\User;
use App\Support\Refused;
use Brenvic\Core\Design\Design;
use Brenvic\Core\Design\IndexSheet;
use Brenvic\Core\Design\RetentionOfDesign;
use Brenvic\Core\Design\SystemFields;
use Brenvic\Core\Design\TitlePattern;
use Brenvic\Core\Design\TypePart;
use Brenvic\Core\Design\ViewPart;
use Brenvic\Core\Fields\Calendar;
use Brenvic\Core\Fields\Cover;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Query\Parser;
use Brenvic\Core\Retention\Rules;
use Brenvic\Core\Search\Asking\SearchSchema;
use Brenvic\Core\Search\Filing\KeepingEntries;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;

/** The published design as the core speaks of it, and the numbers documents know its parts by; read once a request. */
final class Catalog
{
    private ?Design $design = null;

    /** @var array<string, FieldDefinition>|null */
    private ?array $fields = null;

    /** @var array<int, string>|null code by the field's id */
    private ?array $codes = null;

    /** @var array<string, FieldDefinition>|null */
    private ?array $systemFields = null;

    private ?Rules $retention = null;

    /** @var array<string, IndexSheet> by the type's code, '' for none */
    private array $sheets = [];

    /** @var Collection<int, DocumentType>|null by id */
    private ?Collection $types = null;

    /** @var Collection<int, Library>|null by id */
    private ?Collection $libraries = null;

    /** @var array<int, Known|null> by user */
    private array $known = [];

    /** Whether another design than the published one answers. */
    private bool $isTried = false;

    public function __construct(private readonly DesignTables $tables)
    {
    }

    public function design(): Design
    {
        return $this->design ??= $this->tables->read();
    }

    /** Changes whenever the published design does. */
    public function stamp(): string
    {
        return $this->tables->stamp();
    }

    /** @return array<string, FieldDefinition> the designed fields by code */
    public function fields(): array
    {
        return $this->fields ??= $this->design()->fields();
    }

    /** How long the design says that documents are kept. */
    public function retention(?Design $design = null): Rules
    {
        $start = (int) config('brenvic.fiscal_year_start');

        return $design === null || $design === $this->design()
            ? ($this->retention ??= RetentionOfDesign::rules($this->design(), $start, $this->fields()))
            : RetentionOfDesign::rules($design, $start);
    }

    public function fieldOfId(int $id): ?FieldDefinition
    {
        $this->codes ??= array_flip($this->fieldIds());

        return isset($this->codes[$id]) ? $this->fields()[$this->codes[$id]] ?? null : null;
    }

    /** @return array<string, int> by code */
    public function fieldIds(): array
    {
        return DB::table('fields')->pluck('id', 'code')->all();
    }

    /** @return Collection<int, DocumentType> by id */
    public function types(): Collection
    {
        return $this->types ??= DocumentType::query()->orderBy('name')->get()->keyBy('id');
    }

    /** What the design says of a type. */
    public function type(?DocumentType $type): ?TypePart
    {
        return $type === null ? null : $this->design()->one(TypePart::class, $type->code);
    }

    public function titlePattern(?DocumentType $type): TitlePattern
    {
        return new TitlePattern($this->type($type)->titlePattern ?? '');
    }

    /** @return Collection<int, Library> by id, with their repositories */
    public function libraries(): Collection
    {
        return $this->libraries ??= Library::query()
            ->with('repository')
            ->join('repositories', 'repositories.id', '=', 'libraries.repository_id')
            ->orderBy('repositories.position')
            ->orderBy('libraries.position')
            ->orderBy('libraries.id')
            ->select('libraries.*')
            ->get()
            ->keyBy('id');
    }

    public function sheet(?DocumentType $type): IndexSheet
    {
        return $this->sheets[$type->code ?? ''] ??= IndexSheet::of($this->type($type), $this->fields());
    }

    /**
     * What a person may search. Sensitive fields are there only for those who work on documents, and libraries,
     * repositories, types and dossier kinds only as far as the person knows of them.
     */
    public function schema(User $user): SearchSchema
    {
        $known = $this->known($user);
        $form = $user->writtenForm();
        // How long something is kept is looked at last, and counted only for those who answer for it.
        $system = $this->systemFieldsFor($user);
        $kept = array_intersect_key($system, array_flip([...KeepingEntries::FIELDS, 'hold']));
        $counted = $user->looksOver() ? $kept : array_map(static fn (FieldDefinition $of): FieldDefinition => $of->uncounted(), $kept);
        $fields = array_values([...array_diff_key($system, $kept), ...$this->fieldsFor($user), ...$counted]);
        $fields = $form->isUsual() ? $fields : array_map(static fn (FieldDefinition $field): FieldDefinition => $field->written($form), $fields);
        $stamp = $this->isTried ? '' : "{$this->stamp()}/{$form->key()}/".(int) $user->looksOver().($known === null ? '' : '/'.md5(serialize($known)));

        return new SearchSchema($fields, calendar: $this->calendar(), stamp: $stamp);
    }

    /**
     * A document type by its code, as somebody gives it to a document.
     *
     * @param  int|null  $present  the type that the document has
     *
     * @throws Refused when there is none that the person may know of
     */
    public function typeFor(User $user, string $code, ?int $present = null): DocumentType
    {
        return $this->typeOrNone($user, $code, $present) ?? throw new Refused("There is no document type “{$code}”.");
    }

    /** The same, where it may be that there is none. */
    public function typeOrNone(User $user, ?string $code, ?int $present = null): ?DocumentType
    {
        $type = $this->types()->firstWhere('code', $code);
        $known = $this->known($user);
        $isHidden = $known !== null && $type?->id !== $present && ! in_array($code, $known->types, true);

        return $isHidden ? null : $type;
    }

    /** The document type that a person means by its code or its name, if there is one that they may know of. */
    public function typeNamed(User $user, string $named): ?DocumentType
    {
        $lower = mb_strtolower($named);
        $type = $this->types()->firstWhere('code', $named) ??
            $this->types()->first(static fn (DocumentType $type): bool => mb_strtolower($type->name) === $lower);

        return $type === null ? null : $this->typeOrNone($user, $type->code);
    }

    /** What a person may know of by name; null for who knows all. */
    public function known(User $user): ?Known
    {
        if (! array_key_exists($user->id, $this->known)) {
            $this->known[$user->id] = Known::to($user, $this->design(), $this->libraries());
        }

        return $this->known[$user->id];
    }

    /**
     * The shared views that a person may be offered: for their groups, and naming nothing that they do not know of.
     *
     * @return array<string, ViewPart> by code
     */
    public function viewsFor(User $user): array
    {
        $known = $this->known($user);
        $groups = $user->groupNames();

        return array_filter(
            $this->design()->parts(ViewPart::class),
            fn (ViewPart $view): bool => $known === null ||
                ($view->isFor($groups) && ! $known->isBetrayedBy(Parser::parse($view->criterion)->root, $this->systemFields())),
        );
    }

    /** @return array<string, FieldDefinition> the fields Brenvic fills itself, with the values that a person may know of */
    public function systemFieldsFor(User $user): array
    {
        $known = $this->known($user)?->byField() ?? [];
        $fields = $this->systemFields();
        foreach ($known as $code => $values) {
            $field = $fields[$code];
            $terms = array_filter(
                $field->vocabulary->terms ?? [],
                static fn (VocabularyTerm $term): bool => in_array($term->code, $values, true),
            );
            $fields[$code] = $field->choosing(new Vocabulary($code, $terms));
        }

        return $fields;
    }

    /** What rules are written with: all fields. */
    public function fullSchema(?Design $design = null): SearchSchema
    {
        return new SearchSchema(
            [
                ...array_values($this->systemFields()),
                ...array_values($design === null || $design === $this->design() ? $this->fields() : $design->fields()),
            ],
            calendar: $this->calendar(),
        );
    }

    public function calendar(): Calendar
    {
        return Calendar::today((int) config('brenvic.fiscal_year_start'));
    }

    /** Answers as if another design were published, for the one request that tries a draft. */
    public function tryOut(Design $design): void
    {
        $this->design = $design;
        $this->isTried = true;
        $this->fields = null;
        $this->known = [];
        $this->sheets = [];
        $this->retention = null;
    }

    /** @return array<string, FieldDefinition> those that a person may know of and whose values they may see, by code */
    public function fieldsFor(User $user): array
    {
        $known = $this->known($user);
        $fields = $user->may(Right::Sensitive) ? $this->fields() : Cover::open($this->fields());

        return array_filter($fields, static fn (FieldDefinition $field): bool => $known?->hidesField($field->code) !== true);
    }

    /** @return array<string, FieldDefinition> the same, with values written as the person has them: for what they look at */
    public function fieldsShownTo(User $user): array
    {
        $form = $user->writtenForm();

        return array_map(static fn (FieldDefinition $field): FieldDefinition => $field->written($form), $this->fieldsFor($user));
    }

    /** @return array<string, FieldDefinition> the same, with what people change of the fields that Brenvic fills itself */
    public function fieldsChangedFor(User $user): array
    {
        return [...array_intersect_key($this->systemFields(), ['text_language' => true]), ...$this->fieldsShownTo($user)];
    }

    /** @return array<string, FieldDefinition> the fields Brenvic fills itself, by code */
    public function systemFields(): array
    {
        return $this->systemFields ??= SystemFields::of($this->design(), $this->fields());
    }

    /** Any field by code, system fields too. */
    public function field(string $code): ?FieldDefinition
    {
        return $this->fields()[$code] ?? ($this->systemFields()[$code] ?? null);
    }
}
