<?php

declare(strict_types=1);

arch('the core knows nothing of the framework, the application or its tables')
    ->expect('Brenvic\Core')
    ->not->toUse(['Illuminate', 'App', 'Demo', 'Bench', 'Laravel', 'PDO', 'PDOStatement']);

arch('the core is strict, and its classes are final unless they are made to be implemented')->expect('Brenvic\Core')->toUseStrictTypes();

arch('nothing is left that was only for looking')
    ->expect(['Brenvic\Core', 'App', 'Demo'])
    ->not->toUse(['dd', 'dump', 'var_dump', 'ray', 'die']);

arch('the application reaches the demo from nowhere')->expect('App')->not->toUse('Demo');

it('decides in one place what is shown of sensitive values', function () {
    // The definition itself, and the effect of making a field sensitive, are about the property and not about values.
    $may = ['core/src/Fields/Cover.php', 'core/src/Fields/FieldDefinition.php', 'core/src/Design/Effect.php'];
    $found = [];
    foreach (['core/src', 'app'] as $folder) {
        foreach (
            new RecursiveIteratorIterator(
                new RecursiveDirectoryIterator(dirname(__DIR__, 2).'/'.$folder, FilesystemIterator::SKIP_DOTS),
            ) as $file
        ) {
            $path = substr((string) $file, strlen(dirname(__DIR__, 2)) + 1);
            if (
                str_ends_with($path, '.php') &&
                ! in_array($path, $may, true) &&
                preg_match('/->sensitive\b/', (string) file_get_contents((string) $file)) === 1
            ) {
                $found[] = $path;
            }
        }
    }
    expect($found)->toBe([]);
});

it('has no folders that name each other, but for those named here', function () {
    exec(PHP_BINARY.' '.escapeshellarg(dirname(__DIR__, 2).'/docs/house.php').' --pairs', $lines);
    $pairs = array_map(static fn (string $line): string => (string) preg_replace('/^(\S+) names (\S+) .*/', '$1 $2', $line), $lines);
    // Reading a mail brings in what is attached to it, which is then read.
    expect($pairs)->toBe(['app/Capture app/Intake']);
});
