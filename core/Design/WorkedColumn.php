<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Dialect\GeneralType;

/** A field of a table that follows from a design, still in general words. */
final class WorkedColumn
{
    /** Other settings of the rule that brought it would take it away; null for what somebody wrote. */
    public ?Why $why = null;
    public ?string $given = null;
    public bool $givenSql = false;
    public bool $whenMade = false;
    public bool $whenChanged = false;
    public bool $numbered = false;
    public ?string $computed = null;
    public bool $whenRead = false;
    public string $meaning = '';
    public ?string $column = null;
    public ?string $charset = null;
    public ?string $sorted = null;
    /** @var list<Limit> */
    public array $limits = [];
    public ?Attribute $attribute = null;

    public function __construct(public string $name, public GeneralType $type, public bool $required = false)
    {
    }

    public static function of(Attribute $attribute): self
    {
        $column = new self($attribute->name, $attribute->type, $attribute->required);
        $column->given = $attribute->given;
        $column->givenSql = $attribute->givenSql;
        $column->whenMade = $attribute->whenMade;
        $column->whenChanged = $attribute->whenChanged;
        $column->numbered = $attribute->numbered;
        $column->computed = $attribute->computed;
        $column->whenRead = $attribute->whenRead;
        $column->meaning = $attribute->meaning;
        $column->column = $attribute->column;
        $column->charset = $attribute->charset;
        $column->sorted = $attribute->sorted;
        $column->limits = $attribute->limits;
        $column->attribute = $attribute;

        return $column;
    }
}
