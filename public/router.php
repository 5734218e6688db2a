<?php

// For PHP's own web server: files of the built interface as they are, everything else to the application.

$path = (string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_PATH);
if (preg_match('#^/(build/[\w./+-]+|favicon\.png)$#', $path) === 1 && ! str_contains($path, '..') && is_file(__DIR__.$path)) {
    $types = ['js' => 'text/javascript', 'mjs' => 'text/javascript', 'css' => 'text/css', 'svg' => 'image/svg+xml', 'png' => 'image/png', 'woff2' => 'font/woff2', 'wasm' => 'application/wasm', 'json' => 'application/json'];
    header('Content-Type: '.($types[pathinfo($path, PATHINFO_EXTENSION)] ?? 'application/octet-stream'));
    // Built files carry a hash of their content in their names.
    header('Cache-Control: public, max-age=31536000, immutable');
    readfile(__DIR__.$path);

    return true;
}

require __DIR__.'/index.php';
