<?php

return [
    'default' => 'daily',
    'channels' => [
        'daily' => [
            'driver' => 'daily',
            'path' => storage_path('logs/brenvic.log'),
            'level' => 'warning',
            'days' => 14,
            'permission' => 0600,
            'tap' => [App\Support\PlainLog::class],
        ],
    ],
];
