<?php

declare(strict_types=1);

/*
 * Draws the house from its code: the folders of core/ and app/, and which names which. Folders that name each other are drawn
 * with a thick line. `php docs/house.php | dot -Tsvg >docs/house.svg` (dot is Debian's graphviz); with --pairs it lists the
 * folders that name each other.
 */

$root = dirname(__DIR__);
$uses = [];
foreach (['core' => ["{$root}/core/src", 'Brenvic\\Core\\'], 'app' => ["{$root}/app", 'App\\']] as $house => [$folder, $prefix]) {
    foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator($folder, FilesystemIterator::SKIP_DOTS)) as $file) {
        $path = substr((string) $file, strlen($folder) + 1);
        if (! str_ends_with($path, '.php') || ! str_contains($path, '/')) {
            continue;
        }
        $from = "{$house}/".explode('/', $path)[0];
        $uses[$from] ??= [];
        preg_match_all('/\b(App|Brenvic\\\\Core)\\\\(\w+)\\\\\w+/', (string) file_get_contents((string) $file), $named, PREG_SET_ORDER);
        foreach ($named as [, $of, $room]) {
            $to = ($of === 'App' ? 'app' : 'core')."/{$room}";
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
if (in_array('--pairs', $argv, true)) {
    foreach ($pairs as [$a, $b]) {
        echo "{$a} names {$b} {$uses[$a][$b]} times, and is named by it {$uses[$b][$a]} times\n";
    }
    exit;
}
$name = static fn (string $room): string => '"'.$room.'"';
echo "digraph house {\n  rankdir=TB; nodesep=0.25; ranksep=0.6; bgcolor=\"white\";\n";
echo "  node [shape=box, style=filled, fillcolor=\"#f6f1e7\", color=\"#b9ab93\", fontname=\"DejaVu Sans\", fontsize=11];\n";
echo "  edge [color=\"#8f8574\", arrowsize=0.5];\n";
foreach (['app', 'core'] as $house) {
    echo "  subgraph cluster_{$house} {\n    label=\"{$house}/\"; fontname=\"DejaVu Sans\"; color=\"#d8ccb8\";\n";
    foreach (array_keys($uses) as $room) {
        if (str_starts_with($room, "{$house}/")) {
            echo "    {$name($room)} [label=\"".substr($room, strlen($house) + 1)."\"];\n";
        }
    }
    echo "  }\n";
}
foreach ($uses as $from => $all) {
    foreach (array_keys($all) as $to) {
        $isBoth = isset($uses[$to][$from]);
        if (! isset($uses[$to]) || ($isBoth && $from > $to)) {
            continue;
        }
        $isDown = str_starts_with($from, 'app/') && str_starts_with($to, 'core/');
        $style = $isBoth ? ' [dir=both, penwidth=2, color="#a13d24"]' : ($isDown ? ' [color="#e3dccd"]' : '');
        echo "  {$name($from)} -> {$name($to)}{$style};\n";
    }
}
echo "}\n";
