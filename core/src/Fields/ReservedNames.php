<?php

declare(strict_types=1);

namespace Brenvic\Core\Fields;

/** Names that every search knows whatever the design: no field may take one as its code. */
final class ReservedNames
{
    /** Names of index fields that Brenvic itself fills. */
    public const SYSTEM = [
        'text',
        'title',
        'comment',
        'path',
        'created',
        'creator',
        'file_type',
        'library',
        'repository',
        'type',
        'dossier',
        'dossier_kind',
        'ref',
        'file_name',
        'pages',
        'text_state',
        'text_language',
        'attached',
        'pull_list',
        'procedure',
        'procedure_step',
        'procedure_decision',
        'waits_for',
        'step_since',
        'retention',
        'retention_due',
        'retention_action',
        'retention_rule',
        'hold',
        'titled_by_file',
        'ocr_confidence',
    ];

    public const ALL = [
        ...self::SYSTEM,
        'anywhere',
        'values',
        'names',
        'and',
        'or',
        'not',
        'prox',
        'sortby',
        'any',
        'all',
        'adj',
        'within',
        'encloses',
        'exact',
        'cql',
        'dc',
        // Events that periods of retention are counted from, where otherwise a field is named.
        'dossier_closed',
        'procedure_ended',
        'superseded',
    ];
}
