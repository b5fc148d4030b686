<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Day;

use Fasti\Account\Role;
use Fasti\Design\Designs;

/** Designs: begun, edited as the page does it, written as a script, held against a source, run. */
final class DesignsDayTest extends DayTestCase
{
    private const OUTLINE = "Design \"Small\", a small one\n  for SQLite\n\nSchool, one row per school\n  name, text up to 80, required\n"
        ."  told apart by name\n\nLoan\n  due, date\n  state, one of open, closed\n\n"
        ."A school takes any number of loans; a loan is taken by exactly one school.\n";

    private function made(string $outline = self::OUTLINE, bool $shared = true): string
    {
        $kept = self::get(Designs::class)->make($this->oona, $outline);
        $kept->shared = $shared;
        self::get(Designs::class)->save();

        return '/designs/'.$kept->id();
    }

    public function testADesignIsBegun(): void
    {
        $source = $this->mart->id();
        $some = self::entryId('station').','.self::entryId('reach').',x';
        $this->sees('/designs');
        $this->sees('/designs/new');
        $this->sees("/designs/new?source=$source&entries=$some&name=Rivers");
        $this->sees('/designs/lines');
        $this->title('Refused, and made');
        $this->does('/designs/new', '/designs', ['name' => ' ', 'purpose' => 'p', 'source' => $source, 'entries' => $some]);
        $this->does('/designs/new', '/designs', ['name' => str_repeat('n', 161), 'purpose' => '']);
        $this->does('/designs/new', '/designs', ['name' => 'Purpose', 'purpose' => str_repeat('p', 2001)]);
        $this->does('/designs/new', '/designs', ['name' => ' Empty ', 'purpose' => ' nothing yet ']);
        $this->does('/designs/new', '/designs', ['name' => 'Empty', 'purpose' => '']);
        $this->does('/designs/new', '/designs', ['name' => 'Rivers', 'purpose' => 'waters', 'source' => $source, 'entries' => $some]);
        $this->does('/designs/new', '/designs', ['name' => 'Whole', 'purpose' => '', 'source' => $source, 'entries' => '']);
        $this->does('/designs/new', '/designs', ['name' => 'Gone', 'purpose' => '', 'source' => 99999, 'entries' => '99999']);
        $this->sees('/designs');
        foreach (['Empty', 'Rivers', 'Whole'] as $name) {
            $this->sees('/designs/'.(self::get(Designs::class)->named($name) ?? throw new \LogicException($name))->id().'.outline');
        }
        $rivers = '/designs/'.(self::get(Designs::class)->named('Rivers') ?? throw new \LogicException())->id();
        $this->sees($rivers);
        $this->sees("$rivers/changes");
        $this->sees("$rivers/changes.sql");
        $this->isAsItWas('designs.begun');
    }

    public function testADesignIsEditedAsThePageDoesIt(): void
    {
        $design = $this->made();
        $text = self::OUTLINE;
        $this->sees($design);
        $this->sees("$design?depth=logical");
        $this->sees("$design?depth=none");
        $this->sees("$design/read");
        $this->sees("$design/history");
        foreach (['conceptual', 'logical', 'physical', 'none'] as $depth) {
            $this->sends($design, "$design/check", ['text' => $text, 'depth' => $depth, 'places' => [1 => [10, 20.5], 2 => ['x', 1]],
                'ledger' => 'physical' === $depth]);
        }
        $this->sends($design, "$design/check", ['text' => "Design\n  nothing said\nLoan\n  due, moon", 'depth' => 'conceptual']);
        $this->sends($design, "$design/about", ['text' => $text, 'depth' => 'conceptual', 'tablet' => 1, 'line' => 0]);
        $this->sends($design, "$design/about", ['text' => $text, 'depth' => 'logical', 'tablet' => 0, 'line' => 1]);
        $this->sends($design, "$design/about", ['text' => $text, 'depth' => 'physical', 'tablet' => 99, 'line' => 99]);
        $edits = [
            ['what' => 'rename thing', 'of' => 'Loan', 'name' => 'Loan', 'said' => 'Lending'],
            ['what' => 'add attribute', 'of' => 'School', 'name' => 'town', 'said' => 'text up to 60', 'meaning' => 'where it is'],
            ['what' => 'set rule', 'name' => 'links', 'said' => 'number'],
            ['what' => 'set attribute', 'of' => 'Loan', 'name' => 'due', 'said' => 'due, date, required'],
            ['what' => 'remove attribute', 'of' => 'Loan', 'name' => 'state'],
            ['what' => 'add sentence', 'said' => 'A loan is of one or more schools.'],
            ['what' => 'ask', 'of' => 'loan', 'said' => 'Who pays?'],
            ['what' => 'set engine', 'said' => 'MariaDB'],
            ['what' => 'remove thing', 'of' => 'Nobody'],
        ];
        foreach ([...array_map(static fn (array $one): array => [$one], $edits), $edits, [['what' => 'fly']], ['x'], []] as $some) {
            $this->sends($design, "$design/edit", ['text' => $text, 'edits' => $some]);
        }
        $this->sends($design, "$design/format", ['text' => "Loan\n   due,date\n"]);
        foreach ([[5, 8], [9, 4], [12, 2], [0, 0], [99, 9]] as [$line, $column]) {
            $this->sends($design, "$design/complete", ['text' => $text, 'line' => $line, 'column' => $column]);
        }
        $this->sends($design, "$design/preview", ['text' => $text, 'rule' => 'no rule', 'setting' => 'plural']);
        $this->sends($design, "$design/preview", ['text' => $text, 'rule' => 'links', 'setting' => 'number']);
        $this->sends($design, "$design/preview", ['text' => $text, 'rule' => 'keys', 'setting' => 'natural']);
        $this->sends($design, "$design/merge", ['base' => $text, 'mine' => str_replace('up to 80', 'up to 90', $text)]);
        $this->sends($design, "$design/merge", ['base' => str_replace('up to 80', 'up to 70', $text), 'mine' => str_replace('up to 80', 'up to 90', $text)]);
        $this->sends($design, "$design/places", ['depth' => 'logical', 'places' => [1 => [1, 2], 'x' => 'y']]);
        $this->sends($design, "$design/places", ['depth' => 'none', 'places' => [1 => [1, 2]]]);
        $this->sends($design, '/texts', ['topic' => 'design', 'id' => (int) basename($design), 'property' => 'outline', 'base' => rtrim($text),
            'value' => str_replace('up to 80', 'up to 90', $text), 'sitting' => 's']);
        $this->sees("$design/history");
        $this->sees("$design.outline");
        $this->isAsItWas('designs.edited');
    }

    public function testADesignIsWrittenRunAndGivenAway(): void
    {
        $design = $this->made();
        $this->sees("$design/script");
        $this->sees("$design/script?engine=mariadb&drop=1&bare=1&quoted=1&schema=lending");
        $this->sees("$design.sql?engine=postgresql&drop=1&schema=%20lending%20");
        $this->sees("$design.sql?engine=none&bare=1");
        foreach (['conceptual', 'logical', 'physical'] as $depth) {
            $this->sees("$design.json?depth=$depth&engine=mariadb");
        }
        $this->does("$design/script", "$design/run", ['engine' => 'sqlite']);
        $this->works();
        $this->sees("$design/script?engine=sqlite");
        $this->title('Settings');
        $this->does($design, "$design/settings", ['shared' => '0']);
        $this->client->loginUser($this->account(Role::READER, 'Oke Reader'));
        $this->sees($design);
        $this->client->loginUser($this->oona);
        $this->does($design, "$design/settings", ['shared' => '1']);
        $this->client->loginUser($this->account(Role::READER, 'Ove Reader'));
        $this->sees($design);
        $this->sees("$design/read");
        $this->client->loginUser($this->oona);
        $this->does($design, "$design/settings", ['remove' => '1']);
        $this->sees('/designs');
        $this->does('/designs', '/kept/design/'.basename($design).'/back');
        $this->does($design, '/kept/cake/1/back');
        $this->isAsItWas('designs.written');
    }

    public function testASourceIsTakenAndAChangeRehearsed(): void
    {
        self::sourceOf('store');
        $source = self::scalar("SELECT id FROM source WHERE name = 'store'");
        $this->does('/designs/new', '/designs', ['name' => 'Store', 'purpose' => '', 'source' => $source, 'entries' => '']);
        $kept = self::get(Designs::class)->named('Store') ?? throw new \LogicException();
        $design = '/designs/'.$kept->id();
        $this->sees("$design/changes");
        $kept->outline = $kept->readable = str_replace(['room, text up to 20', 'joined, date'], ['room, text up to 40', 'joined, date, required'],
            $kept->outline);
        self::get(Designs::class)->save();
        $this->sees("$design/changes");
        $this->sees("$design/changes.sql");
        $this->does("$design/changes", "$design/changes");
        $this->works();
        $this->sees("$design/changes");
        $this->sees('/designs');
        $this->isAsItWas('designs.changes');
    }

    public function testDesignsAtTheCommandLine(): void
    {
        $file = self::$folder.'/small.outline';
        file_put_contents($file, self::OUTLINE);
        file_put_contents(self::$folder.'/broken.outline', "Design \"B\"\n\nLoan\n  due, moon\n  x\nA loan flies.\n");
        $this->runs('fasti:design', ['file' => $file]);
        foreach (['json', 'svg', 'outline', 'sql', 'xml'] as $format) {
            $this->runs('fasti:design', ['file' => $file, '--format' => $format, '--dialect' => 'mariadb', '--drop' => true, '--schema' => 'lend']);
        }
        $this->runs('fasti:design', ['file' => $file, '--format' => 'json', '--depth' => 'logical']);
        $this->runs('fasti:design', ['file' => $file, '--format' => 'json', '--depth' => 'deep']);
        $this->runs('fasti:design', ['file' => $file, '--dialect' => 'latin']);
        $this->runs('fasti:design', ['file' => $file, '--bare' => true, '--quoted' => true, '--dialect' => 'sqlite']);
        $this->runs('fasti:design', ['file' => $file, '--against' => self::$folder.'/mart.sqlite']);
        $this->runs('fasti:design', ['file' => $file, '--against' => self::$folder.'/none.sqlite']);
        $this->runs('fasti:design', ['file' => self::$folder.'/broken.outline']);
        $this->runs('fasti:design', ['file' => self::$folder.'/none.outline']);
        $this->runs('fasti:outline', ['target' => self::$folder.'/store.sqlite', '--include' => ['s*', 'i*']]);
        $this->runs('fasti:outline', ['target' => self::$folder.'/store.sqlite', '--exclude' => ['*'], '--out' => self::$folder.'/o.outline']);
        $this->runs('fasti:outline', ['target' => self::$folder.'/store.sqlite', '--out' => self::$folder.'/no/where']);
        $this->runs('fasti:outline', ['target' => self::$folder.'/none.sqlite']);
        $this->isAsItWas('designs.commands');
    }
}
