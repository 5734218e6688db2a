<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

/** Which terms of a vocabulary are wanted to choose from. */
final class TermsAsked extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'q' => 'nullable|string|max:200',
            'below' => 'nullable|string|max:80',
            'from' => 'nullable|string|max:80',
            'codes' => 'array|max:200',
            'codes.*' => 'string|max:80',
            'beside' => 'array|max:200',
            'beside.*' => 'nullable|string|max:4000',
            'retired' => 'boolean',
        ];
    }

    public function typed(): string
    {
        return trim((string) $this->validated('q'));
    }

    public function below(): string
    {
        return (string) $this->validated('below');
    }

    public function from(): ?string
    {
        return $this->validated('from');
    }

    /** @return list<string> */
    public function codes(): array
    {
        return array_values($this->validated('codes') ?? []);
    }

    /** @return list<string>|null values of the field that the choice depends on; null when it is not asked beside any */
    public function beside(): ?array
    {
        $beside = $this->validated('beside');

        return $beside === null ? null : array_values(array_filter($beside, is_string(...)));
    }

    public function retired(): bool
    {
        return (bool) $this->validated('retired');
    }
}
