<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Standard;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Dialect\Dialect;

/**
 * An engine whose servers are not reached from here: its structure comes in catalog sheets, and its types are read and said as those of the
 * standard are.
 */
abstract class UnreachedDialect extends Dialect
{
    /** @var array<string, string> type → what its users say of it */
    protected const UNUSUAL = [];

    private ?StandardDialect $standard = null;

    public function writes(): bool
    {
        return false;
    }

    public function unusual(Type $type): string
    {
        return static::UNUSUAL[$type->name] ?? '';
    }

    protected function type(string $written): Type
    {
        return $this->standard()->typeOf(new Column('', $written));
    }

    protected function inWords(Type $type): string
    {
        return $this->standard()->typeInWords(new Column('', $type->written));
    }

    private function standard(): StandardDialect
    {
        return $this->standard ??= new StandardDialect();
    }
}
