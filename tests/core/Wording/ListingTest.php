<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Wording;

use Fasti\Core\Wording\Listing;
use PHPUnit\Framework\TestCase;

final class ListingTest extends TestCase
{
    public function testThingsAreListedAsInASentence(): void
    {
        self::assertSame(
            ['', 'a', 'a and b', 'a, b and c', 'a or b'],
            [Listing::of([]), Listing::of(['a']), Listing::of(['a', 'b']), Listing::of(['x' => 'a', 'y' => 'b', 'z' => 'c']), Listing::of(['a', 'b'], 'or')],
        );
    }
}
