<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Engine;

use Fasti\Core\Dialect\Surroundings;
use Fasti\Core\Engine\MySql\MySqlGrammar;
use Fasti\Core\Engine\MySql\MySqlWriting;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

final class MySqlWritingTest extends TestCase
{
    #[TestWith(["a  member of\n('x  y')", "a member of ('x  y')"])]
    #[TestWith(['`a  b` member of ("x""  y")', '`a  b` member of ("x""  y")'])]
    #[TestWith(["a member of ('it\\'s  x',  b)", "a member of ('it\\'s  x', b)"])]
    #[TestWith(["json_value(a, '$.x'  returning int)", "json_value(a, '$.x' returning int)"])]
    #[TestWith(["json_value(a, '$.x' default 5 on empty)", "json_value(a, '$.x' default 5 on empty)"])]
    public function testWhatIsNotUnderstoodStandsAsItWasButForBlanksBetweenWords(string $sql, string $written): void
    {
        self::assertSame($written, (new MySqlWriting(new MySqlGrammar()))->expression($sql, new Surroundings()));
    }
}
