<?php

declare(strict_types=1);

namespace App\Intake\Sources;

use App\Capture\ReadText;
use App\Catalog\Catalog;
use App\Files\FileStore;
use App\Files\NewFile;
use App\Intake\Arrivals;
use App\Intake\Filing;
use App\Models\Document;
use App\Models\DocumentType;
use App\Support\Refused;
use Brenvic\Core\Design\SourcePart;
use Brenvic\Core\Fields\FieldDefinition;
use Brenvic\Core\Fields\InvalidValue;
use Illuminate\Support\Facades\DB;

/** Makes a waiting document of a file from a source, with what is known of it by the source, its name and what lies beside it. */
final readonly class ArrivingFile
{
    public function __construct(
        private FileStore $files,
        private Arrivals $arrivals,
        private Filing $filing,
        private Catalog $catalog,
    ) {
    }

    /**
     * @param  string  $token  by which the same thing is known again
     * @param  string  $path  that it had within the source
     * @param  list<string>  $sides  files with values
     * @param  array<string, list<string>>  $mail  of a mail: its parts, that rules are held against
     * @return Document|null null when it had come in already
     *
     * @throws Refused when it cannot come in as it is
     */
    public function bring(SourcePart $source, string $token, string $file, string $path, array $sides, array $mail = []): ?Document
    {
        if (DB::table('arrivals')->where('source', $source->code)->where('token', $token)->exists()) {
            return null;
        }
        $library = $this->catalog->libraries()->firstWhere('code', $source->library) ?? throw new Refused('Its library is no longer there.');
        $most = (int) config('brenvic.limits.file_bytes');
        if (filesize($file) > $most) {
            throw new Refused('The file is larger than '.number_format($most / 1_048_576, 0, '.', '').' MB.');
        }
        [$type, $values, $left] = $this->sheet($source, $path, $sides, $mail);
        [$sha256, $bytes] = $this->files->take($file);

        return DB::transaction(function () use ($source, $token, $library, $type, $values, $left, $sha256, $bytes, $path): Document {
            $name = Arrivals::safeName($path);
            $document = $this->arrivals->create($library->id, new NewFile($sha256, $bytes, $name), $bytes === 0 ? '' : $this->files->head($sha256), [
                'path' => mb_scrub($path),
                'source' => $source->code,
                'intake_group' => $source->group,
                'intake_note' => $left === [] ? null : mb_substr(implode(' ', $left), 0, 500),
            ]);
            if ($type !== null || $values !== []) {
                $this->filing->put($document, $type, $values);
            }
            DB::table('arrivals')->insert(['source' => $source->code, 'token' => $token, 'document_id' => $document->id]);
            ReadText::soon($document);

            return $document;
        });
    }

    /**
     * What is known of it, the surest last: what the source says of all, what the name says, what lies beside it.
     *
     * @param  list<string>  $sides
     * @param  array<string, list<string>>  $mail
     * @return array{DocumentType|null, array<string, list<string>>, list<string>} type, normal forms by field code, and what was left out
     */
    private function sheet(SourcePart $source, string $path, array $sides, array $mail): array
    {
        $given = array_map(static fn (string $text): array => [$text], $source->values);
        $left = [];
        $named = $source->pattern->read($path);
        if ($named !== null) {
            $given = [...$given, ...array_map(static fn (string $text): array => [$text], $named)];
        } elseif ($source->pattern->pattern !== '') {
            $left[] = "Its name is not of the form {$source->pattern->pattern}.";
        }
        $type = $source->type;
        foreach ($source->rules as $rule) {
            if ($mail !== [] && $rule->fits($mail)) {
                $type = $rule->type ?? $type;
                $given = [...$given, ...array_map(static fn (string $text): array => [$text], $rule->values)];
            }
        }
        foreach ($sides as $side) {
            $read = SideValues::read($side);
            $given = [...$given, ...$read['values']];
            $type = $read['type'] === '' ? $type : $read['type'];
        }
        $found = $type === null ? null : $this->catalog->types()->firstWhere('code', $type);
        if ($type !== null && $found === null) {
            $left[] = "There is no document type “{$type}”.";
        }
        $fields = $found === null ? $this->catalog->fields() : array_column($this->catalog->sheet($found)->fields, null, 'code');
        $values = [];
        foreach ($given as $code => $texts) {
            $field = $fields[$code] ?? null;
            $fault = $field === null ? "“{$code}” is no field of it." : self::read($field, $texts, $values);
            $left = $fault === '' ? $left : [...$left, $fault];
        }

        return [$found, $values, $left];
    }

    /**
     * @param  list<string>  $texts
     * @param  array<string, list<string>>  $values
     * @return string why it was left out; empty when it was not
     */
    private static function read(FieldDefinition $field, array $texts, array &$values): string
    {
        try {
            $normal = [];
            foreach ($field->multiple ? $texts : array_slice($texts, 0, 1) as $text) {
                $one = $field->parse($text);
                $normal = $one === null ? $normal : [...$normal, $one];
            }
        } catch (InvalidValue $fault) {
            return "{$field->label}: {$fault->getMessage()}";
        }
        if ($normal !== []) {
            $values[$field->code] = $normal;
        }

        return '';
    }
}
