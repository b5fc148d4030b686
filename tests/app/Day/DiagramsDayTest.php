<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Day;

use Fasti\Diagram\Diagrams;

/** Diagrams: those that draw themselves, and one that is kept and worked on. */
final class DiagramsDayTest extends DayTestCase
{
    public function testDiagramsThatDrawThemselves(): void
    {
        $source = $this->mart->id();
        $station = self::entryId('station');
        $this->sees('/diagrams');
        $this->sees('/diagrams?q=mart');
        foreach (['', '?detail=all', '?names=identifiers&fold='.$station, '?schema=other', '?detail=none'] as $asked) {
            $this->sees("/diagrams/sources/$source$asked");
            $this->sees("/diagrams/entries/$station$asked");
        }
        $this->sees("/diagrams/entries/$station.svg?steps=2&detail=keys&beyond=".self::entryId('reach'));
        $this->sees("/diagrams/entries/$station.png");
        $this->sees("/diagrams/sources/$source.pdf?paper=A3");
        $this->sees("/diagrams/sources/$source.pdf?paper=B7");
        $this->sees('/diagrams/entries/99999');
        $this->sees("/diagrams/map/$source");
        $this->sees("/diagrams/map/$source?schema=main&entry=$station");
        $map = "/diagrams/map/$source";
        $this->sends($map, '/diagrams/map/region', [$station => [0, 0, 120, 80.5], 'x' => 'y', self::entryId('reach') => [1, 2, 3]]);
        $this->sends($map, '/diagrams/map/region', []);
        foreach (['about/99999', 'join/'.self::scalar('SELECT MIN(id) FROM entry_join'), "tablet/$station?inside=".self::entryId('reach'), "fields/$station",
            'fields/99999', "leads/$station", "leads/$station?inside=".self::entryId('reach').','.self::entryId('sighting'), 'add?q=', 'add?q=s',
            'add?q=sta&inside='.$station,
            'query?entries='.$station.','.self::entryId('catchment'), 'query?entries='.$station, 'query?entries='.$station.','.self::entryId('month_summary'),
            'query?entries='] as $asked) {
            $this->sees("/diagrams/margin/$asked");
        }
        $this->does("/diagrams/entries/$station", "/diagrams/entries/$station/keep");
        $this->does("/diagrams/sources/$source", "/diagrams/sources/$source/keep?schema=main");
        $this->does("/diagrams/sources/$source", "/diagrams/sources/$source/keep?schema=other");
        $this->sees('/diagrams');
        $this->isAsItWas('diagrams.themselves');
    }

    public function testADiagramIsKeptAndWorkedOn(): void
    {
        $ids = array_map(self::entryId(...), ['station', 'reach', 'catchment', 'sighting']);
        $this->sees('/diagrams/new?entries='.implode(',', $ids).'&name=Waters');
        $this->does('/diagrams/new', '/diagrams', ['name' => '', 'purpose' => 'p', 'entries' => $ids]);
        $this->does('/diagrams/new', '/diagrams', ['name' => 'Waters', 'purpose' => 'where things are', 'entries' => [...$ids, 'x', 99999]]);
        $this->does('/diagrams/new', '/diagrams', ['name' => 'Waters', 'purpose' => '', 'entries' => $ids]);
        $kept = self::get(Diagrams::class)->named('Waters') ?? throw new \LogicException();
        $diagram = '/diagrams/'.$kept->id();
        $this->sees($diagram);
        $this->sees("$diagram?names=identifiers&detail=all");
        $changes = [
            't'.$ids[0] => ['x' => 40, 'y' => 60], 't'.$ids[1] => ['x' => 400, 'y' => 60, 'folded' => true],
            't'.self::entryId('species') => ['drop' => true, 'x' => 500, 'y' => 20], 't'.self::entryId('day') => new \stdClass(),
            'n1' => ['kind' => 'note', 'text' => 'Seen from the bank.', 'x' => 10, 'y' => 400, 'width' => 200, 'height' => 60],
        ];
        $this->sends($diagram, "$diagram/changes", ['changes' => $changes, 'since' => 0, 'sitting' => 'morning', 'draw' => true]);
        $this->sends($diagram, "$diagram/changes", ['changes' => ['t'.$ids[3] => null, 'n1' => ['kind' => 'note', 'text' => 'Seen.', 'x' => 12, 'y' => 400]],
            'since' => 1, 'sitting' => 'noon']);
        $this->sends($diagram, "$diagram/changes", ['changes' => ['q' => 1, 't'.$ids[0] => ['x' => 'far']], 'since' => 2, 'sitting' => 'noon']);
        $this->sees("$diagram/changes?since=0");
        $this->sees("$diagram/changes?since=0&draw=1&names=identifiers");
        $ren = $this->account(name: 'Ren Abara');
        $this->client->loginUser($ren);
        $this->sends($diagram, "$diagram/changes", ['changes' => ['t'.$ids[1] => ['x' => 300, 'y' => 300]], 'since' => 2, 'sitting' => 'ren']);
        $this->client->loginUser($this->oona);
        $this->sees("$diagram/changes?since=2");
        foreach (['all', 'new', 'none'] as $how) {
            $this->sees("$diagram/arrange?how=$how");
        }
        $this->sends($diagram, '/diagrams/lead', ['scene' => 'none', 'moved' => []]);
        $this->sends($diagram, '/diagrams/lead', ['scene' => ['pieces' => ['a' => [0, 0, 100, 50], 'b' => [300, 0, 100, 50]],
            'lines' => [['id' => 5, 'from' => 'a', 'to' => 'b', 'kind' => 'declared', 'ends' => ['many', 'one']]]], 'moved' => ['a', 7],
            'ways' => [5 => [[1, 2]]]]);
        $this->does('/diagrams/new?entries='.self::entryId('parameter'), '/diagrams', ['into' => (string) $kept->id(),
            'entries' => [self::entryId('parameter')]]);
        $this->sees("/diagrams/margin/about/{$kept->id()}");
        $this->sees("$diagram/history");
        $this->sees("$diagram.svg");
        $this->sees("$diagram.svg?detail=names&names=identifiers");
        $this->sees("$diagram.png?width=300");
        self::db()->executeStatement('UPDATE entry SET gone_at = UTC_TIMESTAMP() WHERE id = ?', [$ids[2]]);
        $this->sees($diagram);
        $this->does($diagram, "$diagram/follow");
        $this->sees($diagram);
        $this->sees('/diagrams?q=waters');
        $this->sees('/register/'.$ids[0]);
        $this->isAsItWas('diagrams.kept');
    }

    public function testDiagramsAtTheCommandLine(): void
    {
        $mart = self::$folder.'/mart.sqlite';
        $out = self::$folder.'/drawing';
        $this->runs('fasti:diagram', ['target' => $mart]);
        $this->runs('fasti:diagram', ['target' => $mart, '--out' => "$out.svg", '--from' => 'station', '--steps' => 2, '--detail' => 'all']);
        $this->notes(...explode("\n", (string) file_get_contents("$out.svg")));
        foreach ([['--out' => "$out.gif"], ['--out' => "$out.png", '--width' => 400], ['--out' => "$out.pdf", '--paper' => 'A3'], ['--out' => "$out.pdf",
            '--paper' => 'B1'],
            ['--out' => "$out.svg", '--detail' => 'much'], ['--out' => "$out.svg", '--from' => 'nobody'], ['--out' => "$out.svg", '--include' => ['zz*']],
            ['--out' => "$out.svg", '--steps' => 0, '--from' => 'station'], ['--out' => self::$folder.'/no/where.svg']] as $asked) {
            $this->runs('fasti:diagram', ['target' => $mart] + $asked);
        }
        $this->runs('fasti:diagram', ['--kept' => 'Nobody', '--out' => "$out.svg"]);
        $this->runs('fasti:diagram', ['target' => self::$folder.'/none.sqlite', '--out' => "$out.svg"]);
        $this->isAsItWas('diagrams.commands');
    }
}
