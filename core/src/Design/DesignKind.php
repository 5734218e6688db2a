<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

/** The kinds of parts a design is made of, in the order in which one may refer to another. The value is the name in files and addresses. */
enum DesignKind: string
{
    case Repository = 'repositories';
    case Vocabulary = 'vocabularies';
    case Field = 'fields';
    case Type = 'types';
    case Library = 'libraries';
    case View = 'views';

    public function one(): string
    {
        return match ($this) {
            self::Repository => 'repository',
            self::Vocabulary => 'vocabulary',
            self::Field => 'field',
            self::Type => 'document type',
            self::Library => 'library',
            self::View => 'view',
        };
    }
}
