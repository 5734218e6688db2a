<?php

declare(strict_types=1);

uses(Tests\TestCase::class)->in('Feature');
