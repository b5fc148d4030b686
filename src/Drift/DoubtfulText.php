<?php

declare(strict_types=1);

namespace Fasti\Drift;

use Fasti\Core\Finding\Check;
use Fasti\Core\Finding\Severity;
use Fasti\Core\Wording\Amount;
use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** A change of the source has made a text doubtful. It stays until the text is written anew, or somebody says that it holds. */
#[AutoconfigureTag('fasti.check')]
final class DoubtfulText implements Check
{
    public const NAME = 'doubtful-text';

    public function name(): string
    {
        return self::NAME;
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'The source has changed since it was written. Write it anew, or say that it still holds.';
    }

    public function mend(): string
    {
        return 'Read the text against what has changed, and write it anew or say that it still holds.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : \sprintf('%s since the source has changed: %s', Amount::of($count, 'text').' are doubtful', lcfirst($one));
    }
}
