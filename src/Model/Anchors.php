<?php

declare(strict_types=1);

namespace Fasti\Model;

use Twig\Attribute\AsTwigFilter;

/** Names of parts of a model as parts of addresses: letters, digits and dashes, different for different names. */
final class Anchors
{
    #[AsTwigFilter('anchored')]
    public static function of(string $name): string
    {
        $plain = trim((string) preg_replace('/[^A-Za-z0-9_]+/', '-', $name), '-');

        return str_replace('-', ' ', $plain) === $name ? $plain : $plain.'-'.hash('crc32b', $name);
    }
}
