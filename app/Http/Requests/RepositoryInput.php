<?php

declare(strict_types=1);

namespace App\Http\Requests;

final class RepositoryInput extends DesignInput
{
    protected function table(): string
    {
        return 'repositories';
    }

    protected function subject(): string
    {
        return 'repository';
    }
}
