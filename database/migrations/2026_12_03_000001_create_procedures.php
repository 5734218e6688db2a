<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // Procedures as cases began in them, which the design may have changed since.
        Schema::create('procedure_versions', static function (Blueprint $table): void {
            $table->id();
            $table->string('code');
            $table->string('hash', 64);
            $table->text('content');
            $table->timestamp('at');
            $table->unique(['code', 'hash']);
        });
        Schema::create('cases', static function (Blueprint $table): void {
            $table->id();
            $table->string('procedure');
            $table->foreignId('procedure_version_id')->constrained();
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->integer('length');
            $table->integer('told')->default(0);
            $table->string('status');
            $table->string('step')->nullable();
            $table->string('decision')->nullable();
            $table->text('fault')->default('');
            $table->timestamp('since');
            $table->timestamp('begun_at');
            $table->foreignId('begun_by')->nullable()->constrained('users');
            $table->timestamp('ended_at')->nullable();
            $table->index(['document_id', 'procedure']);
            $table->index(['procedure', 'status', 'step']);
            $table->index(['status', 'since']);
        });
        // The record that a case is made of. Two who write the same number of it cannot both be right.
        Schema::create('case_events', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('case_id')->constrained()->cascadeOnDelete();
            $table->integer('number');
            $table->string('kind');
            $table->foreignId('user_id')->nullable()->constrained();
            $table->string('step')->nullable();
            $table->text('detail');
            $table->timestamp('at');
            $table->unique(['case_id', 'number']);
        });
        Schema::create('tasks', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('case_id')->constrained()->cascadeOnDelete();
            $table->integer('number');
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->string('procedure');
            $table->string('step');
            $table->foreignId('holder_id')->nullable()->constrained('users');
            $table->foreignId('asked_id')->nullable()->constrained('users');
            $table->text('excluded')->default('[]');
            $table->date('due')->nullable();
            $table->date('remind')->nullable();
            $table->boolean('is_overdue')->default(false);
            $table->timestamp('opened_at');
            $table->timestamp('closed_at')->nullable();
            $table->foreignId('decided_by')->nullable()->constrained('users');
            $table->string('decision')->nullable();
            $table->unique(['case_id', 'number']);
            $table->index(['procedure', 'step', 'closed_at']);
            $table->index('document_id');
            $table->index(['decided_by', 'closed_at']);
        });
        // Few are open of all that ever were.
        DB::statement('CREATE INDEX tasks_open_holder ON tasks (holder_id) WHERE closed_at IS NULL');
        DB::statement('CREATE INDEX tasks_open_asked ON tasks (asked_id) WHERE closed_at IS NULL AND asked_id IS NOT NULL');
        DB::statement('CREATE INDEX tasks_open_due ON tasks (due) WHERE closed_at IS NULL AND is_overdue = 0');
        DB::statement('CREATE INDEX tasks_open_remind ON tasks (remind) WHERE closed_at IS NULL AND remind IS NOT NULL');
        // Whom an open task is for; it is emptied when the task is closed.
        Schema::create('task_audience', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('task_id')->constrained()->cascadeOnDelete();
            $table->foreignId('group_id')->nullable()->constrained('groups');
            $table->foreignId('user_id')->nullable()->constrained();
            $table->index('task_id');
            $table->index('group_id');
            $table->index('user_id');
        });
        // For which documents the criterion of a procedure is true that begins when it comes true.
        Schema::create('procedure_truths', static function (Blueprint $table): void {
            $table->string('procedure');
            $table->foreignId('document_id')->constrained()->cascadeOnDelete();
            $table->primary(['procedure', 'document_id']);
        });
        // Documents that changed and have not been looked at yet.
        Schema::create('procedure_looks', static function (Blueprint $table): void {
            $table->foreignId('document_id')->primary()->constrained()->cascadeOnDelete();
        });
        Schema::create('notices', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained();
            $table->string('kind');
            $table->text('says');
            $table->string('link');
            $table->foreignId('document_id')->nullable()->constrained()->cascadeOnDelete();
            $table->timestamp('at');
            $table->timestamp('seen_at')->nullable();
            $table->timestamp('mailed_at')->nullable();
            $table->index(['user_id', 'seen_at']);
        });
        DB::statement('CREATE INDEX notices_to_mail ON notices (user_id) WHERE mailed_at IS NULL');
        Schema::table('users', static function (Blueprint $table): void {
            $table->foreignId('manager_id')->nullable()->constrained('users');
            $table->foreignId('stand_in_id')->nullable()->constrained('users');
            $table->date('away_from')->nullable();
            $table->date('away_until')->nullable();
            $table->index('stand_in_id');
        });
        Schema::table('documents', static function (Blueprint $table): void {
            $table->foreignId('locked_by_case')->nullable();
            $table->date('kept_from')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('documents', static function (Blueprint $table): void {
            $table->dropColumn(['locked_by_case', 'kept_from']);
        });
        Schema::table('users', static function (Blueprint $table): void {
            $table->dropConstrainedForeignId('manager_id');
            $table->dropConstrainedForeignId('stand_in_id');
            $table->dropColumn(['away_from', 'away_until']);
        });
        foreach (['notices', 'procedure_looks', 'procedure_truths', 'task_audience', 'tasks', 'case_events', 'cases', 'procedure_versions'] as $table) {
            Schema::dropIfExists($table);
        }
    }
};
