<?php

declare(strict_types=1);

arch('the core knows nothing of the framework, the application or its tables')
    ->expect('Brenvic\Core')
    ->not->toUse(['Illuminate', 'App', 'Demo', 'Bench', 'Laravel', 'PDO', 'PDOStatement']);

arch('the core is strict, and its classes are final unless they are made to be implemented')
    ->expect('Brenvic\Core')
    ->toUseStrictTypes();

arch('nothing is left that was only for looking')
    ->expect(['Brenvic\Core', 'App', 'Demo'])
    ->not->toUse(['dd', 'dump', 'var_dump', 'ray', 'die']);

arch('the application reaches the demo from nowhere')
    ->expect('App')
    ->not->toUse('Demo');
