<?php

declare(strict_types=1);

/** Serves the scanner of the office, the stand-in for a network scanner: php -S 127.0.0.1:PORT demo/scanner.php */

require dirname(__DIR__).'/vendor/autoload.php';

$folder = ($data = getenv('BRENVIC_DATA')) !== false && $data !== '' ? "{$data}/scanner" : dirname(__DIR__).'/storage/data/scanner';
[$status, $headers, $body] = (new Demo\Scanner\OfficeScanner($folder))->answer(
    (string) $_SERVER['REQUEST_METHOD'],
    (string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_PATH),
    (string) file_get_contents('php://input'),
);
http_response_code($status);
foreach ($headers as $name => $value) {
    header("{$name}: {$value}");
}
echo $body;
