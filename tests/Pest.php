<?php

declare(strict_types=1);

use Tests\App\AppTestCase;
use Tests\Browser\BrowserTestCase;

pest()->extend(AppTestCase::class)->in('App');
pest()->extend(BrowserTestCase::class)->in('Browser');
