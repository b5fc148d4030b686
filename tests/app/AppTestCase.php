<?php

declare(strict_types=1);

namespace Fasti\Tests\App;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Role;
use Fasti\Account\Roles;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Register\ApplyCatalog;
use Fasti\Source\Source;
use Fasti\Source\Vault;
use Fasti\Support\Row;
use Fasti\Survey\Surveys;
use Fasti\Work\RunJob;
use Fasti\Work\RunJobHandler;
use Symfony\Bundle\FrameworkBundle\KernelBrowser;
use Symfony\Bundle\FrameworkBundle\Test\WebTestCase;

/** The application through its kernel, on a real MariaDB; each test is rolled back. */
abstract class AppTestCase extends WebTestCase
{
    protected KernelBrowser $client;

    protected function setUp(): void
    {
        $this->client = static::createClient();
    }

    /**
     * @template T of object
     *
     * @param class-string<T> $class
     *
     * @return T
     */
    protected static function get(string $class): object
    {
        $service = static::getContainer()->get($class);

        return $service instanceof $class ? $service : throw new \LogicException($class);
    }

    protected static function db(): Connection
    {
        return self::get(Connection::class);
    }

    protected static function port(): int
    {
        return Row::int(['port' => $_SERVER['DATABASE_PORT'] ?? 33460], 'port');
    }

    /** @param string $role by its name */
    protected function account(string $role = Role::STEWARD, string $name = 'Oona Lisk'): Account
    {
        $account = new Account();
        $account->email = strtolower(strtr($name, ' ', '.')).'.'.strtr($role, ' ', '-').'@example.org';
        $account->name = $name;
        $account->role = self::get(Roles::class)->named($role) ?? throw new \LogicException($role);
        $account->setPassword('x');
        $entities = self::get(EntityManagerInterface::class);
        $entities->persist($account);
        $entities->flush();

        return $account;
    }

    /**
     * A role made for the test, in which nothing but these acts is.
     *
     * @param array<string> $acts
     */
    protected function roleOf(array $acts): string
    {
        $role = new Role('r'.random_int(0, \PHP_INT_MAX));
        $role->allow(array_values($acts));
        self::get(Roles::class)->save($role);

        return $role->name;
    }

    protected function signedIn(string $role = Role::STEWARD, string $name = 'Oona Lisk'): Account
    {
        $account = $this->account($role, $name);
        $this->client->loginUser($account);

        return $account;
    }

    protected function source(string $name = 'rivers', string $database = '', string $account = OddSchema::ACCOUNT, string $secret = OddSchema::SECRET): Source
    {
        $source = new Source();
        $source->name = $name;
        $source->connection()->engine = 'mariadb';
        $connection = $source->connection();
        $connection->host = '127.0.0.1';
        $connection->port = self::port();
        $connection->account = $account;
        $connection->database = $database;
        $source->connection()->sealedSecret = self::get(Vault::class)->seal($secret);
        $entities = self::get(EntityManagerInterface::class);
        $entities->persist($source);
        $entities->flush();

        return $source;
    }

    /** Surveys here and now; gives the id of the survey. */
    protected static function surveyed(int $source): int
    {
        $found = self::get(EntityManagerInterface::class)->find(Source::class, $source) ?? throw new \LogicException('No such source.');

        return self::get(Surveys::class)->now($found, null)->id();
    }

    /** What a worker does with a job that waits. */
    protected static function work(int $job): void
    {
        self::get(RunJobHandler::class)(new RunJob($job));
    }

    protected static function state(int $job): string
    {
        return Row::text(['state' => self::db()->fetchOne('SELECT state FROM job WHERE id = ?', [$job])], 'state');
    }

    /** Long after its worker was last heard of. */
    protected static function fallSilent(int $job): void
    {
        self::db()->executeStatement("UPDATE job SET state = 'running', heard_at = UTC_TIMESTAMP() - INTERVAL 1 HOUR WHERE id = ?", [$job]);
    }

    /** @return array<string, int> */
    protected static function apply(Source $source, Catalog $catalog, ?Choice $choice = null): array
    {
        return self::get(ApplyCatalog::class)->apply($source->id(), $catalog, $choice ?? new Choice(), new SilentProgress());
    }

    protected static function entryId(string $name): int
    {
        return self::scalar('SELECT id FROM entry WHERE name = ?', $name);
    }

    protected static function fieldId(string $entry, string $name): int
    {
        return self::scalar('SELECT f.id FROM field f JOIN entry e ON e.id = f.entry_id WHERE e.name = ? AND f.name = ?', $entry, $name);
    }

    protected static function scalar(string $sql, string|int ...$parameters): int
    {
        return Row::int(['n' => self::db()->fetchOne($sql, $parameters)], 'n');
    }

    protected function content(): string
    {
        return (string) $this->client->getResponse()->getContent();
    }

    /** @return array<mixed> */
    protected function answer(): array
    {
        $answer = json_decode($this->content(), true);

        return \is_array($answer) ? $answer : [];
    }

    /** The token that a page of the signed-in person carries for saving texts. */
    protected function textsToken(): string
    {
        return (string) $this->client->request('GET', '/sources')->filter('meta[name="texts-token"]')->attr('content');
    }

    /** @param array<mixed> $body */
    protected function post(string $url, array $body, string $token): void
    {
        $this->client->request(
            'POST', $url, [], [], ['CONTENT_TYPE' => 'application/json', 'HTTP_X_CSRF_TOKEN' => $token, 'HTTP_X_REQUESTED_WITH' => 'fetch'],
            json_encode($body, \JSON_THROW_ON_ERROR),
        );
    }
}
