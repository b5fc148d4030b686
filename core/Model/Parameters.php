<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** What whoever asks a trial fills in: a value that is written "{year}", or "{year = 2025}" with what it is unless somebody says otherwise. */
final class Parameters
{
    private const PATTERN = '/^\{\s*([^={}]+?)\s*(?:=\s*([^{}]*?)\s*)?\}$/u';

    /** @return array<string, ?string> by name, in the order in which they stand: what each is; null where nobody has said it */
    public static function of(Trial $trial): array
    {
        $all = [];
        foreach ($trial->where as $condition) {
            $all += self::within($condition);
        }

        return $all;
    }

    /** @return array<string, ?string> */
    private static function within(Condition $condition): array
    {
        $all = [];
        foreach ($condition->values as $value) {
            if (1 === preg_match(self::PATTERN, $value, $m)) {
                $all += [$m[1] => '' === ($m[2] ?? '') ? null : $m[2]];
            }
        }
        foreach ($condition->of as $part) {
            $all += self::within($part);
        }

        return $all;
    }

    /**
     * The trial with values in their places.
     *
     * @throws ModelError where one is not filled in
     */
    public static function filled(Trial $trial): Trial
    {
        $all = self::of($trial);
        foreach ($all as $name => $value) {
            if (null === $value) {
                throw new ModelError(\sprintf('Say what “%s” is to be: the question leaves it open.', $name));
            }
        }

        return [] === $all ? $trial : $trial->with(where: array_map(
            static fn (Condition $one): Condition => self::replaced($one, static fn (string $name): string => (string) $all[$name]),
            $trial->where,
        ));
    }

    /** The trial as people read it: values in their places, and the names of those that are open. */
    public static function shown(Trial $trial): Trial
    {
        $all = self::of($trial);

        return $trial->with(where: array_map(
            static fn (Condition $one): Condition => self::replaced($one, static fn (string $name): string => $all[$name] ?? "any $name"),
            $trial->where,
        ));
    }

    /**
     * The trial with other values said, each still open to be changed.
     *
     * @param array<string, string> $values by name; what is not named stays as it is
     *
     * @throws ModelError where the trial has no such parameter
     */
    public static function said(Trial $trial, array $values): Trial
    {
        $all = self::of($trial);
        foreach (array_diff_key($values, $all) as $name => $value) {
            throw new ModelError(\sprintf('The question leaves nothing open that is called “%s”.%s', $name, [] === $all ? ''
                : ' It leaves open: '.implode(', ', array_keys($all)).'.'));
        }
        $written = static function (string $name) use ($all, $values): string {
            $value = trim($values[$name] ?? $all[$name] ?? '');
            if (1 === preg_match('/[{}]/', $value)) {
                throw new ModelError(\sprintf('“%s” holds a brace, which a value that is filled in must not.', $value));
            }

            return '' === $value ? "{{$name}}" : "{{$name} = $value}";
        };

        return $trial->with(where: array_map(static fn (Condition $one): Condition => self::replaced($one, $written), $trial->where));
    }

    /** @param \Closure(string): string $value */
    private static function replaced(Condition $condition, \Closure $value): Condition
    {
        return new Condition(
            $condition->what,
            $condition->test,
            array_map(static fn (string $one): string => 1 === preg_match(self::PATTERN, $one, $m) ? $value($m[1]) : $one, $condition->values),
            $condition->facts,
            array_map(static fn (Condition $one): Condition => self::replaced($one, $value), $condition->of),
        );
    }
}
