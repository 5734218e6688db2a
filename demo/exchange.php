<?php

declare(strict_types=1);

/** Serves the Survey Exchange, the stand-in for a remote repository: php -S 127.0.0.1:PORT demo/exchange.php */

require dirname(__DIR__).'/vendor/autoload.php';

[$status, $type, $body] = Demo\Exchange\SurveyExchange::answer((string) parse_url((string) $_SERVER['REQUEST_URI'], PHP_URL_PATH), $_GET);
http_response_code($status);
header("Content-Type: {$type}");
echo $body;
