<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\People\PersonGiven;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;

/** A person as an administrator describes them. */
final class PersonInput extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'name' => 'required|string|max:200',
            'sign_in' => $this->isMethod('POST')
                ? ['required', 'string', 'max:60', 'regex:/^[a-z0-9][a-z0-9._-]*$/', Rule::unique('users', 'sign_in')]
                : 'prohibited',
            'mail' => 'nullable|email|max:200',
            'role' => ['required', Rule::exists('roles', 'code')],
            'known_by' => ['sometimes', Rule::in(['brenvic', 'directory'])],
            'groups' => 'present|array|max:200',
            'groups.*' => 'string|exists:groups,name',
        ];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return [
            'name.required' => 'Give a name.',
            'sign_in.required' => 'Give a sign-in name.',
            'sign_in.regex' => 'A sign-in name has lower-case letters, digits, dots, - and _, and starts with a letter or digit.',
            'sign_in.unique' => 'Somebody has this sign-in name.',
            'mail.email' => 'This is not an e-mail address.',
            'role.required' => 'Choose a role.',
            'role.exists' => 'There is no such role any more. Choose another one.',
        ];
    }

    public function given(): PersonGiven
    {
        return new PersonGiven(
            (string) $this->validated('name'),
            (string) $this->validated('role'),
            array_values($this->validated('groups') ?? []),
            $this->validated('mail'),
            (string) ($this->validated('known_by') ?? 'brenvic'),
        );
    }
}
