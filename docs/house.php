<?php

declare(strict_types=1);

/*
 * Draws the house from its code: the folders of app/ (or of core/), and which names which. Folders that name each other are
 * drawn with a thick line. `php docs/house.php app | dot -Tsvg >docs/house-app.svg`, and the same with core (dot is Debian's
 * graphviz). With --pairs it lists the folders that name each other.
 */

$root = dirname(__DIR__);
$isPairs = in_array('--pairs', $argv, true);
$uses = [];
foreach (['core' => ["{$root}/core/src", 'Brenvic\\Core\\'], 'app' => ["{$root}/app", 'App\\']] as $house => [$folder, $prefix]) {
    foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator($folder, FilesystemIterator::SKIP_DOTS)) as $file) {
        $path = substr((string) $file, strlen($folder) + 1);
        if (! str_ends_with($path, '.php') || ! str_contains($path, '/')) {
            continue;
        }
        // A folder within a folder is a room of its own when pairs are sought, and part of it in the picture.
        $room = static fn (string $path): string => $isPairs ? dirname($path) : explode('/', $path)[0];
        $from = "{$house}/{$room($path)}";
        $uses[$from] ??= [];
        preg_match_all('/(?<!namespace )\b(App|Brenvic\\\\Core)\\\\((?:\w+\\\\)+\w+)/', (string) file_get_contents((string) $file), $named, PREG_SET_ORDER);
        foreach ($named as [, $of, $class]) {
            $to = ($of === 'App' ? 'app' : 'core').'/'.$room(strtr($class, '\\\\', '/'));
            if ($to !== $from) {
                $uses[$from][$to] = 1 + ($uses[$from][$to] ?? 0);
            }
        }
    }
}
$pairs = [];
foreach ($uses as $from => $all) {
    foreach (array_keys($all) as $to) {
        if ($from < $to && isset($uses[$to][$from])) {
            $pairs[] = [$from, $to];
        }
    }
}
if ($isPairs) {
    foreach ($pairs as [$a, $b]) {
        echo "{$a} names {$b} {$uses[$a][$b]} times, and is named by it {$uses[$b][$a]} times\n";
    }
    exit;
}
/**
 * Without the arrows that a longer way says already, and without those to rooms that nearly all others name.
 *
 * @param  array<string, array<string, int>>  $uses
 * @param  list<string>  $common
 * @return array<string, list<string>>
 */
function reduced(array $uses, string $house, array $common): array
{
    $inside = static fn (string $room): bool => str_starts_with($room, "{$house}/") && isset($uses[$room]) && ! in_array($room, $common, true);
    $arrows = [];
    foreach (array_filter(array_keys($uses), $inside) as $from) {
        $arrows[$from] = array_values(array_filter(array_keys($uses[$from]), $inside));
    }
    $reach = static function (string $from, string $to, bool $isDirect) use (&$reach, $arrows, $uses): bool {
        static $open = [];
        foreach ($arrows[$from] ?? [] as $next) {
            if ($next === $to && $isDirect) {
                continue;
            }
            // Rooms that name each other would lead in a circle.
            if (isset($open[$next]) || isset($uses[$next][$from])) {
                continue;
            }
            $open[$next] = true;
            $found = $next === $to || $reach($next, $to, false);
            unset($open[$next]);
            if ($found) {
                return true;
            }
        }

        return false;
    };
    $left = [];
    foreach ($arrows as $from => $all) {
        $left[$from] = array_values(array_filter($all, static fn (string $to): bool => isset($uses[$to][$from]) || ! $reach($from, $to, true)));
    }

    return $left;
}

$house = in_array('core', $argv, true) ? 'core' : 'app';
$common = $house === 'app' ? ['app/Models', 'app/Support', 'app/Providers', 'app/Console', 'app/Http'] : [];
$name = static fn (string $room): string => '"'.explode('/', $room)[1].'"';
echo "digraph house {\n  rankdir=TB; nodesep=0.3; ranksep=0.45; bgcolor=\"white\";\n";
echo "  node [shape=box, style=filled, fillcolor=\"#f6f1e7\", color=\"#b9ab93\", fontname=\"DejaVu Sans\", fontsize=12, height=0.3];\n";
echo "  edge [color=\"#8f8574\", arrowsize=0.6];\n";
foreach (reduced($uses, $house, $common) as $from => $all) {
    echo "  {$name($from)};\n";
    foreach ($all as $to) {
        $isBoth = isset($uses[$to][$from]);
        if (! $isBoth || $from < $to) {
            echo "  {$name($from)} -> {$name($to)}".($isBoth ? ' [dir=both, penwidth=2, color="#a13d24"]' : '').";\n";
        }
    }
}
echo "}\n";
