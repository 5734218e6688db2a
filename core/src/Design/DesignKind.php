<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** The kinds of parts a design is made of, in the order in which one may refer to another. The value is the name in files and addresses. */
enum DesignKind: string
{
    case Repository = 'repositories';
    case Vocabulary = 'vocabularies';
    case Field = 'fields';
    case Table = 'tables';
    case Type = 'types';
    case Library = 'libraries';
    case View = 'views';
    case DossierKind = 'dossier_kinds';
    case Form = 'forms';
    case Access = 'access';
    case Source = 'sources';
    case Reading = 'readings';
    case Procedure = 'procedures';
    case WorkForm = 'work_forms';

    public function one(): string
    {
        return match ($this) {
            self::Repository => 'repository',
            self::Vocabulary => 'vocabulary',
            self::Field => 'field',
            self::Table => 'reference table',
            self::Type => 'document type',
            self::Library => 'library',
            self::View => 'view',
            self::DossierKind => 'dossier kind',
            self::Form => 'search form',
            self::Access => 'access rule',
            self::Source => 'source',
            self::Reading => 'reading rule',
            self::Procedure => 'procedure',
            self::WorkForm => 'work form',
        };
    }

    /** @return class-string<Part> what a part of the kind is as a value */
    public function part(): string
    {
        return match ($this) {
            self::Repository => RepositoryPart::class,
            self::Vocabulary => VocabularyPart::class,
            self::Field => FieldPart::class,
            self::Table => TablePart::class,
            self::Type => TypePart::class,
            self::Library => LibraryPart::class,
            self::View => ViewPart::class,
            self::DossierKind => DossierKindPart::class,
            self::Form => FormPart::class,
            self::Access => AccessRule::class,
            self::Source => SourcePart::class,
            self::Reading => ReadingPart::class,
            self::Procedure => ProcedurePart::class,
            self::WorkForm => WorkFormPart::class,
        };
    }
}
