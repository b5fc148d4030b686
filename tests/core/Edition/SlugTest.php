<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Edition;

use Fasti\Core\Edition\Slug;
use PHPUnit\Framework\TestCase;

final class SlugTest extends TestCase
{
    public function testPlainNamesStayAsTheyAre(): void
    {
        self::assertSame('reading_2023', Slug::of('reading_2023'));
    }

    public function testNoTwoNamesShareAnAddressNotEvenWhereCaseIsFolded(): void
    {
        $names = [
            'order', 'Order', 'ORDER', 'order ', 'or/der', 'or-der', '..', '.', '../x', 'index', 'con', 'größe', 'grosse', '顧客', '', 'a%2fb', 'a b', 'a-b',
            'a-'.substr(hash('sha256', 'a b'), 0, 8), str_repeat('x', 200), str_repeat('x', 201),
        ];
        $slugs = array_map(static fn (string $name): string => strtolower(Slug::of($name)), $names);

        self::assertSame($slugs, array_unique($slugs));
        foreach ($slugs as $slug) {
            self::assertMatchesRegularExpression('/^[a-z0-9_][a-z0-9_-]{0,68}$/', $slug);
        }
    }
}
