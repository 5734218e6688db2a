<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Capture\FileKind;
use Brenvic\Core\Capture\TextLanguage;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\Kinds\ChoiceKind;
use Brenvic\Core\Fields\Kinds\DateKind;
use Brenvic\Core\Fields\Kinds\IdentifierKind;
use Brenvic\Core\Fields\Kinds\NumberKind;
use Brenvic\Core\Fields\Kinds\PersonKind;
use Brenvic\Core\Fields\Kinds\TextKind;
use Brenvic\Core\Fields\Kinds\YesNoKind;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Fields\VocabularyTerm;
use Brenvic\Core\Procedures\Plan\AskStep;
use Brenvic\Core\Retention\KeepingState;
use Brenvic\Core\Retention\RetentionAction;
use Brenvic\Core\Retention\RetentionRule;
use Brenvic\Core\Search\Filing\Standing;

/** The fields that Brenvic fills in itself, with what a design makes them choose from. */
final readonly class SystemFields
{
    /** @param  array<string, FieldDefinition>|null  $fields */
    private function __construct(private Design $design, private ?array $fields)
    {
    }

    /**
     * @param  array<string, FieldDefinition>|null  $fields  of the design by code, where they are at hand
     * @return array<string, FieldDefinition> by code
     */
    public static function of(Design $design, ?array $fields = null): array
    {
        $made = new self($design, $fields);
        $procedures = $design->parts(ProcedurePart::class);

        return array_column(
            [
                self::choice('repository', 'Repository', $made->repositories()),
                self::choice('library', 'Library', $made->libraries()),
                self::choice('type', 'Document type', $made->types(), 'type'),
                self::choice(
                    'file_type',
                    'File type',
                    array_map(
                        static fn (FileKind $kind): VocabularyTerm => new VocabularyTerm($kind->value, $kind->label()),
                        FileKind::cases(),
                    ),
                    'format',
                ),
                self::choice('text_state', 'Text', [
                    new VocabularyTerm('read', 'Read'),
                    new VocabularyTerm('pending', 'Waiting'),
                    new VocabularyTerm('none', 'No text'),
                    new VocabularyTerm('destroyed', 'Destroyed'),
                ]),
                self::choice(
                    'text_language',
                    'Language of the text',
                    array_map(
                        static fn (string $code, string $name): VocabularyTerm => new VocabularyTerm($code, $name),
                        array_keys(TextLanguage::NAMES),
                        TextLanguage::NAMES,
                    ),
                ),
                new FieldDefinition('attached', 'Attachment', new YesNoKind, faceted: true, system: true),
                new FieldDefinition('titled_by_file', 'Title is the file name', new YesNoKind, system: true),
                new FieldDefinition('ocr_confidence', 'OCR confidence', new NumberKind, unit: '%', system: true),
                new FieldDefinition('creator', 'Brought in by', new PersonKind, system: true),
                new FieldDefinition('created', 'Filed on', new DateKind, system: true),
                new FieldDefinition('pages', 'Pages', new NumberKind, system: true),
                new FieldDefinition('ref', 'Reference', new IdentifierKind, dublinCore: 'identifier', system: true),
                new FieldDefinition('dossier', 'Dossier', new TextKind, dublinCore: 'relation', system: true),
                self::choice('dossier_kind', 'Dossier kind', self::terms($design->parts(DossierKindPart::class))),
                new FieldDefinition('file_name', 'File name', new TextKind, dublinCore: 'source', system: true),
                self::choice('procedure', 'Procedure', self::terms($procedures), null, true),
                self::choice('procedure_step', 'Step', self::steps($procedures), null, true),
                self::choice('procedure_decision', 'Decision', self::decisions($procedures), null, true),
                new FieldDefinition('waits_for', 'Waits for', new PersonKind, multiple: true, faceted: true, system: true),
                new FieldDefinition('step_since', 'At its step since', new DateKind, system: true),
                self::choice('retention', 'Retention', self::cases(KeepingState::cases())),
                new FieldDefinition('retention_due', 'Due date', new DateKind, faceted: true, system: true),
                self::choice('retention_action', 'Action when due', self::cases(RetentionAction::cases())),
                self::choice('retention_rule', 'Retention rule', $made->rules()),
                // Of which each person has their own, or may know of some.
                new FieldDefinition(
                    'hold',
                    'Hold',
                    new ChoiceKind,
                    multiple: true,
                    faceted: true,
                    vocabulary: new Vocabulary('hold', []),
                    system: true,
                ),
                new FieldDefinition(
                    'pull_list',
                    'Pull list',
                    new ChoiceKind,
                    multiple: true,
                    faceted: true,
                    vocabulary: new Vocabulary('pull_list', []),
                    system: true,
                ),
            ],
            null,
            'code',
        );
    }

    /**
     * @param  list<KeepingState|RetentionAction>  $cases
     * @return list<VocabularyTerm>
     */
    private static function cases(array $cases): array
    {
        return array_map(
            static fn (KeepingState|RetentionAction $case): VocabularyTerm => new VocabularyTerm($case->value, $case->label()),
            $cases,
        );
    }

    /** @return list<VocabularyTerm> */
    private function rules(): array
    {
        return array_map(
            static fn (RetentionRule $rule): VocabularyTerm => new VocabularyTerm($rule->code, ucfirst($rule->of).': '.$rule->words()),
            array_values(RetentionOfDesign::rules($this->design, fields: $this->fields)->all()),
        );
    }

    /** @param  list<VocabularyTerm>  $terms */
    private static function choice(
        string $code,
        string $label,
        array $terms,
        ?string $dublinCore = null,
        bool $isMultiple = false,
    ): FieldDefinition {
        return new FieldDefinition(
            $code,
            $label,
            new ChoiceKind,
            multiple: $isMultiple,
            faceted: true,
            vocabulary: new Vocabulary($code, $terms),
            dublinCore: $dublinCore,
            system: true,
        );
    }

    /** @return list<VocabularyTerm> what is in a remote repository is not in the index, so no criterion finds it here */
    private function repositories(): array
    {
        return self::terms(
            array_filter($this->design->parts(RepositoryPart::class), static fn (RepositoryPart $part): bool => ! $part->isRemote()),
        );
    }

    /** @return list<VocabularyTerm> in the order of their repositories */
    private function libraries(): array
    {
        $place = array_flip(array_keys($this->design->all(DesignKind::Repository)));
        $libraries = $this->design->parts(LibraryPart::class);
        uasort(
            $libraries,
            static fn (LibraryPart $a, LibraryPart $b): int => ($place[$a->repository] ?? 0) <=> ($place[$b->repository] ?? 0),
        );

        return self::terms($libraries);
    }

    /**
     * @param  array<ProcedurePart>  $procedures
     * @return list<VocabularyTerm> all their steps, in their order
     */
    private static function steps(array $procedures): array
    {
        $steps = [];
        foreach ($procedures as $part) {
            foreach ($part->procedure->steps as $step) {
                $steps[] = new VocabularyTerm(Standing::named($part->code, $step->code), "{$part->name}: {$step->name}");
            }
        }

        return $steps;
    }

    /**
     * @param  array<ProcedurePart>  $procedures
     * @return list<VocabularyTerm> what may be decided in them
     */
    private static function decisions(array $procedures): array
    {
        $decisions = [];
        foreach ($procedures as $part) {
            foreach ($part->procedure->steps as $step) {
                foreach ($step instanceof AskStep ? $step->decisions : [] as $decision) {
                    $code = Standing::named($part->code, $decision->code);
                    $decisions[$code] ??= new VocabularyTerm($code, "{$part->name}: {$decision->label}");
                }
            }
        }

        return array_values($decisions);
    }

    /** @return list<VocabularyTerm> by name */
    private function types(): array
    {
        $types = self::terms($this->design->parts(TypePart::class));
        usort($types, static fn (VocabularyTerm $a, VocabularyTerm $b): int => strcmp($a->label, $b->label));

        return $types;
    }

    /**
     * @param  array<Part>  $parts
     * @return list<VocabularyTerm>
     */
    private static function terms(array $parts): array
    {
        return array_map(static fn (Part $part): VocabularyTerm => new VocabularyTerm($part->code, $part->name), array_values($parts));
    }
}
