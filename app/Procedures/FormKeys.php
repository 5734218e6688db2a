<?php

declare(strict_types=1);

namespace App\Procedures;

use App\Catalog\Catalog;
use App\Models\User;
use App\Support\Address;
use App\Support\Refused;
use Brenvic\Core\Design\WorkFormPart;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;

/** The addresses by which work forms are reached from outside: one is good at a time, until there is another, or none. */
final readonly class FormKeys
{
    public function __construct(private Catalog $catalog)
    {
    }

    /** The published form behind an address; null where there is none. */
    public function find(string $key): ?WorkFormPart
    {
        $form = DB::table('work_form_keys')->where('key', $key)->whereNull('revoked_at')->value('form');

        return $form === null ? null : $this->catalog->design()->one(WorkFormPart::class, (string) $form);
    }

    public function address(string $form): ?string
    {
        $key = DB::table('work_form_keys')->where('form', $form)->whereNull('revoked_at')->value('key');

        return $key === null ? null : Address::of("/form/{$key}");
    }

    /**
     * A new address; the one before is good no more.
     *
     * @throws Refused where the form is not published
     */
    public function make(string $form, User $by): string
    {
        if ($this->catalog->design()->one(WorkFormPart::class, $form) === null) {
            throw new Refused('Publish the form first. It has an address then.');
        }
        DB::transaction(function () use ($form, $by): void {
            $this->revoke($form);
            DB::table('work_form_keys')->insert(['form' => $form, 'key' => Str::random(32), 'made_by' => $by->id, 'at' => now()]);
        });

        return (string) $this->address($form);
    }

    public function revoke(string $form): void
    {
        DB::table('work_form_keys')->where('form', $form)->whereNull('revoked_at')->update(['revoked_at' => now()]);
    }
}
