<?php

declare(strict_types=1);

namespace Fasti;

use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\DataCheck;
use Symfony\Bundle\FrameworkBundle\Kernel\MicroKernelTrait;
use Symfony\Component\DependencyInjection\ContainerBuilder;
use Symfony\Component\HttpKernel\Kernel as BaseKernel;

final class Kernel extends BaseKernel
{
    use MicroKernelTrait;

    /** Checks are plain classes of the core; what they look at says how they are found. */
    protected function build(ContainerBuilder $container): void
    {
        $container->registerForAutoconfiguration(CatalogCheck::class)->addTag('fasti.catalog_check');
        $container->registerForAutoconfiguration(DataCheck::class)->addTag('fasti.data_check')->addTag('fasti.check');
    }
}
