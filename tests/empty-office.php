<?php

declare(strict_types=1);

/** Makes an office of its own in BRENVIC_DATA: the demo’s design and people, and no document; for tests of whole processes. */

use Demo\TrustDesign;
use Illuminate\Contracts\Console\Kernel;

require dirname(__DIR__).'/vendor/autoload.php';
$application = require dirname(__DIR__).'/bootstrap/app.php';
$kernel = $application->make(Kernel::class);
$kernel->bootstrap();
$kernel->call('migrate', ['--force' => true]);
TrustDesign::install();
