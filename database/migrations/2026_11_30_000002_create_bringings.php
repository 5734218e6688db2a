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
        // What was found is kept as the core has it, which has more in it now; what was decided stays known.
        DB::table('proposals')->update([
            'found' => null,
            'mapping' => null,
            'state' => 'failed',
            'says' => 'Brenvic was updated since. Give the table again; what you decided is remembered.',
        ]);
        Schema::create('bringings', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->index()->constrained();
            $table->foreignId('library_id')->constrained();
            $table->string('what', 20);
            $table->string('file_name', 200);
            $table->string('state', 20);
            $table->string('says', 500)->default('');
            // Whether files without a row come in too.
            $table->boolean('with_rest')->default(false);
            // How rows become values, as it was accepted when this was begun.
            $table->binary('mapping');
            // The act that undoes it, once it is kept.
            $table->unsignedBigInteger('act_id')->nullable();
            $table->timestamps();
        });
        // What became, or is to become, of each file and each row.
        Schema::create('bringing_rows', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('bringing_id')->constrained()->cascadeOnDelete();
            $table->string('source', 500);
            $table->string('outcome', 20);
            $table->string('note', 500)->default('');
            $table->json('sheet')->nullable();
            $table->foreignId('document_id')->nullable()->constrained()->nullOnDelete();
            $table->unsignedInteger('lock_version')->nullable();
            $table->json('before')->nullable();
            $table->index(['bringing_id', 'outcome', 'id']);
            $table->index(['bringing_id', 'source']);
        });
        Schema::table('import_files', function (Blueprint $table): void {
            // What the row of a register said, against which a later one is held.
            $table->json('given')->nullable();
            $table->index('document_id');
        });
    }

    public function down(): void
    {
        Schema::table('import_files', function (Blueprint $table): void {
            $table->dropIndex(['document_id']);
            $table->dropColumn('given');
        });
        Schema::dropIfExists('bringing_rows');
        Schema::dropIfExists('bringings');
    }
};
