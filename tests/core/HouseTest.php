<?php

declare(strict_types=1);

namespace Fasti\Tests\Core;

use Fasti\Core\Dialect\Dialects;
use Fasti\Tests\Core\House\Tree;
use PHPUnit\Framework\TestCase;

/** The order of the house: what each part of the code may know. See docs/house.md. */
#[\PHPUnit\Framework\Attributes\Group('house')]
final class HouseTest extends TestCase
{
    /** Each room of the core knows those before it. What an engine plugs into stands before those who ask it, and the engines behind them. */
    private const CORE = [
        'Cage',
        'Catalog', 'Wording', 'Survey', 'Dialect', 'Privacy', 'Value', 'Sql', 'Script', 'Sheet', 'Profile', 'Files', 'Engine', 'Drift', 'Join', 'Finding',
        'Search', 'Diagram', 'Lineage', 'Model', 'Design', 'Draft', 'Term', 'Edition',
    ];
    /** Each room of the application knows those before it, and all of the core. */
    private const APPLICATION = [
        'Support',
        'Account',
        'Work',
        'Source',
        'Text',
        'Register',
        'Kept',
        'Finding',
        'Term',
        'CodeList',
        'Lineage',
        'Drift',
        'Profile',
        'Join',
        'Survey',
        'Diagram',
        'Model',
        'Draft',
        'Design',
        'Desk',
        'Edition',
    ];
    /** The one room that reads and writes a table; any other asks it. */
    private const TABLES = [
        'account' => 'Account', 'account_role' => 'Account', 'sign_in_failure' => 'Account', 'job' => 'Work', 'source' => 'Source', 'connection' => 'Source',
        'change_event' => 'Text', 'said' => 'Text',
        'entry' => 'Register', 'field' => 'Register', 'entry_join' => 'Register', 'join_pair' => 'Register', 'identifier' => 'Register',
        'identifier_gram' => 'Register',
        'finding' => 'Finding', 'view_reading' => 'Lineage', 'lineage' => 'Lineage', 'kept_query' => 'Lineage', 'profile' => 'Profile',
        'join_evidence' => 'Join', 'entry_role' => 'Join', 'survey' => 'Survey', 'diagram' => 'Diagram',
        'diagram_piece' => 'Diagram', 'diagram_placing' => 'Diagram', 'edition' => 'Edition',
        'analytic_model' => 'Model', 'model_field' => 'Model',
        'model_asked' => 'Model', 'kept_trial' => 'Model', 'check_setting' => 'Finding', 'term' => 'Term',
        'code_list' => 'CodeList', 'code' => 'CodeList',
        'draft' => 'Draft', 'draft_decision' => 'Draft', 'taking' => 'Draft', 'drafts_made' => 'Draft', 'short_form' => 'Draft',
        'design' => 'Design', 'waiting' => 'Desk', 'waiting_tally' => 'Desk', 'later' => 'Desk', 'coverage_day' => 'Desk', 'sought' => 'Desk',
    ];
    /** What is of one engine alone, and may name it; a snowflake is a shape of models, too. */
    private const OF_AN_ENGINE = '#^(core/Engine/|src/(Source/Connector|Design/Scratch)/[A-Z]\w+/|core/Model/Proposal.php)#';

    /** Names of classes that stand in several rooms, each time with why. */
    /** Variables of templates, which pages of several rooms hand on as they come. */
    private const FOR_TEMPLATES = ['History' => ['of']];
    private const TWICE = [
        'the core has the thing, the application keeps it or asks of it' => [
            'Abbreviations', 'Check', 'Checks', 'Entry', 'Field', 'Pieces', 'Reading', 'Renaming', 'Said', 'Search', 'Source', 'Sources', 'Standing',
            'Taking', 'Trace',
        ],
        'a word of two trades, each with its own tree: SQL, drawing, documents, ways' => [
            'Block', 'Cast', 'Frame', 'Lanes', 'Layout', 'Listing', 'Member', 'Node', 'Part', 'Scope', 'Statements', 'Step', 'Understanding', 'Verbs',
        ],
        'the same office in each kind of thing that people keep: models, designs, diagrams' => [
            'Attribute', 'Answer', 'Beginning', 'Changes', 'Choice', 'Count', 'Edits', 'Fault', 'FieldName', 'Known', 'ModelPages', 'NotUnderstood',
            'Proposal', 'Role',
        ],
    ];

    /** Quotation marks that are doubled by hand. */
    private const DOUBLED = '/str_replace\(\s*\[?\s*(?:[\'"]\\\\{1,2}[\'"],\s*)?[\'"][\'"`][\'"]\s*\]?,\s*\[?\s*(?:[\'"]\\\\+[\'"],\s*)?[\'"][\'"`]{2}/';

    public function testTheCoreKnowsNoFrameworkAndNoDatabaseLayerAndNoTemplates(): void
    {
        $found = [];
        foreach (Tree::files('core') as $file) {
            foreach (Tree::facts($file)->names as $name) {
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
        $rooms = static fn (string $top): array => array_map(basename(...), glob(Tree::root().$top.'/*', \GLOB_ONLYDIR) ?: []);

        self::assertEqualsCanonicalizing(self::CORE, $rooms('core'));
        self::assertEqualsCanonicalizing(self::APPLICATION, $rooms('src'));
    }

    public function testEveryTableIsReadAndWrittenByOneRoom(): void
    {
        $found = [];
        foreach (Tree::files('src') as $file) {
            foreach (self::tables(Tree::read($file)) as $table) {
                if (self::TABLES[$table] !== explode('/', $file)[1]) {
                    $found[] = "$file reads $table, which belongs to ".self::TABLES[$table];
                }
            }
        }

        self::assertSame([], $found);
    }

    public function testNoTableIsWithoutAnOwner(): void
    {
        preg_match_all("/ORM.Table\(name: '(\w+)'/", implode("\n", array_map(Tree::read(...), Tree::files('src'))), $m);

        self::assertEqualsCanonicalizing(array_keys(self::TABLES), $m[1]);
    }

    public function testANameOfAClassStandsInSeveralRoomsOnlyWhereItIsSaidWhy(): void
    {
        $rooms = [];
        foreach ([...Tree::files('core'), ...Tree::files('src')] as $file) {
            $rooms[basename($file, '.php')][] = $file;
        }
        $twice = array_keys(array_filter($rooms, static fn (array $files): bool => \count($files) > 1));

        self::assertEqualsCanonicalizing(array_merge(...array_values(self::TWICE)), $twice);
    }

    public function testControllersAskStoresAndNotTheDatabase(): void
    {
        $found = array_filter(
            Tree::files('src'),
            static fn (string $file): bool => str_ends_with($file, 'Controller.php')
                && [] !== preg_grep('/^Doctrine.DBAL.(?!Exception)/', Tree::facts($file)->names),
        );

        self::assertSame([], array_values($found));
    }

    public function testWhatCrossesTheBorderOfARoomIsARecord(): void
    {
        $found = [];
        $files = Tree::files('src');
        foreach ($files as $file) {
            $class = basename($file, '.php');
            $given = '/@return [^@]*?array\{\??\w+\??:(?:(?!\*\/).)*\*\/\s*(?:#\[[^\n]*\n\s*)*public (?:static )?function (\w+)/s';
            preg_match_all($given, Tree::read($file), $m);
            $asked = array_diff($m[1], self::FOR_TEMPLATES[$class] ?? []);
            foreach ([] === $asked ? [] : $files as $other) {
                $text = explode('/', $other)[1] === explode('/', $file)[1] ? '' : Tree::read($other);
                // The class has to be known there, for names of methods are short.
                foreach (1 === preg_match("/\\b$class \\$|\\b$class::/", $text) ? $asked : [] as $method) {
                    if (str_contains($text, $class.'::'.$method.'(') || 1 === preg_match('/\b'.lcfirst($class)."\b->$method\(|->$method\(/", $text)) {
                        $found[] = "$class::$method() for $other";
                    }
                }
            }
        }

        self::assertSame([], $found, 'Arrays with named members are known to one room only; records are what others are given.');
    }

    public function testEnginesAreNamedOnlyWhereTheyArePluggedIn(): void
    {
        self::assertSame([], self::where(self::engines(), ['core', 'src', 'templates', 'assets/scripts'], self::OF_AN_ENGINE, Tree::bare(...)));
    }

    public function testExtensionsOfPhpThatDebianPacksApartAreInTheListOfItsPackages(): void
    {
        preg_match_all('/"ext-(\w+)"/', Tree::read('composer.json'), $m);
        preg_match_all('/^extension (\w+) /m', Tree::read('debian.txt'), $listed);
        // The rest is in every PHP of Debian.
        self::assertSame([], array_diff($m[1], $listed[1], ['ctype', 'iconv', 'posix', 'sodium', 'zlib']));
    }

    public function testQuotesAreDoubledInOnePlaceAndNoSqlIsMadeWithIt(): void
    {
        self::assertSame([], self::where(self::DOUBLED, ['core', 'src'], '#^core/(Catalog/Quotes.php|(Dialect|Engine)/.*Dialect.php)$#'));
        // Notations of our own, and readers that write down again what they read.
        self::assertSame([], self::where('/\bQuotes::/', ['core', 'src'],
            '#^(core/(Catalog|Dialect|Engine|Script|Sql|Files)/|core/Value/Allowed.php|core/Model/(ConditionText|FieldOffers).php'
            .'|core/Design/Outline(Names|Reader|Writer).php|core/Join/Proposal.php|src/Register/GrainFields.php|src/Model/ModelAskCommand.php)#'));
    }

    public function testProgramsRunInCagesAndSessionsWithSourcesInProcessesOfTheirOwn(): void
    {
        self::assertSame([], self::where(
            '/\bnew Process\(|\b(?:proc_open|shell_exec|popen|passthru|system)\(/',
            ['core', 'src'],
            // Fasti's own console, and typefaces that ship with it.
            '#^(core/Cage/Child.php|src/Model/Asker.php|src/Diagram/Raster.php)$#',
        ));
        self::assertSame([], self::where('/\bnew .?(?:PDO|SQLite3|mysqli)\(/', ['core', 'src'], '#^src/Source/Connector/(PdoDoor|Sqlite/SqliteDoor).php$#'));
    }

    public function testRolesAreNamedOnlyInTheirOwnFile(): void
    {
        self::assertSame([], self::where('/ROLE_/', ['src', 'templates', 'config/packages'], '#^src/Account/Role.php$#'));
    }

    public function testNoPageIsGluedTogetherInPhp(): void
    {
        self::assertSame([], self::where('/[\'"]<(?:a|p|b|li|ul|div|span|table|tr|td|button|form|select)[ >]/', ['src'], '#^src/Support/Markdown.php$#'));
    }

    public function testTypesAreReadByTheirDialectAlone(): void
    {
        self::assertSame(
            [],
            self::where(
                '/preg_\w+\(\s*[\'"][^\'"]*\b(?:varchar|bigint|tinyint|datetime|unsigned)\b/',
                ['core', 'src'],
                '#^core/(Dialect|Engine|Script|Files)/#',
            ),
        );
    }

    public function testTwigIsTaughtByRoomsBeforeTheTemplate(): void
    {
        $place = array_flip(array_map(strtolower(...), self::APPLICATION));
        $found = [];
        foreach (Tree::files('src') as $file) {
            preg_match_all('/AsTwig(?:Function|Filter)\(\'(\w+)\'/', Tree::read($file), $m);
            foreach ($m[1] as $name) {
                $own = strtolower(explode('/', $file)[1]);
                foreach (Tree::files('templates', 'twig') as $template) {
                    $room = explode('/', $template)[1];
                    if (isset($place[$room]) && $place[$room] < $place[$own] && 1 === preg_match('/(?:\b'.$name.'\(|\|'.$name.'\b)/', Tree::read($template))) {
                        $found[] = "$template uses $name of $own";
                    }
                }
            }
        }

        self::assertSame([], $found);
    }

    public function testTheTestSeesWhatItForbids(): void
    {
        self::assertContains('Doctrine\\DBAL\\Connection', Tree::facts('src/Text/History.php')->names);
        self::assertNotSame([], self::out('src', 'Fasti\\', array_reverse(self::APPLICATION)));
        self::assertNotSame([], self::out('core', 'Fasti\\Core\\', array_reverse(self::CORE)));
        self::assertSame(
            ['entry', 'field', 'finding'],
            self::tables("'SELECT 1 FROM entry e JOIN field f'; 'INSERT INTO finding (id)'; // words from an account"),
        );
        self::assertNotSame([], self::where(self::engines(), ['core'], '#^$#', Tree::bare(...)));
        foreach (["'of MySQL'", 'sqlite_master', "'pgsql:host=a'", 'Fasti\\Core\\Engine\\MariaDb', "'SQL Server has it'"] as $code) {
            self::assertMatchesRegularExpression(self::engines(), $code);
        }
        self::assertDoesNotMatchRegularExpression(self::engines(), 'standard SQL of files');
        self::assertNotSame([], self::where('/ROLE_/', ['src'], '#^$#'));
        foreach ([
            "str_replace('`', '``', $" => '',
            'str_replace("\'", "\'\'", $' => '',
            'str_replace([\'\\\\\', "\'"], [\'\\\\\\\\\', "\'\'"], $' => '',
        ] as $code => $nothing) {
            self::assertMatchesRegularExpression(self::DOUBLED, $code.$nothing);
        }
    }

    /** A pattern of the names of engines, in whatever words they stand. */
    private static function engines(): string
    {
        $names = ['pgsql'];
        foreach (array_diff_key(Dialects::all(), ['sql' => true, 'files' => true]) as $dialect) {
            array_push($names, $dialect->name(), $dialect->label(), ...$dialect->aliases());
        }

        return '/(?<![a-z])(?:'.implode('|', array_map(preg_quote(...), $names)).')/i';
    }

    /** @return list<string> those of the register that SQL in a file speaks of */
    private static function tables(string $code): array
    {
        preg_match_all('/\b(?:FROM|JOIN|INTO|UPDATE|TABLE)\s+`?('.implode('|', array_keys(self::TABLES)).')\b(?!\w)/', $code, $m);

        return array_values(array_unique($m[1]));
    }

    /**
     * @param list<string> $tops
     * @param string       $allowed files in which the pattern may stand
     * @param ?\Closure(string): string $read gives of a file what is looked at, line by line
     *
     * @return list<string> file and line of each place
     */
    private static function where(string $pattern, array $tops, string $allowed, ?\Closure $read = null): array
    {
        $found = [];
        $read ??= Tree::read(...);
        foreach ($tops as $top) {
            foreach (Tree::files($top, 'php|twig|js|yaml') as $file) {
                foreach (1 === preg_match($allowed, $file) ? [] : explode("\n", $read($file)) as $i => $line) {
                    if (1 === preg_match($pattern, $line)) {
                        $found[] = $file.':'.($i + 1).' '.trim($line);
                    }
                }
            }
        }

        return $found;
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
        foreach (Tree::files($top) as $file) {
            $own = explode('/', substr($file, \strlen($top) + 1))[0];
            foreach (Tree::facts($file)->names as $name) {
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
}
