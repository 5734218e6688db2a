<?php

declare(strict_types=1);

namespace Brenvic\Core\Design;

use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidDefinition;
use Brenvic\Core\Fields\Vocabulary;
use Brenvic\Core\Retention\RetentionRule;
use Brenvic\Core\Retention\Rules;
use Brenvic\Core\Retention\Trigger\About;

/** The retention rules that stand with the concepts, document types and dossier kinds of a design. */
final class RetentionOfDesign
{
    /**
     * @param  int  $fiscalYearStart  month
     * @param  array<string, FieldDefinition>|null  $fields  of the design by code, where they are at hand
     */
    public static function rules(Design $design, int $fiscalYearStart = 4, ?array $fields = null): Rules
    {
        $fields ??= $design->fields();
        $names = array_map(static fn (ProcedurePart $part): string => $part->name, $design->parts(ProcedurePart::class));
        $read = static fn (string $code, string $of, array $rule): RetentionRule => RetentionRule::read($code, $of, $rule, $fields, $names);
        $concepts = $vocabularies = [];
        foreach ($design->parts(VocabularyPart::class) as $part) {
            $choosing = array_filter($fields, static fn (FieldDefinition $field): bool => $field->vocabulary?->code === $part->code);
            $vocabulary = array_values($choosing)[0]->vocabulary ?? null;
            if ($vocabulary === null) {
                continue;
            }
            $rules = self::ofTerms($part, $vocabulary, $read);
            foreach ($rules === [] ? [] : array_keys($choosing) as $code) {
                $concepts[$code] = $rules;
                $vocabularies[$code] = $vocabulary;
            }
        }
        $types = $kinds = [];
        foreach ($design->parts(TypePart::class) as $part) {
            if ($part->retention !== null) {
                $types[$part->code] = $read("type.{$part->code}", "type {$part->name}", $part->retention);
            }
        }
        foreach ($design->parts(DossierKindPart::class) as $part) {
            if ($part->retention !== null) {
                $kinds[$part->code] = $read("dossier.{$part->code}", "dossier kind {$part->name}", $part->retention);
            }
        }

        return new Rules($vocabularies, $concepts, $types, $kinds, $fiscalYearStart);
    }

    /**
     * The rule in the content of a part or a term.
     *
     * @param  array<string, mixed>  $content
     * @return array<string, mixed>|null
     */
    public static function in(array $content): ?array
    {
        $rule = is_array($content['retention'] ?? null) ? $content['retention'] : [];
        $named = array_filter($rule, is_string(...), ARRAY_FILTER_USE_KEY);

        return $named === [] ? null : $named;
    }

    /**
     * @param  array<string, mixed>|null  $rule
     * @return list<array{DesignKind, string}> the parts that it names
     */
    public static function refersTo(?array $rule): array
    {
        return array_map(
            static fn (About $about): array => [
                match ($about->kind) {
                    About::DOSSIER_KIND => DesignKind::DossierKind,
                    About::PROCEDURE => DesignKind::Procedure,
                    default => DesignKind::Field,
                },
                $about->code,
            ],
            $rule === null ? [] : RetentionRule::read('', '', $rule, [], [])->about(),
        );
    }

    /**
     * @param  array<string, mixed>|null  $rule
     *
     * @throws InvalidDefinition
     */
    public static function check(DesignCheck $check, ?array $rule): void
    {
        if ($rule === null) {
            return;
        }
        $named = [];
        foreach (self::refersTo($rule) as [$kind, $code]) {
            $kind === DesignKind::Field ? ($named[$code] = $check->design->field($code)) : $check->parts($kind, [$code], 'retention');
        }
        $fault = RetentionRule::read('', '', $rule, array_filter($named), [])->fault();
        if ($fault !== null) {
            throw new InvalidDefinition('retention', $fault);
        }
    }

    /**
     * @param  \Closure(string, string, array<string, mixed>): RetentionRule  $read
     * @return array<string, RetentionRule> by term
     */
    private static function ofTerms(VocabularyPart $part, Vocabulary $vocabulary, \Closure $read): array
    {
        $rules = [];
        foreach ($part->terms as $term) {
            $rule = self::in($term);
            $code = is_string($term['code'] ?? null) ? $term['code'] : '';
            if ($rule !== null) {
                $rules[$code] = $read("concept.{$part->code}.{$code}", "concept {$vocabulary->label($code)}", $rule);
            }
        }

        return $rules;
    }
}
