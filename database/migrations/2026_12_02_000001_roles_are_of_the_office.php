<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    /** The roles there have been, with what they could do. */
    private const ROLES = [
        'librarian' => ['Records librarian', ['read', 'download', 'file', 'change', 'sensitive', 'redact', 'hold', 'remove', 'design']],
        'clerk' => ['Intake clerk', ['read', 'download', 'file', 'change', 'sensitive']],
        'reader' => ['Reader', ['read', 'download']],
        'manager' => ['Records manager', ['read', 'download', 'sensitive', 'redact', 'hold', 'remove', 'destroy', 'oversee']],
        'administrator' => ['Administrator', ['read', 'download', 'administer']],
    ];

    public function up(): void
    {
        Schema::create('roles', static function (Blueprint $table): void {
            $table->string('code')->primary();
            $table->string('name')->unique();
            $table->text('rights');
            $table->integer('place');
        });
        $place = 0;
        foreach (self::ROLES as $code => [$name, $rights]) {
            DB::table('roles')->insert(['code' => $code, 'name' => $name, 'rights' => json_encode($rights), 'place' => $place++]);
        }
        // Groups whose members are in another group too.
        Schema::create('group_group', static function (Blueprint $table): void {
            $table->foreignId('group_id')->constrained()->cascadeOnDelete();
            $table->foreignId('member_id')->constrained('groups')->cascadeOnDelete();
            $table->primary(['group_id', 'member_id']);
            $table->index('member_id');
        });
        // Who is in which group, by whatever way: written anew whenever a group changes, read in every request.
        Schema::create('memberships', static function (Blueprint $table): void {
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->foreignId('group_id')->constrained()->cascadeOnDelete();
            $table->primary(['user_id', 'group_id']);
            $table->index('group_id');
        });
        DB::statement('INSERT INTO memberships (user_id, group_id) SELECT DISTINCT user_id, group_id FROM group_user');
    }

    public function down(): void
    {
        Schema::dropIfExists('memberships');
        Schema::dropIfExists('group_group');
        Schema::dropIfExists('roles');
    }
};
