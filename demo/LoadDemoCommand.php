<?php

declare(strict_types=1);

namespace Fasti\Demo;

use Doctrine\DBAL\Connection as Database;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Role;
use Fasti\Account\Roles;
use Fasti\CodeList\CodeLists;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Design\Edit;
use Fasti\Core\Design\EditError;
use Fasti\Core\Design\Edits;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Model\ModelFile;
use Fasti\Core\Model\Trial;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Design\Beginning as DesignBeginning;
use Fasti\Design\DesignProperties;
use Fasti\Design\Designs;
use Fasti\Design\Topic\DesignTopic;
use Fasti\Diagram\Beginning as DiagramBeginning;
use Fasti\Diagram\Board;
use Fasti\Join\JoinsJob;
use Fasti\Model\Editing;
use Fasti\Model\ModelJob;
use Fasti\Model\Models;
use Fasti\Profile\Profiles;
use Fasti\Profile\Profiling;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Register\Joins;
use Fasti\Register\RegisterCatalog;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Register\Topic\JoinTopic;
use Fasti\Source\Source;
use Fasti\Source\Sources;
use Fasti\Source\Vault;
use Fasti\Survey\Surveys;
use Fasti\Term\Terms;
use Fasti\Text\Texts;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Attribute\Option;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\Console\Style\SymfonyStyle;
use Symfony\Component\DependencyInjection\Attribute\Autowire;
use Symfony\Component\PasswordHasher\Hasher\UserPasswordHasherInterface;

#[AsCommand('fasti:demo', 'Makes the demo source, its accounts and a few descriptions; does nothing where they are')]
final readonly class LoadDemoCommand
{
    public const ACCOUNT = 'fieldwork_reader';
    public const SECRET = 'only-reads-9';
    public const PASSWORDS = [
        'oona@arrowmere.example' => ['Oona Lisk', Role::STEWARD, 'steward-oona'],
        'ren@arrowmere.example' => ['Ren Abara', Role::ADMINISTRATOR, 'keeper-ren-1'],
        'ida@arrowmere.example' => ['Ida Fell', Role::READER, 'reader-ida-1'],
    ];

    public function __construct(
        private EntityManagerInterface $entities,
        private Database $db,
        private UserPasswordHasherInterface $hasher,
        private Vault $vault,
        private Roles $roles,
        private Surveys $surveys,
        private Texts $texts,
        private EntryStore $store,
        private Fields $fields,
        private Joins $joins,
        private JoinsJob $looking,
        private DiagramBeginning $diagrams,
        private CodeLists $lists,
        private Terms $terms,
        private Sources $sources,
        private RegisterCatalog $register,
        private Profiles $profiles,
        private Board $board,
        private Models $kept,
        private Editing $editing,
        private ModelJob $proving,
        private Designs $designs,
        private DesignBeginning $beginning,
        #[Autowire('%env(DATABASE_HOST)%')] private string $host,
        #[Autowire('%env(int:DATABASE_PORT)%')] private int $port,
        #[Autowire('%env(DATABASE_USER)%')] private string $user,
        #[Autowire('%env(DATABASE_PASSWORD)%')] private string $password,
        private string $filesDir,
    ) {
    }

    public function __invoke(
        SymfonyStyle $io,
        #[Option('Bring the source to its second state, one season later')] bool $advance = false,
        #[Option('Make the rows anew even if they are there')] bool $rows = false,
        #[Option('Only say what makes the account that reads the source')] bool $account = false,
    ): int {
        $server = new \PDO(
            \sprintf('mysql:host=%s;port=%d;charset=utf8mb4', $this->host, $this->port),
            $this->user,
            $this->password,
            [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION],
        );
        $fieldwork = new Fieldwork($server);
        if ($account) {
            $io->writeln(
                array_map(static fn (string $sql): string => $sql.';', $fieldwork->accountSql(self::ACCOUNT, self::SECRET)),
                OutputInterface::OUTPUT_RAW,
            );

            return Command::SUCCESS;
        }
        if ($advance) {
            $fieldwork->advance();
            $io->writeln('The fieldwork source stands one season later. Survey it again to see what changed.');

            return Command::SUCCESS;
        }
        $source = $this->entities->getRepository(Source::class)->findOneBy(['name' => 'fieldwork']);
        // A register that begins describes the first season, whatever another register (that of the tests) did to the source.
        if ($rows || (null === $source && !$fieldwork->isFirst()) || [] === $this->db->fetchFirstColumn("SHOW DATABASES LIKE 'fieldwork'")) {
            $start = microtime(true);
            $fieldwork->make();
            $io->writeln(\sprintf('Made the fieldwork source: %s rows in %.1f s', number_format(array_sum($fieldwork->counts)), microtime(true) - $start));
        }
        foreach (self::PASSWORDS as $email => [$name, $role, $password]) {
            if (null === $this->entities->getRepository(Account::class)->findOneBy(['email' => $email])) {
                $account = new Account();
                $account->email = $email;
                $account->name = $name;
                $account->role = $this->roles->named($role);
                $account->setPassword($this->hasher->hashPassword($account, $password));
                $this->entities->persist($account);
            }
        }
        $this->entities->flush();
        $this->files($rows);
        if (null === $source) {
            $this->source();
            $io->writeln('Surveyed it and described a few entries.');
        } elseif ($source->connection()->port !== $this->port && self::ACCOUNT === $source->connection()->account) {
            $source->connection()->port = $this->port;
            $this->entities->flush();
        }

        $this->others();

        return Command::SUCCESS;
    }

    /** The analytics database and the messages of the stations, which are files. */
    private function files(bool $anew): void
    {
        $mart = $this->filesDir.'/mart.sqlite';
        if (!is_dir($this->filesDir)) {
            mkdir($this->filesDir, 0755, true);
        }
        $made = max((int) filemtime(__DIR__.'/mart.sql'), (int) filemtime(__DIR__.'/Mart.php'));
        if ($anew || !is_file($mart) || filemtime($mart) < $made) {
            @unlink($mart.'.new');
            Mart::make(new \PDO('sqlite:'.$mart.'.new', null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]));
            rename($mart.'.new', $mart);
        }
        if ($anew || !is_file($this->filesDir.'/telemetry/telemetry.jsonl')) {
            Telemetry::make($this->filesDir.'/telemetry');
        }
    }

    private function others(): void
    {
        foreach ([
            'mart' => [
                'sqlite',
                '/mart.sqlite',
                'What analysts ask: readings by day and sightings, with their stations, days, parameters and species.',
                'Ren Abara',
            ],
            'telemetry' => ['files', '/telemetry', 'Messages that the stations send, as they arrive.', 'Oona Lisk'],
        ] as $name => [$engine, $path, $purpose, $owner]) {
            if (null !== $this->entities->getRepository(Source::class)->findOneBy(['name' => $name])) {
                continue;
            }
            $source = new Source();
            $source->name = $name;
            $source->purpose = $purpose;
            $source->owner = $owner;
            $source->connection()->engine = $engine;
            $source->connection()->path = $this->filesDir.$path;
            $source->choose(new Choice());
            $this->entities->persist($source);
            $this->entities->flush();
            $this->surveys->now($source, $this->entities->getRepository(Account::class)->findOneBy(['email' => 'oona@arrowmere.example']));
            if ('mart' === $name) {
                $this->mart($source);
            }
        }
    }

    private function mart(Source $source): void
    {
        $steward = $this->entities->getRepository(Account::class)->findOneBy(['email' => 'oona@arrowmere.example']) ?? throw new \LogicException('No steward.');
        /** @var array{mart: array<string, array<string, array<string, string>>>} $said */
        $said = require __DIR__.'/said.php';
        foreach ($said['mart'] as $name => $fields) {
            $entry = $this->store->at($source->id(), new Place('main', $name)) ?? throw new \LogicException(\sprintf('The demo has no entry %s.', $name));
            $ids = $this->fields->ids([$entry])[$entry] ?? [];
            foreach ($fields as $field => $texts) {
                foreach ($texts as $property => $value) {
                    $this->texts->save(
                        $steward,
                        FieldTopic::NAME,
                        $ids[$field] ?? throw new \LogicException(\sprintf('The demo has no field %s.', $field)),
                        $property,
                        '',
                        $value,
                        'demo',
                    );
                }
            }
        }
        $this->models($source, $steward);
        $this->designs($steward);
    }

    /** What the trust needs to lend instruments to schools, begun as sentences. */
    private function designs(Account $steward): void
    {
        $lending = $this->designs->make($steward, (string) file_get_contents(__DIR__.'/lending.outline.txt'));
        $lending->shared = true;
        $this->designs->save();
        // What fieldwork is to say of stations from next season on: begun with what is there, and gone on with.
        $source = $this->entities->getRepository(Source::class)->findOneBy(['name' => 'fieldwork']) ?? throw new \LogicException('No source.');
        $taken = [];
        foreach ($this->store->places($source->id()) as $place => $entry) {
            if (\in_array(Place::ofKey($place)->name, ['station', 'reach', 'catchment', 'visit'], true)) {
                $taken[] = $entry;
            }
        }
        $season = $this->beginning->begin($steward, 'Stations next season', 'what fieldwork is to say of stations from next season on', $source->id(), $taken);
        $text = $season->outline;
        foreach ([
            new Edit('rename attribute', 'Station', 'datum', 'grid'),
            new Edit('set attribute', 'Station', 'name', 'name, text up to 120, required'),
            new Edit('add attribute', 'Station', '', 'access by, one of foot, boat, car; required, foot for rows that are there'),
            new Edit('remove attribute', 'Visit', 'note'),
            new Edit('add thing', '', 'Landing place', 'place where a boat can be put in'),
            new Edit('add attribute', 'Landing place', '', 'name, text up to 80, required'),
            new Edit('say', 'Landing place', '', 'told apart by name'),
            new Edit('add sentence', '', '', 'A station is reached from at most one landing place; a landing place serves any number of stations.'),
        ] as $edit) {
            try {
                $text = Edits::of($text, $edit);
            } catch (EditError $e) {
                throw new \LogicException($e->getMessage()."\n".$text, 0, $e);
            }
        }
        $this->texts->save($steward, DesignTopic::NAME, $season->id(), DesignProperties::OUTLINE, $season->outline, $text, 'demo');
        $season = $this->designs->fresh($season);
        $season->shared = true;
        $this->designs->save();
    }

    /** The model River life, as its file has it, with the trials that are kept with it. */
    private function models(Source $source, Account $steward): void
    {
        $json = (string) file_get_contents(__DIR__.'/river-life.json');
        $model = ModelFile::read($json);
        $kept = $this->editing->begin($steward, $model->name, $model->purpose, $source, $model);
        $kept->shared = true;
        /** @var array{trials: list<array{name: string, neededBy?: string, expected?: string, question: array<string, mixed>}>} $file */
        $file = json_decode($json, true, 64, \JSON_THROW_ON_ERROR);
        foreach ($file['trials'] as $trial) {
            $one = $this->kept->keepTrial($kept, $trial['name'], OpenForm::read(Trial::class, $trial['question']), $steward);
            $one->neededBy = $trial['neededBy'] ?? '';
            $one->expected = $trial['expected'] ?? '';
        }
        $this->kept->save();
        $this->editing->follow($kept, false);
        $this->proving->look($kept, new SilentProgress());
    }

    private function source(): void
    {
        $steward = $this->entities->getRepository(Account::class)->findOneBy(['email' => 'oona@arrowmere.example']) ?? throw new \LogicException('No steward.');
        $source = new Source();
        $source->name = 'fieldwork';
        $source->purpose = 'What happens in the field: stations, readings, visits, samples, sightings, barriers and alerts.';
        $source->owner = 'Oona Lisk';
        $source->connection()->engine = 'mariadb';
        $source->connection()->host = $this->host;
        $source->connection()->port = $this->port;
        $source->connection()->account = self::ACCOUNT;
        $source->connection()->sealedSecret = $this->vault->seal(self::SECRET);
        $source->choose(new Choice());
        $this->entities->persist($source);
        $this->entities->flush();
        $this->surveys->now($source, $steward);
        $steward = $this->entities->getRepository(Account::class)->find($steward->id()) ?? throw new \LogicException('No steward.');
        /**
         * @var array{
         *     entries: array<string, array<string, mixed>>, joins: array<string, array{string, string}>, areas: array<string, list<string>>,
         *     codeLists: array<string, array{string, array<string, string>, list<string>}>, terms: list<array{string, string, string, string, string}>,
         *     profiled: list<string>
         * } $said
         */
        $said = require __DIR__.'/said.php';
        foreach ($said['entries'] as $name => $texts) {
            $entry = $this->store->at($source->id(), new Place('fieldwork', $name)) ?? throw new \LogicException(\sprintf('The demo has no entry %s.', $name));
            $fields = $this->fields->ids([$entry])[$entry] ?? [];
            foreach ($texts as $property => $value) {
                if (\is_string($value)) {
                    $this->texts->save($steward, EntryTopic::NAME, $entry, $property, 'standing' === $property ? 'open' : '', $value, 'demo');
                }
            }
            foreach (\is_array($texts['fields'] ?? null) ? $texts['fields'] : [] as $field => $pair) {
                $id = $fields[(string) $field] ?? throw new \LogicException(\sprintf('The demo has no field %s.', $field));
                foreach (array_combine(['businessName', 'meaning'], (array) $pair) as $property => $value) {
                    $this->texts->save($steward, FieldTopic::NAME, $id, $property, '', \is_string($value) ? $value : '', 'demo');
                }
            }
        }
        foreach ($said['joins'] as $name => $verbs) {
            $id = $this->joins->named($source->id(), $name) ?? throw new \LogicException(\sprintf('The demo has no join %s.', $name));
            foreach (array_combine(['verb', 'verbBack'], $verbs) as $property => $value) {
                $this->texts->save($steward, JoinTopic::NAME, $id, $property, '', $value, 'demo');
            }
        }
        $source = $this->entities->find(Source::class, $source->id()) ?? throw new \LogicException('No source.');
        $this->looking->now($source, new SilentProgress());
        $this->words($source, $steward, $said['areas'], $said['codeLists'], $said['terms']);
        $this->looked($source, $said['profiled']);
        $this->diagrams($source->id());
    }

    /**
     * @param array<string, list<string>>                                         $areas
     * @param array<string, array{string, array<string, string>, list<string>}>   $lists
     * @param list<array{string, string, string, string, string}>                 $terms
     */
    private function words(Source $source, Account $steward, array $areas, array $lists, array $terms): void
    {
        foreach ($areas as $area => $tables) {
            foreach ($tables as $table) {
                $this->texts->save($steward, EntryTopic::NAME, $this->entry($source, $table), 'area', '', $area, 'demo');
            }
        }
        foreach ($lists as $name => [$meaning, $codes, $fields]) {
            $this->lists->make($name, $codes, $meaning);
            foreach ($fields as $field) {
                [$table, $column] = explode('.', $field);
                $id = $this->fields->ids([$this->entry($source, $table)])[$this->entry($source, $table)][$column] ?? throw new \LogicException($field);
                $this->texts->save($steward, FieldTopic::NAME, $id, 'allowed', '', 'code list '.$name, 'demo');
            }
        }
        $this->terms->takeIn(array_map(static fn (array $term): array => [
            'name' => $term[0], 'area' => $term[1], 'definition' => $term[2], 'synonyms' => $term[3],
        ], $terms));
        foreach ($terms as [$name, , , , $broader]) {
            if ('' !== $broader) {
                $this->texts->save($steward, 'term', $this->terms->named($name)[0]->id, 'broader', '', $broader, 'demo');
            }
        }
    }

    /** @param list<string> $tables whose data is looked at */
    private function looked(Source $source, array $tables): void
    {
        $profiling = new Profiling($this->sources, $this->sources->target($source));
        foreach ($tables as $name) {
            $entry = $this->entry($source, $name);
            $table = $this->register->entry($entry) ?? throw new \LogicException($name);
            $ids = $this->fields->ids([$entry])[$entry] ?? [];
            [$of] = $this->lists->allowed(array_values($ids));
            $allowed = array_filter(array_map(static fn (int $id) => $of[$id] ?? null, $ids));
            $this->profiles->keep($entry, $profiling->table($table, [], [], new SilentProgress(), $allowed));
        }
    }

    private function entry(Source $source, string $table): int
    {
        return $this->store->at($source->id(), new Place('fieldwork', $table)) ?? throw new \LogicException(\sprintf('The demo has no entry %s.', $table));
    }

    private function diagrams(int $source): void
    {
        /**
         * @var array<string, array{
         *     purpose: string, detail: string, tablets: array<string, array<string, mixed>>, notes: array<string, array<string, mixed>>
         * }> $kept
         */
        $kept = require __DIR__.'/diagrams.php';
        foreach ($kept as $name => $made) {
            $steward = $this->entities->getRepository(Account::class)->findOneBy(['email' => 'oona@arrowmere.example'])
                ?? throw new \LogicException('No steward.');
            $pieces = $made['notes'];
            $entries = [];
            foreach ($made['tablets'] as $table => $piece) {
                $entry = $this->store->at($source, new Place('fieldwork', $table)) ?? throw new \LogicException(\sprintf('The demo has no entry %s.', $table));
                $pieces['t'.$entry] = $piece;
                $entries[$entry] = [0.0, 0.0];
            }
            $diagram = $this->diagrams->begin($steward, $name, $made['purpose'], $entries, Detail::from($made['detail']));
            $this->board->apply($steward, $diagram->id(), $pieces, [], $diagram->moves, 'demo');
        }
    }
}
