<?php

declare(strict_types=1);

namespace Brenvic\Core\Reading;

use Brenvic\Core\Capture\TextPage;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Brenvic\Core\Index\Tokenizer;

/** Words and phrases, each with the value that it stands for: of two that begin alike the longer one is meant. Case and accents are ignored. */
final class WordListRule implements ReadingRule
{
    /** @var array<string, string> what is given for the value by the words that stand for it, with blanks between */
    private array $values = [];

    private int $longest = 1;

    /** @var array<string, array<string, string|null>> field => given => normal form, null for what the field cannot have */
    private array $normals = [];

    /** @param  list<array{string, list<string>}>  $entries  a value with its other spellings */
    public function __construct(array $entries)
    {
        foreach ($entries as [$value, $spellings]) {
            foreach ([$value, ...$spellings] as $spelling) {
                $words = Tokenizer::words($spelling);
                if ($words !== []) {
                    $this->values[implode(' ', $words)] ??= $value;
                    $this->longest = max($this->longest, count($words));
                }
            }
        }
    }

    public function in(TextPage $page, FieldDefinition $field): array
    {
        $words = PrintedWords::of($page)->all;
        $found = [];
        for ($i = 0, $all = count($words); $i < $all; $i++) {
            for ($count = min($this->longest, $all - $i); $count > 0; $count--) {
                $given = $this->values[implode(' ', array_column(array_slice($words, $i, $count), 0))] ?? null;
                $normal = $given === null ? null : $this->normal($field, $given);
                if ($normal !== null) {
                    $last = $words[$i + $count - 1];
                    $found[] = [$words[$i][1], $last[1] + $last[2] - $words[$i][1], $normal];
                    $i += $count - 1;
                    break;
                }
            }
        }

        return $found;
    }

    private function normal(FieldDefinition $field, string $given): ?string
    {
        if (! array_key_exists($given, $this->normals[$field->code] ?? [])) {
            try {
                $this->normals[$field->code][$given] = $field->parse($given);
            } catch (InvalidValue) {
                $this->normals[$field->code][$given] = null;
            }
        }

        return $this->normals[$field->code][$given];
    }
}
