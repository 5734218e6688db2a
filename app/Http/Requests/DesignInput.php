<?php

declare(strict_types=1);

namespace App\Http\Requests;

use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;

/** What every part of the design has: a code that is its own, a name, and the version it was changed from. */
abstract class DesignInput extends FormRequest
{
    /** The table whose codes must differ. */
    abstract protected function table(): string;

    /** The route's parameter for what is changed. */
    abstract protected function subject(): string;

    /** @return array<string, mixed> */
    public function rules(): array
    {
        $changed = $this->route($this->subject());

        return [
            'code' => [Rule::requiredIf($changed === null), 'string', 'max:40', 'regex:/^[a-z0-9][a-z0-9_-]*$/', Rule::unique($this->table(), 'code')->ignore($changed)],
            'name' => 'required|string|max:200',
            'lock_version' => [Rule::requiredIf($changed !== null), 'integer'],
        ];
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return [
            'code.required' => 'Give it a code.',
            'code.regex' => 'A code holds small letters, digits, - and _, and starts with a letter or digit.',
            'code.unique' => 'This code is taken. Codes are for machines; choose another.',
            'name.required' => 'Give it a name.',
            'label.required' => 'Give the field a label.',
        ];
    }
}
