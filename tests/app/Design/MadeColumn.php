<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Design;

/** A field of a made-up table. */
final class MadeColumn
{
    /** What it was called before; '' for one that has come since. */
    public string $was;
    public ?string $default = null;
    /** @var list<string> the values that it may hold */
    public array $list = [];
    /** What it is computed of, and how; '' for one that is not. */
    public string $of = '';
    public string $computed = '';

    public function __construct(public string $name, public string $type, public bool $null)
    {
        $this->was = $name;
    }

    public function isNumber(): bool
    {
        return \in_array($this->type, ['small', 'int', 'big', 'dec62', 'dec103'], true);
    }

    /** A name that constraints keep while names change. */
    public function steady(): string
    {
        return '' === $this->was ? $this->name : $this->was;
    }
}
