<?php

declare(strict_types=1);

namespace App\Loans;

use App\Support\Address;
use Illuminate\Support\Facades\File;
use RuntimeException;

/** The team space that ships with the application: a folder, with a page of its own for people outside. */
final class SimulatedTeamSpace implements TeamSpace
{
    public function put(string $key, string $file, string $name): void
    {
        File::ensureDirectoryExists($this->folder($key), 0700);
        copy($file, "{$this->folder($key)}/copy") || throw new RuntimeException('The team space cannot be written to.');
        file_put_contents("{$this->folder($key)}/name", $name);
    }

    /** What somebody outside gives back in its place. */
    public function change(string $key, string $file, string $name): void
    {
        if (is_file("{$this->folder($key)}/copy")) {
            (copy($file, "{$this->folder($key)}/copy.part") && rename("{$this->folder($key)}/copy.part", "{$this->folder($key)}/copy")) ||
                throw new RuntimeException('The team space cannot be written to.');
            file_put_contents("{$this->folder($key)}/name", $name);
        }
    }

    public function address(string $key): string
    {
        return Address::of("/team-space/{$key}");
    }

    public function copy(string $key): ?array
    {
        $path = "{$this->folder($key)}/copy";
        clearstatcache(true, $path);

        return is_file($path)
            ? ['path' => $path, 'name' => (string) file_get_contents("{$this->folder($key)}/name"), 'changed_at' => (int) filemtime($path)]
            : null;
    }

    public function remove(string $key): void
    {
        File::deleteDirectory($this->folder($key));
    }

    private function folder(string $key): string
    {
        if (preg_match('/^[A-Za-z0-9]{40}$/', $key) !== 1) {
            throw new RuntimeException('Not the name of a copy.');
        }

        return config('brenvic.data')."/team-space/{$key}";
    }
}
