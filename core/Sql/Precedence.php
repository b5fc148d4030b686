<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

/** How tightly operators bind, from the loosest: those of the standard, with what engines share. A dialect overrides its own. */
final class Precedence
{
    public const OR = 10;
    public const AND = 20;
    public const NOT = 30;
    public const COMPARED = 50;
    public const MATCHED = 60;
    public const OTHER = 70;
    public const ADDED = 80;
    public const MULTIPLIED = 90;
    public const SIGNED = 120;
    public const CAST = 150;

    /** Signs and words that stand between two values. */
    public const BETWEEN_TWO = [
        'OR' => self::OR, 'XOR' => 15, 'AND' => self::AND, '&&' => self::OTHER, '||' => self::OTHER,
        '=' => self::COMPARED, '<' => self::COMPARED, '>' => self::COMPARED, '<=' => self::COMPARED, '>=' => self::COMPARED, '<>' => self::COMPARED,
        '!=' => self::COMPARED, '^=' => self::COMPARED, '!<' => self::COMPARED, '!>' => self::COMPARED, '<=>' => self::COMPARED, '==' => self::COMPARED,
        '+' => self::ADDED, '-' => self::ADDED, '*' => self::MULTIPLIED, '/' => self::MULTIPLIED, '%' => self::MULTIPLIED, 'DIV' => self::MULTIPLIED,
        'MOD' => self::MULTIPLIED, '^' => 100, '**' => 100, ':=' => 5,
    ];
    /** Words that stand between two values, or after one, and bind in ways of their own. */
    public const WORDS = [
        'IS' => 40, 'ISNULL' => 40, 'NOTNULL' => 40, 'LIKE' => self::MATCHED, 'ILIKE' => self::MATCHED, 'SIMILAR' => self::MATCHED, 'REGEXP' => self::MATCHED,
        'RLIKE' => self::MATCHED, 'GLOB' => self::MATCHED, 'MATCH' => self::MATCHED, 'IN' => self::MATCHED, 'BETWEEN' => self::MATCHED,
        'OVERLAPS' => self::MATCHED, 'SOUNDS' => self::COMPARED, 'COLLATE' => 115, 'AT' => 110, 'MEMBER' => self::MATCHED,
    ];
}
