<?php

return [
    'driver' => env('SESSION_DRIVER', 'changed'),
    'lifetime' => 60 * 24 * 400,
    // How long a session is good is for the office to say (App\People\Sessions); files of it are kept at most so long.
    // Who wants to stay signed in says so when signing in.
    'expire_on_close' => true,
    'encrypt' => false,
    'files' => storage_path('framework/sessions'),
    // The carer takes away what is over; nobody waits for it.
    'lottery' => [0, 1],
    'cookie' => 'brenvic_session',
    'path' => '/',
    'domain' => null,
    'secure' => env('SESSION_SECURE_COOKIE'),
    'http_only' => true,
    'same_site' => 'lax',
    'partitioned' => false,
];
