<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Wording;

use Fasti\Core\Wording\Enumeration;
use PHPUnit\Framework\TestCase;

final class EnumerationTest extends TestCase
{
    public function testThingsAreListedAsInASentence(): void
    {
        self::assertSame(['', 'a', 'a and b', 'a, b and c', 'a or b'], [
            Enumeration::of([]), Enumeration::of(['a']), Enumeration::of(['a', 'b']), Enumeration::of(['x' => 'a', 'y' => 'b', 'z' => 'c']),
            Enumeration::of(['a', 'b'], 'or'),
        ]);
    }
}
