<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Golden;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Trigger;

/** Every property in which two catalogs differ: what a server has, and what a script of it says. */
final class Compared
{
    /** @return list<string> */
    public static function catalogs(Catalog $live, Catalog $script): array
    {
        $a = self::plain($live);
        $b = self::plain($script);
        foreach ($a as $name => &$table) {
            if (\is_array($table) && \is_array($b[$name] ?? null) && null === ($b[$name]['collation'] ?? null)) {
                // A script that says no collation leaves it to the server.
                $table['collation'] = null;
            }
        }

        return [...self::diff($a, $b, ''), ...array_values(array_filter($script->notes, static fn (string $note): bool => str_contains($note, ', line ')))];
    }

    /** @return array<string, mixed> */
    private static function plain(Catalog $catalog): array
    {
        $plain = [];
        foreach ($catalog->tables as $table) {
            $bare = array_map(
                static fn (Trigger $trigger): Trigger => new Trigger($trigger->name, $trigger->timing, $trigger->event, $trigger->body),
                $table->triggers,
            );
            $form = OpenForm::of($table->with(rowEstimate: null, sizeBytes: null, triggers: $bare));
            if ($table->kind->isView()) {
                $form['definition'] = '';
                unset($form['storage'], $form['collation']);
                $form['columns'] = array_map(static fn ($c): array => ['name' => $c->name, 'type' => $c->type, 'comment' => $c->comment], $table->columns);
            }
            $plain[$table->schema.'.'.$table->name] = $form;
        }
        ksort($plain, \SORT_STRING);
        foreach ($catalog->routines as $i => $routine) {
            $plain["routine $i"] = array_diff_key(OpenForm::of($routine), ['statement' => true]);
        }

        return $plain;
    }

    /** @return list<string> */
    private static function diff(mixed $a, mixed $b, string $path): array
    {
        if (!\is_array($a) || !\is_array($b)) {
            return $a === $b
                ? []
                : [$path.': live '.json_encode($a, \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE)
                    .', script '.json_encode($b, \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE)];
        }
        $a = self::named($a);
        $b = self::named($b);
        $found = [];
        if (array_keys($a) !== array_keys($b) && [] === array_diff_key($a, $b) && [] === array_diff_key($b, $a)) {
            $found[] = $path.': order live '.implode(',', array_keys($a)).' script '.implode(',', array_keys($b));
        }
        foreach ($a + $b as $key => $_) {
            array_push($found, ...self::diff($a[$key] ?? null, $b[$key] ?? null, $path.'/'.$key));
        }

        return $found;
    }

    /**
     * @param array<mixed> $list
     *
     * @return array<mixed>
     */
    private static function named(array $list): array
    {
        $byName = [];
        foreach ($list as $key => $value) {
            $name = \is_int($key) && \is_array($value) && \is_string($value['name'] ?? null) ? $value['name'] : $key;
            $byName[isset($byName[$name]) ? $name.'#'.$key : $name] = $value;
        }

        return $byName;
    }
}
