<?php

declare(strict_types=1);

use Rector\CodeQuality\Rector\Expression\InlineIfToExplicitIfRector;
use Rector\Config\RectorConfig;

return RectorConfig::configure()
    ->withPaths([__DIR__.'/core', __DIR__.'/src', __DIR__.'/demo', __DIR__.'/tests', __DIR__.'/bench', __DIR__.'/migrations', __DIR__.'/config', __DIR__.'/public'])
    ->withCache(__DIR__.'/var/rector')
    ->withRules([InlineIfToExplicitIfRector::class]);
