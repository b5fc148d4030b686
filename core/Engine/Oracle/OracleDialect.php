<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Oracle;

use Fasti\Core\Dialect\Capabilities;
use Fasti\Core\Dialect\NativeTypes;
use Fasti\Core\Dialect\ScriptOptions;
use Fasti\Core\Dialect\ScriptSql;
use Fasti\Core\Dialect\Telltale;
use Fasti\Core\Engine\Standard\UnreachedDialect;

/** Oracle Database: scripts are written for it. */
final class OracleDialect extends UnreachedDialect
{
    /** Type → what its users say of it. */
    protected const UNUSUAL = [
        'long' => 'it is given up by the engine, which cannot compare or search it',
        'long raw' => 'it is given up by the engine, which cannot compare or search it',
        'bfile' => 'its values are files outside of the database',
        'rowid' => 'it is the place of a row, which changes',
        'urowid' => 'it is the place of a row, which changes',
        'anydata' => 'each value has a type of its own',
    ];

    public function name(): string
    {
        return 'oracle';
    }

    public function label(): string
    {
        return 'Oracle Database';
    }

    public function rank(): int
    {
        return 60;
    }

    public function telltales(): array
    {
        return [new Telltale('/\bN?VARCHAR2\b|\bNUMBER\s*\(|^\/\s*$|\bENABLE\s+VALIDATE\b/im', 3, 'words of Oracle Database')];
    }

    public function writes(): bool
    {
        return true;
    }

    public function writing(ScriptOptions $options = new ScriptOptions()): ScriptSql
    {
        return new OracleScriptSql($this, $options);
    }

    public function types(): NativeTypes
    {
        return new OracleTypes($this);
    }

    public function capabilities(): Capabilities
    {
        return new Capabilities(refuses: false, partsCompared: true);
    }
}
