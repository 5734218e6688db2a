<?php

declare(strict_types=1);

namespace App\Models;

/** What somebody may do here, whatever they may do it with: that is decided by their groups. */
enum Right: string
{
    case Read = 'read';
    case Download = 'download';
    case File = 'file';
    case Change = 'change';
    case Sensitive = 'sensitive';
    case Redact = 'redact';
    case Hold = 'hold';
    case Remove = 'remove';
    case Destroy = 'destroy';
    case Oversee = 'oversee';
    case Design = 'design';
    case Administer = 'administer';

    public function label(): string
    {
        return match ($this) {
            self::Read => 'Find and read',
            self::Download => 'Download and deliver',
            self::File => 'File',
            self::Change => 'Change',
            self::Sensitive => 'See sensitive fields',
            self::Redact => 'Redact',
            self::Hold => 'Put on hold',
            self::Remove => 'Remove',
            self::Destroy => 'Destroy',
            self::Oversee => 'Oversee',
            self::Design => 'Design',
            self::Administer => 'Administer',
        };
    }

    /**
     * @param  list<self>  $rights
     * @return list<array{value: string, label: string}>
     */
    public static function told(array $rights): array
    {
        return array_map(static fn (self $right): array => ['value' => $right->value, 'label' => $right->label()], $rights);
    }

    public function says(): string
    {
        return match ($this) {
            self::Read => 'Documents of the libraries that their groups may enter. Without it nothing is seen.',
            self::Download => 'Save files, export tables, deliver, mail and share by link.',
            self::File => 'Take in documents and file them.',
            self::Change => 'Values, versions, dossiers and places of filed documents, where their groups may change a library.',
            self::Sensitive => 'Fields that are kept from others are shown and searched.',
            self::Redact => 'Remove parts of documents for those who may see only the redacted copy.',
            self::Hold => 'Legal holds, which nobody can change or remove anything under.',
            self::Remove => 'Take filed documents out of sight, and bring them back.',
            self::Destroy => 'Destroy for good what was removed.',
            self::Oversee => 'The history of every document they see.',
            self::Design => 'Fields, types, schemes, views, libraries and who may enter them.',
            self::Administer => 'People, roles and groups, and the server.',
        };
    }
}
