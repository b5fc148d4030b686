<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Account;

use Doctrine\DBAL\Driver\PDO\Exception as DriverFault;
use Doctrine\DBAL\Exception\ConnectionException;
use Doctrine\DBAL\Exception\DriverException;
use Fasti\Account\Account;
use Fasti\Account\Outage;
use Fasti\Tests\App\AppTestCase;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpFoundation\Session\Session;
use Symfony\Component\HttpFoundation\Session\Storage\MockArraySessionStorage;
use Symfony\Component\HttpKernel\Event\ExceptionEvent;
use Symfony\Component\HttpKernel\HttpKernelInterface;
use Symfony\Component\Security\Core\Authentication\Token\Storage\TokenStorageInterface;
use Symfony\Component\Security\Http\Authenticator\Token\PostAuthenticationToken;

/** While the database is away nobody is signed out, and everybody is told. */
final class OutageTest extends AppTestCase
{
    #[DataProvider('faults')]
    public function testThePersonStaysAndIsTold(\Throwable $fault): void
    {
        $response = $this->answered($fault, 'GET', []);

        self::assertNotNull($response);
        self::assertSame(503, $response->getStatusCode());
        self::assertSame('3', $response->headers->get('Retry-After'));
        self::assertStringContainsString('You are still signed in', (string) $response->getContent());
        self::assertStringContainsString('http-equiv="refresh"', (string) $response->getContent());
        $user = self::get(TokenStorageInterface::class)->getToken()?->getUser();
        self::assertSame('oona.lisk.steward@example.org', $user?->getUserIdentifier());
    }

    /** @return iterable<string, array{\Throwable}> */
    public static function faults(): iterable
    {
        $pdo = new \PDOException('SQLSTATE[HY000] [2002] Connection refused', 2002);
        $pdo->errorInfo = ['HY000', 2002, 'Connection refused'];
        yield 'no connection' => [new ConnectionException(DriverFault::new($pdo), null)];
        yield 'within a template' => [new \RuntimeException('An exception has been thrown', 0, new ConnectionException(DriverFault::new($pdo), null))];
        foreach ([1040, 1053, 1158, 1159, 1160, 1161, 1203, 1927, 2002, 2003, 2006, 2013] as $code) {
            yield "number $code" => [self::fault($code)];
        }
    }

    private static function fault(int $code): DriverException
    {
        $pdo = new \PDOException('It failed', $code);
        $pdo->errorInfo = ['HY000', $code, 'It failed'];

        return new DriverException(DriverFault::new($pdo), null);
    }

    public function testNumbersBesideThoseAreFaultsLikeOthers(): void
    {
        foreach ([1039, 1041, 1052, 1054, 1157, 1162, 1202, 1204, 1926, 1928, 2001, 2004, 2005, 2007, 2012, 2014] as $code) {
            self::assertNull($this->answered(self::fault($code), 'GET', []), "number $code");
        }
    }

    public function testAFormIsSaidNotToBeSavedAndAScriptIsToldInItsOwnWay(): void
    {
        $fault = [...self::faults()]['no connection'][0];
        $form = $this->answered($fault, 'POST', []);
        self::assertStringContainsString('was not saved', (string) $form?->getContent());
        self::assertStringNotContainsString('http-equiv="refresh"', (string) $form?->getContent());
        $script = $this->answered($fault, 'POST', ['HTTP_X_REQUESTED_WITH' => 'fetch']);
        self::assertNotNull($script);
        self::assertSame(503, $script->getStatusCode());
        self::assertStringContainsString('cannot be reached', (string) $script->getContent());
        self::assertJson((string) $script->getContent());
    }

    public function testAnotherFaultIsNoneOfItsBusiness(): void
    {
        $duplicate = new \PDOException('Duplicate entry', 1062);
        $duplicate->errorInfo = ['23000', 1062, 'Duplicate entry'];

        self::assertNull($this->answered(new DriverException(DriverFault::new($duplicate), null), 'GET', []));
        self::assertNull(self::get(TokenStorageInterface::class)->getToken());
    }

    /** @param array<string, string> $headers */
    private function answered(\Throwable $fault, string $method, array $headers): ?Response
    {
        $account = self::db()->fetchOne("SELECT 1 FROM account WHERE email = 'oona.lisk.steward@example.org'") ? null : $this->account();
        $account ??= self::get(\Doctrine\ORM\EntityManagerInterface::class)->getRepository(Account::class)->findOneBy(
            ['email' => 'oona.lisk.steward@example.org'],
        ) ?? throw new \LogicException();
        $session = new Session(new MockArraySessionStorage());
        $session->set('_security_main', serialize(new PostAuthenticationToken($account, 'main', $account->getRoles())));
        $request = Request::create('/register', $method, [], [$session->getName() => 'x'], [], $headers);
        $request->setSession($session);
        self::get(TokenStorageInterface::class)->setToken(null);
        $event = new ExceptionEvent(self::$kernel ?? throw new \LogicException(), $request, HttpKernelInterface::MAIN_REQUEST, $fault);
        self::get(Outage::class)->answer($event);

        return $event->getResponse();
    }
}
