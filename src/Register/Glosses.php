<?php

declare(strict_types=1);

namespace Fasti\Register;

use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;
use Twig\Attribute\AsTwigFilter;

final readonly class Glosses
{
    /** @param iterable<Gloss> $glosses */
    public function __construct(#[AutowireIterator(Gloss::class)] private iterable $glosses)
    {
    }

    #[AsTwigFilter('glossed', isSafe: ['html'])]
    public function html(string $html, ?Links $links, int $except = 0): string
    {
        if (null === $links || '' === $html) {
            return $html;
        }
        foreach ($this->glosses as $gloss) {
            $html = $gloss->html($html, $links, $except);
        }

        return $html;
    }
}
