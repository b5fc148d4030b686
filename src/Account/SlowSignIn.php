<?php

declare(strict_types=1);

namespace Fasti\Account;

use Doctrine\DBAL\Connection;
use Fasti\Support\Row;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpFoundation\RequestStack;
use Symfony\Component\Security\Core\Exception\CustomUserMessageAuthenticationException;
use Symfony\Component\Security\Http\Event\CheckPassportEvent;
use Symfony\Component\Security\Http\Event\LoginFailureEvent;
use Symfony\Component\Security\Http\Event\LoginSuccessEvent;

/**
 * Slows guessing down: after five failures for one account name from one address the next try has to wait, twice as
 * long each time, a quarter of an hour at most. Another person's sign-in is not held up by it.
 */
final readonly class SlowSignIn
{
    private const FREE = 5;
    private const LONGEST = 900;

    public function __construct(private Connection $db, private RequestStack $requests)
    {
    }

    #[AsEventListener(priority: 2000)]
    public function before(CheckPassportEvent $event): void
    {
        $row = $this->db->fetchAssociative('SELECT failures, TIMESTAMPDIFF(SECOND, last, UTC_TIMESTAMP()) AS ago FROM sign_in_failure WHERE who = ?', [$this->who()]);
        if (false === $row) {
            return;
        }
        $over = Row::int($row, 'failures') - self::FREE;
        $wait = $over < 0 ? 0 : min(self::LONGEST, 2 ** min(20, $over) * 5) - Row::int($row, 'ago');
        if ($wait > 0) {
            throw new CustomUserMessageAuthenticationException(\sprintf('Too many failed tries. Wait %d seconds, then try again.', $wait));
        }
    }

    #[AsEventListener]
    public function failed(LoginFailureEvent $event): void
    {
        if (!str_starts_with($event->getException()->getMessage(), 'Too many failed tries')) {
            $this->db->executeStatement('INSERT INTO sign_in_failure (who, failures, last) VALUES (?, 1, UTC_TIMESTAMP()) ON DUPLICATE KEY UPDATE failures = failures + 1, last = UTC_TIMESTAMP()', [$this->who()]);
        }
    }

    #[AsEventListener]
    public function succeeded(LoginSuccessEvent $event): void
    {
        $this->db->executeStatement('DELETE FROM sign_in_failure WHERE who = ? OR last < UTC_TIMESTAMP() - INTERVAL 1 DAY', [$this->who()]);
    }

    private function who(): string
    {
        $request = $this->requests->getMainRequest();

        return hash('sha256', mb_strtolower(trim($request?->request->getString('email') ?? ''))."\0".($request?->getClientIp() ?? ''));
    }
}
