<?php

declare(strict_types=1);

namespace App\Retrieve;

use App\Models\SecureLink;
use App\Models\User;
use App\Support\Address;
use Illuminate\Support\Str;

/** Makes links by which people outside fetch a document or a delivery. */
final class SecureLinks
{
    /**
     * @param  array<string, int>  $of  `delivery_id` or `document_id`
     * @param  array{note?: string|null, password?: string|null, form: string, most_uses: int, days: int}  $how
     * @return array{address: string, link: SecureLink} the address is nowhere else
     */
    public static function make(User $user, array $of, array $how): array
    {
        $token = Str::random(40);
        $link = SecureLink::query()->create([
            ...$of,
            'token_hash' => hash('sha256', $token),
            'user_id' => $user->id,
            'note' => $how['note'] ?? '',
            'password' => ($how['password'] ?? '') === '' ? null : $how['password'] ?? null,
            'form' => $how['form'],
            'most_uses' => $how['most_uses'],
            'expires_at' => now()->addDays($how['days']),
        ]);

        return ['address' => Address::of("/outside/{$token}"), 'link' => $link];
    }
}
