<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Join;

use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\End;
use Fasti\Core\Join\JoinRole;
use Fasti\Core\Join\Sentence;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;

/** In which role a row refers to another: what tells two joins between the same tables apart. */
final class JoinRoleTest extends TestCase
{
    /** @param list<array{string, string}> $pairs */
    #[TestWith([[['white_id', 'id']], 'player', 'as white'])]
    #[TestWith([[['parent_job_id', 'id']], 'jobs', 'as parent'])]
    #[TestWith([[['last_seen_module_id', 'id']], 'job_modules', 'as last seen'])]
    #[TestWith([[['symbol_id_base', 'symbol_id']], 'symbol', 'as base'])]
    #[TestWith([[['device_serial', 'serial']], 'device', ''])]
    #[TestWith([[['job_id', 'id']], 'jobs', ''])]
    #[TestWith([[['speciesCode', 'code']], 'species', ''])]
    #[TestWith([[['stn_ref', 'id']], 'station', ''])]
    #[TestWith([[['flag', 'code']], 'quality_flag', ''])]
    #[TestWith([[['site', 'id']], 'station', 'as site'])]
    #[TestWith([[['fk_buyer', 'id']], 'party', 'as buyer'])]
    #[TestWith([[['station_id', 'station_id']], 'station', ''])]
    #[TestWith([[['sample_1', 'sample_name']], 'samples', 'as sample 1'])]
    #[TestWith([[['replaces_id', 'id']], 'use', '(replaces)'])]
    #[TestWith([[['approved_by', 'id']], 'person', '(approved by)'])]
    #[TestWith([[['lab_code', 'lab_code'], ['method_code', 'method_code']], 'method', ''])]
    #[TestWith([[['from_auth', 'auth'], ['from_code', 'code']], 'gauge', '(from)'])]
    #[TestWith([[['from_auth', 'auth'], ['to_code', 'code']], 'gauge', ''])]
    #[TestWith([[], 'gauge', ''])]
    public function testTheRoleIsWhatFieldsSayBesidesTheTableAndItsKey(array $pairs, string $to, string $role): void
    {
        self::assertSame($role, JoinRole::of($pairs, $to));
    }

    public function testItIsSaidWhereNoVerbSaysMore(): void
    {
        $ends = new Cardinality(End::NoneOrMore, End::One);

        self::assertSame('A game refers to exactly one player as white.', (string) Sentence::forth('Game', 'Player', $ends, role: 'as white'));
        self::assertSame('A player is referred to by any number of games as white.', (string) Sentence::back('Game', 'Player', $ends, role: 'as white'));
        self::assertSame('A game is at exactly one player as white.', (string) Sentence::forth('Game', 'Player', $ends, 'is at', role: 'as white'));
        self::assertSame('A player has any number of games as white.', (string) Sentence::back('Game', 'Player', $ends, 'has', role: 'as white'));
        self::assertSame('A game is opened by exactly one player.', (string) Sentence::forth('Game', 'Player', $ends, 'is opened by', role: 'as white'));
        self::assertSame('A player opens any number of games.', (string) Sentence::back('Game', 'Player', $ends, 'opens', role: 'as white'));
    }
}
