<?php

return [
    'default' => 'daily',
    'channels' => ['daily' => ['driver' => 'daily', 'path' => storage_path('logs/brenvic.log'), 'level' => 'warning', 'days' => 14]],
];
