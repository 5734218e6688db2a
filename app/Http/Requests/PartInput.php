<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Design\PartShape;
use Brenvic\Core\Design\DesignKind;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;
use Illuminate\Validation\Validator;

/** One part of the design as an editor sends it: its shape. Whether it works and fits the rest is checked by the core. */
final class PartInput extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        $isNew = $this->isMethod('POST');

        return [
            'code' => [Rule::requiredIf($isNew), 'string', 'max:40', 'regex:/^[a-z0-9][a-z0-9_-]*$/'],
            'lock_version' => [Rule::requiredIf(! $isNew), 'integer'],
        ];
    }

    public function withValidator(Validator $validator): void
    {
        $validator->after(function (Validator $validator): void {
            $fault = PartShape::faultOfPart($this->kind(), $this->part());
            if ($fault !== null) {
                $path = explode('/', trim($fault[0], '/'));
                // Where a name is too long, or a kind unknown: beside that property, and which entry it is of.
                $validator->errors()->add($path[0], isset($path[1]) ? 'Entry '.((int) $path[1] + 1).": {$fault[1]}" : $fault[1]);
            }
        });
    }

    /** @return array<string, string> */
    public function messages(): array
    {
        return [
            'code.required' => 'Give it a code.',
            'code.regex' => 'A code has lower-case letters, digits, - and _, and starts with a letter or digit.',
        ];
    }

    public function kind(): DesignKind
    {
        /** @var DesignKind|string $kind */
        $kind = $this->route('kind');

        return $kind instanceof DesignKind ? $kind : DesignKind::tryFrom($kind) ?? abort(404);
    }

    /** @return array<string, mixed> the content as it is kept, every property there */
    public function part(): array
    {
        return PartShape::complete($this->kind(), $this->json()->all());
    }
}
