<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;

final class SignInRequest extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return ['sign_in' => 'required|string|max:200', 'password' => 'required|string|max:200', 'stay' => 'boolean'];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return ['sign_in.required' => 'Type your sign-in name.', 'password.required' => 'Type your password.'];
    }
}
