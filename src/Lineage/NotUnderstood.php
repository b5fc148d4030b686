<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Core\Finding\Check;
use Fasti\Core\Finding\Severity;
use Fasti\Core\Sql\Reading;
use Fasti\Core\Sql\Unknown;
use Fasti\Core\Wording\Amount;
use Fasti\Finding\Noticed;
use Symfony\Component\DependencyInjection\Attribute\AutoconfigureTag;

/** Something in the query of a view was not understood: what it reads is gone, or it is said in words that are not known. */
#[AutoconfigureTag('fasti.check')]
final class NotUnderstood implements Check
{
    private const SHOWN = 3;

    public function name(): string
    {
        return 'view-not-understood';
    }

    public function severity(): Severity
    {
        return Severity::Fault;
    }

    public function why(): string
    {
        return 'What its fields come from is known only in part. If a table or field is gone, the view no longer works.';
    }

    public function mend(): string
    {
        return 'Read its steps, where the place is marked, and describe by hand what was not read.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Amount::of($count, 'view').' hold something that was not understood';
    }

    public function of(int $view, Reading $reading): Noticed
    {
        $words = array_map(
            static fn (Unknown $unknown): string => \sprintf('%s (line %s)', $unknown->what, str_replace(':', ', column ', $unknown->place($reading->text))),
            \array_slice($reading->unknown, 0, self::SHOWN),
        );
        $more = \count($reading->unknown) - \count($words);

        return new Noticed($view, null, 'Its query is understood only in part. '.implode('. ', $words).($more > 0 ? \sprintf('. And %d more', $more) : '').'.');
    }
}
