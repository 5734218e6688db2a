<?php

return [
    'default' => 'sqlite',
    'connections' => [
        'sqlite' => [
            'driver' => 'sqlite',
            'database' => env('DB_DATABASE', env('BRENVIC_DATA', storage_path('data')).'/brenvic.sqlite'),
            'prefix' => '',
            'foreign_key_constraints' => true,
            'busy_timeout' => 15000,
            'journal_mode' => 'WAL',
            'synchronous' => 'NORMAL',
            // What is deleted is overwritten with zeros, for what is destroyed has to be gone from the file too.
            // The index is read in many small pieces: a page cache of 64 MB, and the file itself in memory.
            // Processes that answer many requests keep theirs, and what they have read of the file with it.
            'options' => [PDO::ATTR_PERSISTENT => (bool) env('BRENVIC_KEEP_CONNECTION', false)],
            'pragmas' => ['cache_size' => -64_000, 'mmap_size' => 4_294_967_296, 'temp_store' => 'memory', 'secure_delete' => 'on'],
        ],
    ],
    'migrations' => ['table' => 'migrations', 'update_date_on_publish' => true],
];
