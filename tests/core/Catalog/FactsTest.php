<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Catalog;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Fact;
use Fasti\Core\Catalog\Facts;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\WhenSet;
use Fasti\Core\Script\TableBuilder;
use Fasti\Tests\Core\House\Tree;
use Fasti\Tests\Core\Made;
use PHPUnit\Framework\TestCase;

/** A plain fact is declared once. */
final class FactsTest extends TestCase
{
    /** Which definitions of the schema are of which class. */
    private const DEFINITIONS = ['table' => Table::class, 'column' => Column::class];

    private static function tank(?string $made = null, bool $old = false, ?int $depth = null, string $name = 'a'): object
    {
        return new class($made, $old, $depth, $name) {
            public function __construct(
                #[Fact('', 'Made by', 'it is made by %s (was %s)', unsaid: 'somebody', wasUnsaid: 'nobody', silenceTells: false)]
                public ?string $made = null,
                #[Fact('', 'Old', 'it is old now', 'it is new again', ofViews: false)]
                public bool $old = false,
                #[Fact('', changed: 'it is %s deep (was %s)', unsaid: 'endlessly')]
                public ?int $depth = null,
                public string $name = '',
            ) {
            }
        };
    }

    public function testWhatChangedIsTold(): void
    {
        $told = static fn (object $was, object $is, bool $view = false, bool $alike = true): array => Facts::changes($was, $is, $view, $alike);

        self::assertSame([], $told(self::tank('x', true, 2), self::tank('x', true, 2, 'b')), 'What is no plain fact is told elsewhere.');
        self::assertSame(['it is made by y (was x)', 'it is old now', 'it is 3 deep (was 2)'], $told(self::tank('x', false, 2), self::tank('y', true, 3)));
        self::assertSame(['it is made by somebody (was x)', 'it is endlessly deep (was 2)'], $told(self::tank('x', false, 2), self::tank()));
        self::assertSame(['it is made by x (was nobody)', 'it is new again'], $told(self::tank(null, true), self::tank('x')));
        self::assertSame(['it is made by y (was x)'], $told(self::tank('x', true), self::tank('y'), true), 'Views have no age.');
    }

    public function testThatOnlyOneSaysItTellsNothingWhereTheyWereReadInDifferentManners(): void
    {
        $told = static fn (bool $view, bool $alike): array => Facts::changes(self::tank('x', false, 2), self::tank(), $view, $alike);

        self::assertSame(['it is endlessly deep (was 2)'], $told(false, false));
        self::assertSame(['it is endlessly deep (was 2)'], $told(true, true));
        self::assertSame(['it is made by y (was x)'], Facts::changes(self::tank('x'), self::tank('y'), true, false));
    }

    public function testThoseWithALabelShowWhereTheySaySomething(): void
    {
        self::assertSame([], Facts::shown(self::tank('')));
        self::assertSame(['Made by' => 'x', 'Old' => 'yes'], Facts::shown(self::tank('x', true, 3)));
        self::assertSame(['Kept as' => 'Aria'], Facts::shown(Made::table('station')->with(storage: 'Aria', collation: 'c')));
    }

    public function testABuilderOfTablesTakesFactsThatItDoesNotKnow(): void
    {
        $builder = new TableBuilder('main', 'station', TableType::Table);
        $builder->facts['storage'] = 'Aria';
        $builder->facts['planned'] = true;
        $table = $builder->table(static fn (): array => []);

        self::assertSame(['Aria', true, 'station'], [$table->storage, $table->planned, $table->name]);
    }

    /** Written anew by bin/test record. */
    public function testEveryFactIsInTheSchema(): void
    {
        $file = 'docs/catalog.schema.json';
        $schema = Tree::read($file);
        foreach (self::DEFINITIONS as $definition => $class) {
            foreach (Facts::of($class) as $name => $fact) {
                $schema = self::with($schema, $definition, $class, $name, $fact);
            }
        }
        if ('1' === getenv('FASTI_RECORD')) {
            file_put_contents(Tree::root().$file, $schema);
        }

        self::assertSame($schema, Tree::read($file));
    }

    /** @param class-string $class */
    private static function with(string $schema, string $definition, string $class, string $name, Fact $fact): string
    {
        /** @var array{'$defs': array<string, array{properties: array<string, mixed>}>} $read */
        $read = json_decode($schema, true, flags: \JSON_THROW_ON_ERROR);
        if (isset($read['$defs'][$definition]['properties'][$name])) {
            return $schema;
        }
        $parameter = new \ReflectionParameter([$class, '__construct'], $name);
        $type = $parameter->getType();
        self::assertInstanceOf(\ReflectionNamedType::class, $type);
        $plain = ['string' => 'string', 'int' => 'integer', 'float' => 'number', 'bool' => 'boolean'][$type->getName()];
        $about = ['type' => $type->allowsNull() ? [$plain, 'null'] : $plain] + ('' === $fact->about ? [] : ['description' => $fact->about]);
        $line = json_encode($name).': '.json_encode($about, \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_THROW_ON_ERROR).',';
        $begins = strpos($schema, '"properties": {', (int) strpos($schema, "\"$definition\": {")) + \strlen('"properties": {');
        $schema = substr_replace($schema, "\n                $line", $begins, 0);
        if ([] !== $parameter->getAttributes(WhenSet::class)) {
            return $schema;
        }
        $required = strpos($schema, '"required": [', (int) strpos($schema, "\"$definition\": {")) + \strlen('"required": [');

        return substr_replace($schema, json_encode($name).', ', $required, 0);
    }
}
