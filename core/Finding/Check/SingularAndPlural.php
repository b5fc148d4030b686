<?php

declare(strict_types=1);

namespace Fasti\Core\Finding\Check;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Finding\CatalogCheck;
use Fasti\Core\Finding\Checked;
use Fasti\Core\Finding\Finding;
use Fasti\Core\Finding\Severity;
use Fasti\Core\Join\NameWords;
use Fasti\Core\Wording\Noun;

final class SingularAndPlural implements CatalogCheck
{
    public function name(): string
    {
        return 'singular-and-plural';
    }

    public function severity(): Severity
    {
        return Severity::Note;
    }

    public function why(): string
    {
        return 'The name of a table cannot be guessed.';
    }

    public function mend(): string
    {
        return 'Say in the register which is meant; new tables follow it.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Checked::have($count, 'table').(str_ends_with($group,
            'plural') ? ' a plural as name, while most are in the singular' : ' a singular as name, while most are in the plural');
    }

    public function of(Catalog $catalog): iterable
    {
        $found = [];
        foreach (Checked::tables($catalog) as $table) {
            $words = NameWords::of($table->name);
            $last = $words[\count($words) - 1] ?? '';
            // What reads alike in both, or is no noun that is counted, says nothing.
            if (\strlen($last) > 3 && Noun::plural(Noun::singular($last)) !== Noun::singular($last) && 1 === preg_match('/^[a-z]+$/', $last)) {
                $plural = Noun::singular($last) !== $last && Noun::plural(Noun::singular($last)) === $last;
                $found[$table->schema][$plural ? 'plural' : 'singular'][] = $table;
            }
        }
        foreach ($found as $schema => $kinds) {
            $plurals = \count($kinds['plural'] ?? []);
            $singulars = \count($kinds['singular'] ?? []);
            $fewer = $plurals < $singulars ? 'plural' : 'singular';
            if (min($plurals, $singulars) < 1 || min($plurals, $singulars) > 0.4 * ($plurals + $singulars)) {
                continue;
            }
            foreach ($kinds[$fewer] ?? [] as $table) {
                yield new Finding($schema.' '.$fewer, \sprintf('A %s as name, while most tables of %s are named in the other way', $fewer,
                    '' === $schema ? 'the schema' : $schema), $table->place());
            }
        }
    }
}
