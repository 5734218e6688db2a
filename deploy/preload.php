<?php

// Read by PHP once, when the server starts: classes that requests use stay in the memory of all its processes, linked.
// `php deploy/preload.php FILE` notes their files in FILE; PHP itself runs it with that file named in BRENVIC_PRELOAD.

if (PHP_SAPI !== 'cli' || ($argv[1] ?? '') === '') {
    foreach (file((string) getenv('BRENVIC_PRELOAD'), FILE_IGNORE_NEW_LINES) ?: [] as $file) {
        is_file($file) && opcache_compile_file($file);
    }

    return;
}

$root = dirname(__DIR__);
require "{$root}/vendor/autoload.php";
$application = require "{$root}/bootstrap/app.php";
$kernel = $application->make(Illuminate\Contracts\Http\Kernel::class);
$kernel->handle(Illuminate\Http\Request::create('/api/session'));
$kernel->handle(Illuminate\Http\Request::create('/'));
foreach (['app' => 'App', 'core/src' => 'Brenvic\\Core'] as $folder => $namespace) {
    foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator("{$root}/{$folder}", FilesystemIterator::SKIP_DOTS)) as $file) {
        $name = substr((string) $file, strlen("{$root}/{$folder}/"), -4);
        if ($file->getExtension() === 'php' && ! str_starts_with($name, 'Console/')) {
            class_exists("{$namespace}\\".strtr($name, '/', '\\'));
        }
    }
}
// In the order in which they were declared, which has what others extend first. Of packages only those whose files declare classes
// and do nothing else: what a file does besides (TCPDF sets constants) is not done again for a class that is there already.
$packages = implode('|', array_map(preg_quote(...), ['laravel/framework', 'monolog/monolog', 'nesbot/carbon', 'psr/', 'symfony/']));
$files = [];
foreach ([...get_declared_interfaces(), ...get_declared_traits(), ...get_declared_classes()] as $class) {
    $file = (new ReflectionClass($class))->getFileName();
    if ($file !== false && is_file($file) && preg_match("#/vendor/(?!{$packages})#", $file) !== 1) {
        $files[$file] = true;
    }
}
unset($files[__FILE__]);
file_put_contents($argv[1], implode("\n", array_keys($files)));
