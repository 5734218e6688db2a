<?php

declare(strict_types=1);

namespace Demo;

use Brenvic\Core\Fields\CheckCharacter;
use PDO;

/** The list of suppliers that another office keeps in a database of its own: the stand-in for an outside database. */
final class Suppliers
{
    public static function number(string $contractor): string
    {
        $number = sprintf('S-%d-', 101 + (int) array_search($contractor, Words::CONTRACTORS, true));

        return $number.CheckCharacter::for($number);
    }

    public static function mail(string $contractor): string
    {
        return 'office@'.strtolower((string) preg_replace('/\W.*$/', '', $contractor)).'.example';
    }

    public static function fill(string $database): void
    {
        $pdo = new PDO("sqlite:{$database}", options: [PDO::ATTR_ERRMODE => PDO::ERRMODE_EXCEPTION]);
        $pdo->exec('CREATE TABLE IF NOT EXISTS suppliers (number TEXT PRIMARY KEY, name TEXT NOT NULL, mail TEXT NOT NULL)');
        $row = $pdo->prepare('INSERT OR REPLACE INTO suppliers (number, name, mail) VALUES (?, ?, ?)');
        foreach (Words::CONTRACTORS as $contractor) {
            $row->execute([self::number($contractor), $contractor, self::mail($contractor)]);
        }
    }
}
