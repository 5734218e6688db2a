<?php

return [
    'default' => 'local',
    // Documents leave only through the application's own routes.
    'disks' => ['local' => ['driver' => 'local', 'root' => storage_path('app'), 'serve' => false]],
];
