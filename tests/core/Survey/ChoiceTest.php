<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Survey;

use Fasti\Core\Survey\Choice;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

final class ChoiceTest extends TestCase
{
    /** @return iterable<string, array{Choice, string, string, bool}> */
    public static function choices(): iterable
    {
        yield 'nothing chosen takes all' => [new Choice(), 'a', 'b', true];
        yield 'another schema' => [new Choice(['x']), 'a', 'b', false];
        yield 'schemas are told apart by case' => [new Choice(['A']), 'a', 'b', false];
        yield 'a pattern of any letters' => [new Choice([], ['samp*']), 'a', 'sample', true];
        yield 'the pattern is of the whole name' => [new Choice([], ['samp']), 'a', 'sample', false];
        yield 'one letter' => [new Choice([], ['reading_202?']), 'a', 'reading_2023', true];
        yield 'either case' => [new Choice([], ['ORDER*']), 'a', 'Order lines', true];
        yield 'with its schema' => [new Choice([], ['archive.*']), 'archive', 'x', true];
        yield 'with another schema' => [new Choice([], ['archive.*']), 'live', 'x', false];
        yield 'exclude wins' => [new Choice([], ['*'], ['tmp_*']), 'a', 'tmp_1', false];
        yield 'signs of regular expressions are letters' => [new Choice([], ['a+b(c)']), 's', 'a+b(c)', true];
        yield 'a dot in a table name' => [new Choice([], ['v1.0']), 's', 'v1.0', true];
        yield 'other scripts' => [new Choice([], ['größe*']), 's', 'GRÖSSE', false];
        yield 'letters with marks in either case' => [new Choice([], ['ÄPFEL']), 's', 'äpfel', true];
    }

    #[DataProvider('choices')]
    public function testTakes(Choice $choice, string $schema, string $name, bool $taken): void
    {
        self::assertSame($taken, $choice->takes($schema, $name));
    }
}
