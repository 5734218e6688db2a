<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Pages in a new order, as JSON beside the files that some of them come from. */
final class PagesInput extends FormRequest
{
    protected function prepareForValidation(): void
    {
        $given = $this->input('pages');
        $this->merge(['pages' => is_string($given) ? json_decode($given, true) : null]);
    }

    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'version' => 'required|integer|min:1',
            'note' => 'nullable|string|max:500',
            'pages' => 'required|array|max:5000',
            'pages.*.source' => 'present|nullable|string|max:40',
            'pages.*.page' => 'required|integer|min:1',
            'pages.*.turn' => 'required|integer',
            'files' => 'array|max:20',
            'files.*' => 'file|max:'.intdiv((int) config('brenvic.limits.file_bytes'), 1024),
        ];
    }

    /** @return list<array{source: string, page: int, turn: int}> */
    public function pages(): array
    {
        return array_values(
            array_map(
                static fn (array $p): array => [
                    'source' => (string) ($p['source'] ?? ''),
                    'page' => (int) $p['page'],
                    'turn' => (int) $p['turn'],
                ],
                $this->validated('pages'),
            ),
        );
    }
}
