<?php

declare(strict_types=1);

return (new PhpCsFixer\Config())
    ->setRiskyAllowed(true)
    ->setRules([
        '@Symfony' => true,
        '@Symfony:risky' => true,
        'declare_strict_types' => true,
        'concat_space' => ['spacing' => 'none'],
        'phpdoc_align' => false,
        'phpdoc_to_comment' => false,
        'phpdoc_summary' => false,
        'single_line_throw' => false,
        'global_namespace_import' => false,
        'native_function_invocation' => ['include' => ['@compiler_optimized'], 'scope' => 'namespaced', 'strict' => true],
        'multiline_whitespace_before_semicolons' => false,
    ])
    ->setCacheFile(__DIR__.'/var/php-cs-fixer.cache')
    ->setFinder(PhpCsFixer\Finder::create()->in([__DIR__.'/core', __DIR__.'/src', __DIR__.'/demo', __DIR__.'/tests', __DIR__.'/bench', __DIR__.'/migrations', __DIR__.'/config', __DIR__.'/public'])->name('*.php')->notPath('reference.php')->exclude('build'));
