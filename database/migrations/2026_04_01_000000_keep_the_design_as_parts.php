<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * The published design is kept part by part as a design file has it; the tables of repositories, libraries, fields and
 * types only give them the numbers that documents refer to. With it come what changes of the design do to values, so that
 * it can be undone, the work of re-indexing, and dossiers.
 */
return new class extends Migration
{
    // Rebuilding a table with foreign keys needs them switched off, which a transaction does not allow.
    public $withinTransaction = false;

    public function up(): void
    {
        Schema::create('design_parts', function (Blueprint $table): void {
            $table->string('kind');
            $table->string('code');
            $table->unsignedInteger('position');
            $table->unsignedInteger('lock_version')->default(1);
            $table->longText('content');
            $table->primary(['kind', 'code']);
        });
        DB::transaction(fn () => $this->copy());
        foreach (['document_type_field', 'document_type_library', 'views', 'terms'] as $gone) {
            Schema::drop($gone);
        }
        Schema::disableForeignKeyConstraints();
        $this->narrow(
            'repositories',
            ['id', 'code', 'name', 'position'],
            'id integer primary key autoincrement not null, code varchar not null, name varchar not null, position integer not null default 0',
        );
        $this->narrow(
            'libraries',
            ['id', 'repository_id', 'code', 'name', 'note', 'position'],
            'id integer primary key autoincrement not null, repository_id integer not null references repositories(id), code varchar not null, name varchar not null, note text not null default \'\', position integer not null default 0',
        );
        $this->narrow('fields', ['id', 'code'], 'id integer primary key autoincrement not null, code varchar not null');
        $this->narrow(
            'document_types',
            ['id', 'code', 'name'],
            'id integer primary key autoincrement not null, code varchar not null, name varchar not null',
        );
        Schema::drop('vocabularies');
        Schema::enableForeignKeyConstraints();
        $this->dossiers();
        $this->publication();
    }

    /** @param  list<string>  $columns */
    private function narrow(string $table, array $columns, string $definition): void
    {
        $list = implode(', ', $columns);
        DB::statement("CREATE TABLE {$table}_new ({$definition})");
        DB::statement("INSERT INTO {$table}_new ({$list}) SELECT {$list} FROM {$table}");
        DB::statement("DROP TABLE {$table}");
        DB::statement("ALTER TABLE {$table}_new RENAME TO {$table}");
        DB::statement("CREATE UNIQUE INDEX {$table}_code_unique ON {$table} (code)");
    }

    private function copy(): void
    {
        $put = static function (string $kind, string $code, array $content, int $position, int $lock): void {
            DB::table('design_parts')->insert([
                'kind' => $kind,
                'code' => $code,
                'content' => json_encode($content, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES),
                'position' => $position,
                'lock_version' => $lock,
            ]);
        };
        $rows = static fn (string $table, string $order): Collection => DB::table($table)->orderBy($order)->orderBy('id')->get();
        foreach ($rows('repositories', 'position') as $i => $r) {
            $put('repositories', $r->code, ['name' => $r->name], $i, $r->lock_version);
        }
        $vocabularies = DB::table('vocabularies')->pluck('code', 'id');
        foreach ($rows('vocabularies', 'name') as $i => $v) {
            $terms = DB::table('terms')
                ->where('vocabulary_id', $v->id)
                ->orderBy('position')
                ->get()
                ->map(
                    static fn (object $t): array => [
                        'code' => $t->code,
                        'label' => $t->label,
                        'parent' => $t->parent,
                        'synonyms' => json_decode($t->synonyms, true),
                    ],
                );
            $put('vocabularies', $v->code, ['name' => $v->name, 'terms' => $terms->all()], $i, $v->lock_version);
        }
        foreach ($rows('fields', 'position') as $i => $f) {
            $put(
                'fields',
                $f->code,
                [
                    'label' => $f->label,
                    'kind' => $f->kind,
                    'help' => $f->help,
                    'multiple' => (bool) $f->multiple,
                    'faceted' => (bool) $f->faceted,
                    'sensitive' => (bool) $f->sensitive,
                    'vocabulary' => $vocabularies[$f->vocabulary_id] ?? null,
                    'unit' => $f->unit,
                    'pattern' => $f->pattern,
                    'dublin_core' => $f->dublin_core,
                    'minimum' => $f->minimum,
                    'maximum' => $f->maximum,
                ],
                $i,
                $f->lock_version,
            );
        }
        foreach ($rows('document_types', 'name') as $i => $t) {
            $fields = DB::table('document_type_field')
                ->join('fields', 'fields.id', '=', 'field_id')
                ->where('document_type_id', $t->id)
                ->orderBy('document_type_field.position')
                ->get(['code', 'required'])
                ->map(static fn (object $f): array => ['code' => $f->code, 'required' => (bool) $f->required]);
            $put(
                'types',
                $t->code,
                ['name' => $t->name, 'title_pattern' => $t->title_pattern, 'fields' => $fields->all()],
                $i,
                $t->lock_version,
            );
        }
        foreach ($rows('libraries', 'position') as $i => $l) {
            $put(
                'libraries',
                $l->code,
                [
                    'name' => $l->name,
                    'note' => $l->note,
                    'repository' => DB::table('repositories')->where('id', $l->repository_id)->value('code'),
                    'types' => DB::table('document_type_library')
                        ->join('document_types', 'document_types.id', '=', 'document_type_id')
                        ->where('library_id', $l->id)
                        ->orderBy('name')
                        ->pluck('code')
                        ->all(),
                    'groups' => DB::table('group_library')
                        ->join('groups', 'groups.id', '=', 'group_id')
                        ->where('library_id', $l->id)
                        ->orderBy('name')
                        ->get(['name', 'may_change'])
                        ->map(static fn (object $g): array => ['group' => $g->name, 'change' => (bool) $g->may_change])
                        ->all(),
                ],
                $i,
                $l->lock_version,
            );
        }
        foreach ($rows('views', 'position') as $i => $v) {
            $put(
                'views',
                $v->code,
                [
                    'name' => $v->name,
                    'criterion' => $v->criterion,
                    'columns' => json_decode($v->columns, true),
                    'sort' => json_decode($v->sort, true),
                    'position' => $i,
                    'levels' => array_map(
                        static fn (array $l): array => ['field' => $l['field'], 'total' => $v->total, 'total_as' => $v->total_as],
                        json_decode($v->levels, true),
                    ),
                ],
                $i,
                $v->lock_version,
            );
        }
    }

    private function publication(): void
    {
        Schema::table('design_changes', function (Blueprint $table): void {
            // The version that publishing this change is to bring back.
            $table->unsignedInteger('restores')->nullable();
        });
        // What publishing a version did to single values, so that it can be undone.
        Schema::create('value_changes', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('design_version_id')->constrained()->cascadeOnDelete();
            $table->foreignId('document_id')->nullable()->constrained()->cascadeOnDelete();
            $table->foreignId('dossier_id')->nullable()->constrained()->cascadeOnDelete();
            // Fields by code: one that is taken out comes back with another number.
            $table->string('field');
            $table->unsignedInteger('position');
            $table->text('value');
            $table->string('new_field')->nullable();
            $table->unsignedInteger('new_position')->nullable();
            $table->text('new_value')->nullable();
            $table->unsignedInteger('undone_by')->nullable();
            $table->index(['design_version_id', 'undone_by']);
            $table->index('document_id');
        });
        Schema::create('reindexings', function (Blueprint $table): void {
            $table->id();
            $table->string('name');
            $table->json('fields');
            $table->json('types');
            $table->json('dossier_kinds');
            $table->unsignedInteger('reached')->default(0);
            $table->unsignedInteger('done')->default(0);
            $table->unsignedInteger('total');
            $table->string('state');
            $table->timestamps();
        });
    }

    private function dossiers(): void
    {
        Schema::create('dossiers', function (Blueprint $table): void {
            $table->id();
            $table->string('ref')->nullable()->unique();
            $table->foreignId('library_id')->constrained();
            $table->string('kind');
            $table->string('title');
            $table->foreignId('created_by')->nullable()->constrained('users');
            $table->unsignedInteger('lock_version')->default(1);
            $table->timestamps();
            $table->index('kind');
        });
        Schema::create('dossier_values', function (Blueprint $table): void {
            $table->foreignId('dossier_id')->constrained()->cascadeOnDelete();
            $table->foreignId('field_id')->constrained();
            $table->unsignedInteger('position');
            $table->text('value');
            $table->primary(['dossier_id', 'field_id', 'position']);
        });
        Schema::create('dossier_sections', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('dossier_id')->constrained()->cascadeOnDelete();
            $table->string('name');
            $table->unsignedInteger('position');
        });
        Schema::create('document_dossier', function (Blueprint $table): void {
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->foreignId('dossier_id')->constrained()->cascadeOnDelete();
            $table->foreignId('dossier_section_id')->nullable()->constrained()->nullOnDelete();
            $table->primary(['document_id', 'dossier_id']);
            $table->index('dossier_id');
        });
        // Which fields each kind of dossier hands down, kept by what publishes the design.
        Schema::create('handed_down', function (Blueprint $table): void {
            $table->string('kind');
            $table->foreignId('field_id')->constrained()->cascadeOnDelete();
            $table->primary(['kind', 'field_id']);
        });
        // What documents have: their own values, else those of the dossier they are in (the first that has any).
        DB::statement('CREATE VIEW effective_values AS
            SELECT document_id, field_id, position, value, 0 AS inherited FROM document_values
            UNION ALL
            SELECT dd.document_id, dv.field_id, dv.position, dv.value, 1
            FROM document_dossier dd
            JOIN dossiers d ON d.id = dd.dossier_id
            JOIN handed_down h ON h.kind = d.kind
            JOIN dossier_values dv ON dv.dossier_id = d.id AND dv.field_id = h.field_id
            WHERE NOT EXISTS (SELECT 1 FROM document_values own WHERE own.document_id = dd.document_id AND own.field_id = dv.field_id)
              AND NOT EXISTS (
                SELECT 1 FROM document_dossier first
                JOIN dossiers fd ON fd.id = first.dossier_id
                JOIN handed_down fh ON fh.kind = fd.kind AND fh.field_id = dv.field_id
                JOIN dossier_values fv ON fv.dossier_id = fd.id AND fv.field_id = dv.field_id
                WHERE first.document_id = dd.document_id AND first.dossier_id < dd.dossier_id)');
    }
};
