<?php

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        $this->people();
        $this->design();
        $this->documents();
        $this->index();
        $this->work();
    }

    private function people(): void
    {
        Schema::create('users', function (Blueprint $table): void {
            $table->id();
            $table->string('name');
            $table->string('sign_in')->unique();
            $table->string('password');
            $table->string('role');
            $table->json('preferences')->nullable();
            $table->rememberToken();
            $table->timestamps();
        });
        Schema::create('groups', function (Blueprint $table): void {
            $table->id();
            $table->string('name')->unique();
        });
        Schema::create('group_user', function (Blueprint $table): void {
            $table->foreignId('group_id')->constrained()->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->primary(['group_id', 'user_id']);
        });
    }

    private function design(): void
    {
        Schema::create('repositories', function (Blueprint $table): void {
            $table->id();
            $table->string('code')->unique();
            $table->string('name');
            $table->unsignedInteger('position')->default(0);
            $table->unsignedInteger('lock_version')->default(1);
        });
        Schema::create('libraries', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('repository_id')->constrained();
            $table->string('code')->unique();
            $table->string('name');
            $table->text('note')->default('');
            $table->unsignedInteger('position')->default(0);
            $table->unsignedInteger('lock_version')->default(1);
        });
        // Which groups see a library, and which of them may change what is in it.
        Schema::create('group_library', function (Blueprint $table): void {
            $table->foreignId('group_id')->constrained()->cascadeOnDelete();
            $table->foreignId('library_id')->constrained()->cascadeOnDelete();
            $table->boolean('may_change')->default(false);
            $table->primary(['group_id', 'library_id']);
        });
        Schema::create('vocabularies', function (Blueprint $table): void {
            $table->id();
            $table->string('code')->unique();
            $table->string('name');
            $table->unsignedInteger('lock_version')->default(1);
        });
        Schema::create('terms', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('vocabulary_id')->constrained()->cascadeOnDelete();
            $table->string('code');
            $table->string('label');
            $table->string('parent')->nullable();
            $table->unsignedInteger('position')->default(0);
            $table->unique(['vocabulary_id', 'code']);
        });
        Schema::create('fields', function (Blueprint $table): void {
            $table->id();
            $table->string('code')->unique();
            $table->string('label');
            $table->string('kind');
            $table->text('help')->default('');
            $table->boolean('multiple')->default(false);
            $table->boolean('faceted')->default(false);
            $table->boolean('sensitive')->default(false);
            $table->foreignId('vocabulary_id')->nullable()->constrained();
            $table->string('unit')->default('');
            $table->string('pattern')->default('');
            $table->float('minimum')->nullable();
            $table->float('maximum')->nullable();
            $table->unsignedInteger('position')->default(0);
            $table->unsignedInteger('lock_version')->default(1);
        });
        Schema::create('document_types', function (Blueprint $table): void {
            $table->id();
            $table->string('code')->unique();
            $table->string('name');
            $table->string('title_pattern')->default('');
            $table->unsignedInteger('lock_version')->default(1);
        });
        Schema::create('document_type_field', function (Blueprint $table): void {
            $table->foreignId('document_type_id')->constrained()->cascadeOnDelete();
            $table->foreignId('field_id')->constrained();
            $table->unsignedInteger('position');
            $table->boolean('required')->default(false);
            $table->primary(['document_type_id', 'field_id']);
        });
        Schema::create('document_type_library', function (Blueprint $table): void {
            $table->foreignId('document_type_id')->constrained()->cascadeOnDelete();
            $table->foreignId('library_id')->constrained()->cascadeOnDelete();
            $table->primary(['document_type_id', 'library_id']);
        });
        Schema::create('views', function (Blueprint $table): void {
            $table->id();
            $table->string('code')->unique();
            $table->string('name');
            $table->text('criterion')->default('');
            $table->json('columns');
            $table->json('sort');
            $table->unsignedInteger('position')->default(0);
            $table->unsignedInteger('lock_version')->default(1);
        });
    }

    private function documents(): void
    {
        Schema::create('files', function (Blueprint $table): void {
            $table->string('sha256', 64)->primary();
            $table->unsignedBigInteger('bytes');
            $table->timestamp('created_at');
        });
        Schema::create('documents', function (Blueprint $table): void {
            $table->id();
            $table->string('ref')->nullable()->unique();
            $table->foreignId('library_id')->constrained();
            $table->foreignId('document_type_id')->nullable()->constrained();
            $table->foreignId('parent_id')->nullable()->constrained('documents')->cascadeOnDelete();
            $table->string('title');
            $table->string('sort_title')->default('');
            $table->string('file_name');
            $table->string('path')->default('');
            $table->string('file_kind');
            $table->string('sha256', 64);
            $table->unsignedBigInteger('bytes');
            $table->string('state');
            $table->string('text_state');
            $table->text('text_reason')->default('');
            $table->unsignedInteger('page_count')->default(0);
            $table->foreignId('created_by')->nullable()->constrained('users');
            $table->timestamp('filed_at')->nullable();
            $table->unsignedInteger('lock_version')->default(1);
            $table->timestamps();
            $table->softDeletes();
            $table->foreign('sha256')->references('sha256')->on('files');
            $table->index(['state', 'created_by']);
            $table->index('sort_title');
            $table->index('parent_id');
            $table->index('library_id');
        });
        Schema::create('document_values', function (Blueprint $table): void {
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->foreignId('field_id')->constrained();
            $table->unsignedInteger('position');
            $table->text('value');
            $table->primary(['document_id', 'field_id', 'position']);
            $table->index(['field_id', 'value']);
        });
        Schema::create('pages', function (Blueprint $table): void {
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('number');
            $table->float('width');
            $table->float('height');
            $table->text('text');
            // Boxes of the words, compressed: see App\Files\PageStore.
            $table->binary('boxes')->nullable();
            $table->primary(['document_id', 'number']);
        });
        Schema::create('recent_documents', function (Blueprint $table): void {
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->timestamp('read_at');
            $table->primary(['user_id', 'document_id']);
        });
    }

    /** The store of the search index (App\Index\SqliteStore). */
    private function index(): void
    {
        DB::statement('CREATE TABLE ix_segment (segment INTEGER PRIMARY KEY, stamp INTEGER NOT NULL)');
        DB::statement('CREATE TABLE ix_blob (key TEXT NOT NULL, segment INTEGER NOT NULL, data BLOB NOT NULL, PRIMARY KEY (key, segment))');
        DB::statement(
            'CREATE TABLE ix_term (space TEXT NOT NULL, number INTEGER NOT NULL, term TEXT NOT NULL, fold TEXT NOT NULL, PRIMARY KEY (space, number)) WITHOUT ROWID',
        );
        DB::statement('CREATE UNIQUE INDEX ix_term_term ON ix_term (space, term)');
        DB::statement('CREATE INDEX ix_term_fold ON ix_term (space, fold)');
        DB::statement('CREATE TABLE ix_record (document INTEGER PRIMARY KEY, data BLOB NOT NULL)');
        DB::statement('CREATE TABLE ix_length (part TEXT PRIMARY KEY, documents INTEGER NOT NULL, words INTEGER NOT NULL)');
    }

    private function work(): void
    {
        Schema::create('jobs', function (Blueprint $table): void {
            $table->id();
            $table->string('queue')->index();
            $table->longText('payload');
            $table->unsignedTinyInteger('attempts');
            $table->unsignedInteger('reserved_at')->nullable();
            $table->unsignedInteger('available_at');
            $table->unsignedInteger('created_at');
        });
        Schema::create('failed_jobs', function (Blueprint $table): void {
            $table->id();
            $table->string('uuid')->unique();
            $table->text('connection');
            $table->text('queue');
            $table->longText('payload');
            $table->longText('exception');
            $table->timestamp('failed_at')->useCurrent();
        });
        // One row a file of an import: what makes it resumable without doubles.
        Schema::create('import_files', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('library_id')->constrained();
            $table->string('source');
            $table->string('sha256', 64);
            $table->foreignId('document_id')->nullable()->constrained()->cascadeOnDelete();
            $table->unique(['library_id', 'source', 'sha256']);
        });
    }
};
