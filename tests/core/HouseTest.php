<?php

declare(strict_types=1);

namespace Fasti\Tests\Core;

use PhpParser\Node;
use PhpParser\NodeFinder;
use PhpParser\NodeTraverser;
use PhpParser\NodeVisitor\NameResolver;
use PhpParser\ParserFactory;
use PHPUnit\Framework\TestCase;

/** The order of the house: what each part of the code may know. See docs/house.md. */
final class HouseTest extends TestCase
{
    /** Each room of the core knows those before it. */
    private const CORE = ['Catalog', 'Wording', 'Survey', 'Script', 'Sheet', 'Profile', 'Files', 'Drift', 'Join', 'Finding', 'Search', 'Diagram', 'Edition'];
    /** Each room of the application knows those before it, and all of the core. */
    private const APPLICATION = ['Support', 'Account', 'Source', 'Register', 'Drift', 'Profile', 'Search', 'Survey', 'Diagram', 'Edition'];

    public function testTheCoreKnowsNoFrameworkAndNoDatabaseLayerAndNoTemplates(): void
    {
        $found = [];
        foreach (self::files('core') as $file) {
            foreach (self::names($file) as $name) {
                if (str_contains($name, '\\') && !str_starts_with($name, 'Fasti\\Core\\')) {
                    $found[] = "$file knows $name";
                }
                if (\in_array($name, ['PDO', 'mysqli'], true)) {
                    $found[] = "$file opens a database";
                }
            }
        }

        self::assertSame([], $found);
    }

    public function testRoomsKnowOnlyRoomsBeforeThem(): void
    {
        self::assertSame([], [...self::out('core', 'Fasti\\Core\\', self::CORE), ...self::out('src', 'Fasti\\', self::APPLICATION)]);
    }

    public function testEveryRoomIsInTheOrder(): void
    {
        $rooms = static fn (string $top): array => array_map(basename(...), glob(self::root().$top.'/*', \GLOB_ONLYDIR) ?: []);

        self::assertEqualsCanonicalizing(self::CORE, $rooms('core'));
        self::assertEqualsCanonicalizing(self::APPLICATION, $rooms('src'));
    }

    public function testTheTestSeesWhatItForbids(): void
    {
        self::assertContains('Doctrine\\DBAL\\Connection', self::names('src/Register/Texts.php'));
        self::assertNotSame([], self::out('src', 'Fasti\\', array_reverse(self::APPLICATION)));
    }

    /**
     * @param list<string> $order
     *
     * @return list<string>
     */
    private static function out(string $top, string $namespace, array $order): array
    {
        $place = array_flip($order);
        $found = [];
        foreach (self::files($top) as $file) {
            $own = explode('/', $file)[1];
            foreach (self::names($file) as $name) {
                if (!str_starts_with($name, $namespace)) {
                    continue;
                }
                $room = explode('\\', substr($name, \strlen($namespace)))[0];
                if (isset($place[$own], $place[$room]) && $place[$room] > $place[$own]) {
                    $found[] = "$file knows $name";
                }
            }
        }

        return $found;
    }

    /** @return list<string> fully qualified names of classes and functions that a file mentions */
    private static function names(string $file): array
    {
        $parser = (new ParserFactory())->createForHostVersion();
        $tree = $parser->parse((string) file_get_contents(self::root().$file)) ?? [];
        $tree = (new NodeTraverser(new NameResolver()))->traverse($tree);
        $names = array_map(static fn (Node\Name $name): string => $name->toString(), (new NodeFinder())->findInstanceOf($tree, Node\Name\FullyQualified::class));

        return array_values(array_unique($names));
    }

    /** @return list<string> paths from the root */
    private static function files(string $top): array
    {
        $files = [];
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator(self::root().$top, \FilesystemIterator::SKIP_DOTS)) as $file) {
            if ($file instanceof \SplFileInfo && 'php' === $file->getExtension()) {
                $files[] = substr($file->getPathname(), \strlen(self::root()));
            }
        }

        return $files;
    }

    private static function root(): string
    {
        return \dirname(__DIR__, 2).'/';
    }
}
