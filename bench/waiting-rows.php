<?php

declare(strict_types=1);

/* Fills what waits for the clerk up to a number: copies of what waits already. php bench/waiting-rows.php DATA ROWS */

[, $data, $rows] = $argv;
$database = new PDO("sqlite:{$data}/brenvic.sqlite");
$database->exec('PRAGMA busy_timeout = 15000');
$ask = static fn (string $sql): array => ($database->query($sql) ?: throw new RuntimeException($sql))->fetchAll(PDO::FETCH_COLUMN);
$list = implode(', ', array_diff($ask("SELECT name FROM pragma_table_info('documents')"), ['id', 'ref']));
$database->beginTransaction();
$first = $ask("SELECT id FROM documents WHERE state = 'waiting' AND file_name LIKE 'letter-%' ORDER BY id LIMIT 1")[0];
$have = (int) $ask("SELECT COUNT(*) FROM documents WHERE state = 'waiting'")[0];
for ($i = $have; $i < (int) $rows; $i++) {
    $database->exec("INSERT INTO documents (ref, {$list}) SELECT 'W-{$i}', {$list} FROM documents WHERE id = {$first}");
}
$database->commit();
