<?php

declare(strict_types=1);

namespace Fasti\Source;

use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/** The database in which Fasti keeps the register: no source, since whoever read it would read everything that is written here. */
final readonly class OwnDatabase
{
    public function __construct(
        #[Autowire('%env(DATABASE_HOST)%')]
        private string $host,
        #[Autowire('%env(int:DATABASE_PORT)%')]
        private int $port,
        #[Autowire('%env(DATABASE_NAME)%')]
        private string $name,
        #[Autowire('%env(DATABASE_USER)%')]
        private string $account,
    ) {
    }

    /**
     * The server may hold other databases too, as in the demo; only Fasti's account and Fasti's database are refused.
     *
     * @throws SourceError
     */
    public function refuse(Target $target): void
    {
        if ($target->port !== $this->port || [] === array_intersect(self::addresses($target->host), self::addresses($this->host))) {
            return;
        }
        if (0 === strcasecmp($target->account, $this->account) || 0 === strcasecmp($target->database, $this->name)) {
            throw new SourceError(
                'This is Fasti\'s own database, which it does not read as a source.',
                'Name the database that is to be documented, and an account that may read that one only.',
            );
        }
    }

    /** @return list<string> addresses that a host stands for; every one of the machine itself counts as the same */
    private static function addresses(string $host): array
    {
        $plain = trim(strtolower($host), '[]');
        $found = false !== filter_var($plain, \FILTER_VALIDATE_IP) ? [$plain] : (gethostbynamel($plain) ?: [$plain]);

        return array_map(
            static fn (string $address): string => 1 === preg_match(
                '/^(?:127\.|0\.0\.0\.0$|::1$|::$|(?:0:){7}1$|::ffff:(?:127\.|7f)|localhost$)/',
                $address,
            ) ? 'here' : $address,
            $found,
        );
    }
}
