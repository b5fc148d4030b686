<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Design;

/** A made-up table. */
final class MadeTable
{
    /** What it was called before; '' for one that has come since. */
    public string $was;
    /** @var list<MadeColumn> */
    public array $cols = [];
    /** @var list<list<string>> */
    public array $uniques = [];
    /** @var array<string, string> */
    public array $checks = [];
    public ?string $index = null;

    public function __construct(public string $name, public ?string $parent)
    {
        $this->was = $name;
    }

    public function col(string $name): ?MadeColumn
    {
        foreach ($this->cols as $col) {
            if ($col->name === $name) {
                return $col;
            }
        }

        return null;
    }

    public function steady(): string
    {
        return '' === $this->was ? $this->name : $this->was;
    }

    public function without(MadeColumn $gone): void
    {
        $this->cols = array_values(array_filter($this->cols, static fn (MadeColumn $one): bool => $one !== $gone));
        $this->forget($gone->name);
        $this->index = $this->index === $gone->name ? null : $this->index;
    }

    /** No condition and no key speaks of it any more. */
    public function forget(string $name): void
    {
        $this->checks = array_filter($this->checks, static fn (string $one): bool => 1 !== preg_match('/\b'.$name.'\b/', $one));
        $this->uniques = array_values(array_filter($this->uniques, static fn (array $one): bool => !\in_array($name, $one, true)));
    }

    public function renamed(string $old, string $new): void
    {
        $in = static fn (string $sql): string => (string) preg_replace('/\b'.$old.'\b/', $new, $sql);
        $this->checks = array_map($in, $this->checks);
        $this->index = null === $this->index ? null : $in($this->index);
        $this->uniques = array_map(static fn (array $one): array => array_map($in, $one), $this->uniques);
        foreach ($this->cols as $col) {
            $col->of = $in($col->of);
            $col->computed = $in($col->computed);
        }
    }
}
