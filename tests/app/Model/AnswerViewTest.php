<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Model;

use Fasti\Core\Model\Asking;
use Fasti\Core\Model\Sorting;
use Fasti\Core\Model\Trial;
use Fasti\Model\AnswerView;
use Fasti\Tests\Core\Model\River;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** How an answer reads. */
final class AnswerViewTest extends TestCase
{
    #[TestWith(['1234.5', '', '1,234.5'])]
    #[TestWith(['1234.5', '0', '1,235'])]
    #[TestWith(['0.123', '0.0 %', '12.3 %'])]
    #[TestWith(['0.5', '0%', '50 %'])]
    #[TestWith(['-1234.5', '0.00 €', '-1,234.50 €'])]
    #[TestWith(['-1234.5', '£0.00', '-£1,234.50'])]
    #[TestWith(['3', '0 kr', '3 kr'])]
    #[TestWith(['3.25', 'as 1', '3.25'])]
    public function testANumberByItsFormat(string $value, string $format, string $said): void
    {
        self::assertSame($said, AnswerView::formatted($value, $format));
    }

    public function testTheOthersAreSaidWithHowManyTheyAre(): void
    {
        $trial = new Trial(
            ['individuals'], ['reach', 'station'], order: [new Sorting('individuals', true)], limit: 1, each: ['reach'], others: true, subtotals: true,
        );
        $view = AnswerView::of((new Asking(River::rows()))->answer(River::planner()->plan($trial)));

        self::assertSame([['lower', 'mill', '2'], ['upper', 'bridge', '5'], ['none', 'ford', '7'], ['none', 'the other 1', '1']], $view->shown);
        self::assertSame(AnswerView::OTHERS, $view->rows[3][1]);
        self::assertSame([['none', '', '8']], $view->subtotals[3] ?? []);
        $hidden = AnswerView::of((new Asking(River::rows()))->answer(River::planner()->plan($trial)), [0 => true]);
        self::assertSame([[AnswerView::HIDDEN, '', '2']], $hidden->subtotals[0] ?? []);
        self::assertEquals($view, AnswerView::fromArray($view->toArray()));
    }
}
