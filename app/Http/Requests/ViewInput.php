<?php

declare(strict_types=1);

namespace App\Http\Requests;

final class ViewInput extends DesignInput
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [...parent::rules(), 'criterion' => 'nullable|string|max:60000', 'columns' => 'required|array|min:1|max:60', 'columns.*' => 'string|distinct', 'sort' => 'array|max:8', 'sort.*.field' => 'required|string', 'sort.*.descending' => 'boolean'];
    }

    protected function table(): string
    {
        return 'views';
    }

    protected function subject(): string
    {
        return 'view';
    }
}
