<?php

declare(strict_types=1);

namespace Fasti\Account;

use Doctrine\DBAL\Connection;
use Fasti\Support\Row;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpFoundation\RequestStack;
use Symfony\Component\PasswordHasher\Hasher\PasswordHasherFactoryInterface;
use Symfony\Component\Security\Core\Exception\CustomUserMessageAuthenticationException;
use Symfony\Component\Security\Core\Exception\UserNotFoundException;
use Symfony\Component\Security\Http\Event\CheckPassportEvent;
use Symfony\Component\Security\Http\Event\LoginFailureEvent;
use Symfony\Component\Security\Http\Event\LoginSuccessEvent;

/**
 * Slows guessing down. Tries are counted for an account and an address of a caller together, for the address alone and for
 * the account alone, whatever way of writing finds the account. Of each, some are free; then each next one has to wait,
 * twice as long each time, up to the longest wait. An account by itself is hardly slowed, so that nobody can lock another
 * person out of it, and not at all for callers who have signed in to it before.
 *
 * A try is counted before its password is looked at, so that many at once are counted as well; one that is refused is not.
 */
final readonly class SlowSignIn
{
    /** What is counted → [tries that are free, longest wait in seconds]. */
    private const LIMITS = ['pair' => [5, 900], 'caller' => [30, 300], 'account' => [12, 8]];
    private const FIRST_WAIT = 5;
    private const FORGOTTEN_AFTER_HOURS = 24;
    /** For so long a caller is known to have signed in to an account. */
    private const KNOWN_FOR_DAYS = 90;

    public function __construct(private Connection $db, private RequestStack $requests, private PasswordHasherFactoryInterface $hashers)
    {
    }

    /** After the token of the form has been checked, before anybody asks whether there is such an account. */
    #[AsEventListener(priority: 300)]
    public function before(CheckPassportEvent $event): void
    {
        $wait = $this->db->transactional(function (): int {
            $counters = $this->counters();
            $known = false;
            $wait = 0;
            foreach ($counters as $what => $who) {
                $row = $this->db->fetchAssociative(
                    'SELECT failures, TIMESTAMPDIFF(SECOND, last, UTC_TIMESTAMP()) AS ago, succeeded_at > UTC_TIMESTAMP() - INTERVAL ? DAY AS known
                        FROM sign_in_failure WHERE who = ? FOR UPDATE',
                    [self::KNOWN_FOR_DAYS, $who],
                );
                if (false === $row) {
                    continue;
                }
                $known = $known || 'pair' === $what && '1' === (string) Row::maybeInt($row, 'known');
                if ('account' !== $what || !$known) {
                    $wait = max($wait, self::wait($what, Row::int($row, 'failures'), Row::int($row, 'ago')));
                }
            }
            if ($wait <= 0) {
                foreach ($counters as $who) {
                    $this->db->executeStatement(
                        'INSERT INTO sign_in_failure (who, failures, last) VALUES (?, 1, UTC_TIMESTAMP())
                         ON DUPLICATE KEY UPDATE failures = IF(last < UTC_TIMESTAMP() - INTERVAL ? HOUR, 1, failures + 1), last = UTC_TIMESTAMP()',
                        [$who, self::FORGOTTEN_AFTER_HOURS],
                    );
                }
            }

            return $wait;
        });
        if ($wait > 0) {
            throw new CustomUserMessageAuthenticationException(\sprintf('Too many failed tries. Wait %d seconds, then try again.', $wait));
        }
    }

    #[AsEventListener]
    public function failed(LoginFailureEvent $event): void
    {
        for ($why = $event->getException(); null !== $why; $why = $why->getPrevious()) {
            if ($why instanceof UserNotFoundException) {
                // For an address that has an account a hash is worked out; for one that has none it would not be, which tells the two apart.
                $this->hashers->getPasswordHasher(Account::class)->hash('nobody');
            }
        }
    }

    #[AsEventListener]
    public function succeeded(LoginSuccessEvent $event): void
    {
        $counters = $this->counters();
        $this->db->executeStatement('UPDATE sign_in_failure SET failures = 0, succeeded_at = UTC_TIMESTAMP() WHERE who = ?', [$counters['pair']]);
        // The try that succeeded was no failure; those of others stay counted.
        $this->db->executeStatement(
            'UPDATE sign_in_failure SET failures = failures - 1 WHERE failures > 0 AND who IN (?, ?)',
            [$counters['caller'], $counters['account']],
        );
        $this->db->executeStatement(
            'DELETE FROM sign_in_failure
                WHERE last < UTC_TIMESTAMP() - INTERVAL ? HOUR AND (succeeded_at IS NULL OR succeeded_at < UTC_TIMESTAMP() - INTERVAL ? DAY)',
            [self::FORGOTTEN_AFTER_HOURS, self::KNOWN_FOR_DAYS],
        );
    }

    private static function wait(string $what, int $failures, int $ago): int
    {
        [$free, $longest] = self::LIMITS[$what];
        $over = $failures - $free;
        if ($over < 0 || $ago > self::FORGOTTEN_AFTER_HOURS * 3600) {
            return 0;
        }

        return (int) min($longest, self::FIRST_WAIT * 2 ** min(20, $over)) - $ago;
    }

    /** @return array{pair: string, caller: string, account: string} keys of what is counted, in the order in which they are locked */
    private function counters(): array
    {
        $request = $this->requests->getMainRequest();
        $typed = mb_strtolower(trim($request?->request->getString('email') ?? ''));
        // The database decides which account a text finds, and it takes some letters for equal that look different.
        $found = $this->db->fetchOne('SELECT id FROM account WHERE email = ?', [$typed]);
        $account = is_numeric($found) ? 'account '.$found : 'nobody '.$typed;
        $caller = $request?->getClientIp() ?? '';
        $key = static fn (string $what, string $of): string => hash('sha256', $what."\0".$of);

        return ['pair' => $key('pair', $account."\0".$caller), 'caller' => $key('caller', $caller), 'account' => $key('account', $account)];
    }
}
