<?php

declare(strict_types=1);

namespace Fasti\Core\Finding\Check;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Severity;
use Fasti\Core\Join\NameWords;

final class TimeNamedText implements CatalogCheck
{
    public function name(): string
    {
        return 'date-as-text';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'Text is not in the order of days, and nothing keeps 31 February out.';
    }

    public function mend(): string
    {
        return 'Have it kept as a date; until then, say in its meaning how a day is written.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Checked::have($count, 'field').' the name of a day or an instant, and the type of a text';
    }

    private const ENDS = ['date', 'datetime', 'timestamp', 'until', 'since'];

    public function of(Catalog $catalog): iterable
    {
        $dialect = Dialects::ofCatalog($catalog);
        foreach (Checked::tables($catalog) as $table) {
            foreach ($table->columns as $column) {
                $type = $dialect->typeOf($column);
                $words = NameWords::of($column->name);
                $last = $words[\count($words) - 1] ?? '';
                $named = \in_array($last, self::ENDS, true) || \in_array($last, ['on', 'at'], true) && \count($words) > 1;
                if ($named && $type->isPlain(TypeFamily::Text) && [] === $type->members && null !== $type->length && $type->length >= 6 && $type->length <= 40
                    && 'files' !== $dialect->name()) {
                    yield new Finding('', 'Its name is that of a day or an instant, but it is kept as text', $table->place(), $column->name);
                }
            }
        }
    }
}
