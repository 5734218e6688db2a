<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\DeliveryForm;
use App\Retrieve\DocumentMail;
use Closure;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;

/** A message with documents. */
final class MailInput extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'documents' => 'required|array|min:1|max:'.DocumentMail::MOST,
            'documents.*' => 'required|string|max:40',
            'how' => 'required|in:copies,links',
            'form' => ['nullable', Rule::enum(DeliveryForm::class)],
            'to' => ['required', 'string', 'max:1000', self::addresses(...)],
            'subject' => 'required|string|max:300',
            'text' => 'nullable|string|max:10000',
        ];
    }

    /** Each address of a list with commas between. */
    public static function addresses(string $attribute, mixed $value, Closure $fail): void
    {
        foreach (is_string($value) ? explode(',', $value) : [''] as $address) {
            if (filter_var(trim($address), FILTER_VALIDATE_EMAIL) === false) {
                $fail('“'.trim($address).'” is not an e-mail address.');

                return;
            }
        }
    }
}
