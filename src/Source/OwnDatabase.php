<?php

declare(strict_types=1);

namespace Fasti\Source;

use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/**
 * What a host stands for, found out before anything is connected to; and the database in which Fasti keeps the register, which is no
 * source, since whoever read it would read everything that is written here.
 */
final readonly class OwnDatabase
{
    private const HERE = 'here';
    private const NAME = '/^(?=.{1,253}$)[\p{L}\p{N}_](?:[\p{L}\p{N}_-]*[\p{L}\p{N}_])?(?:\.[\p{L}\p{N}_](?:[\p{L}\p{N}_-]*[\p{L}\p{N}_])?)*\.?$/u';

    /** @param string $sockets folders and files of sockets that may be a host, separated by commas; an administrator lists them */
    public function __construct(
        #[Autowire('%env(DATABASE_HOST)%')]
        private string $host,
        #[Autowire('%env(int:DATABASE_PORT)%')]
        private int $port,
        #[Autowire('%env(DATABASE_NAME)%')]
        private string $name,
        #[Autowire('%env(DATABASE_USER)%')]
        private string $account,
        #[Autowire('%env(FASTI_SOCKETS)%')]
        private string $sockets = '',
    ) {
    }

    /**
     * The addresses at which a target may be reached: what is connected to is one of these, not the name, which could stand for something
     * else a moment later. The server of Fasti's own database may hold others too, as in the demo; only Fasti's account and Fasti's
     * database are refused.
     *
     * @return non-empty-list<string>
     *
     * @throws SourceError
     */
    public function addresses(Target $target): array
    {
        $host = trim($target->host);
        if (1 === preg_match('#^[/@\\\\]|[\x00-\x1f;\s]|/#', $host)) {
            return [$this->socket($host)];
        }
        $found = self::resolved($host);
        if ([] === $found) {
            throw new SourceError(\sprintf('No host is known by the name “%s”.', $target->host), 'Check the spelling, or use its address.');
        }
        $own = array_map(self::machine(...), [...self::resolved($this->host), $this->host]);
        if ($target->port === $this->port && [] !== array_intersect(array_map(self::machine(...), $found), $own)) {
            $this->refuse($target);
        }

        return $found;
    }

    /** @throws SourceError */
    private function refuse(Target $target): void
    {
        if (0 === strcasecmp(trim($target->account), $this->account) || 0 === strcasecmp(trim($target->database), $this->name)) {
            throw new SourceError(
                'This is Fasti\'s own database, which it does not read as a source.',
                'Name the database that is to be documented, and an account that may read that one only.',
            );
        }
    }

    /** @throws SourceError */
    private function socket(string $host): string
    {
        $listed = array_filter(array_map(trim(...), explode(',', $this->sockets)));
        $real = str_starts_with($host, '/') ? realpath($host) : false;
        foreach ($listed as $one) {
            if (false !== $real && realpath($one) === $real) {
                return $real;
            }
        }
        if (!str_starts_with($host, '/')) {
            throw new SourceError('The host holds a character that no name may have.', 'Check it for spaces, slashes and semicolons.');
        }
        throw new SourceError(
            'A socket of the machine is used as a source only where an administrator listed it.',
            'Use the name or the address of a host, or have the socket added to FASTI_SOCKETS in .env.local.',
        );
    }

    /** @return list<string> addresses in their plain form, those of the fourth version first */
    private static function resolved(string $host): array
    {
        $plain = trim($host, '[]');
        if ('' === $plain || (false === filter_var($plain, \FILTER_VALIDATE_IP) && 1 !== preg_match(self::NAME, $plain))) {
            return [];
        }
        if (0 === strcasecmp('localhost', rtrim($plain, '.'))) {
            return ['127.0.0.1', '::1'];
        }
        // As the libraries of the engines would: 0x7f000001, 2130706433 and 127.1 are addresses to them too.
        $found = [];
        $known = @socket_addrinfo_lookup($plain, null, ['ai_socktype' => \SOCK_STREAM]);
        foreach (false === $known ? [] : $known as $one) {
            $place = socket_addrinfo_explain($one)['ai_addr'] ?? [];
            $address = \is_array($place) ? ($place['sin_addr'] ?? $place['sin6_addr'] ?? null) : null;
            if (\is_string($address)) {
                $found[] = $address;
            }
        }
        $found = array_values(array_unique($found));
        usort($found, static fn (string $a, string $b): int => str_contains($a, ':') <=> str_contains($b, ':'));

        return $found;
    }

    /** One word for every address of this machine. */
    private static function machine(string $address): string
    {
        $bytes = @inet_pton(trim($address, '[]'));
        if (false === $bytes) {
            return $address;
        }
        // The fourth version within the sixth: mapped (RFC 4291), and by NAT64 (RFC 6052).
        foreach (["\0\0\0\0\0\0\0\0\0\0\xff\xff", "\0\x64\xff\x9b\0\0\0\0\0\0\0\0"] as $prefix) {
            if (16 === \strlen($bytes) && str_starts_with($bytes, $prefix)) {
                $bytes = substr($bytes, 12);
            }
        }
        $own = match (\strlen($bytes)) {
            4 => "\x7f" === $bytes[0] || "\0" === $bytes[0],
            default => \in_array($bytes, [str_repeat("\0", 16), str_repeat("\0", 15)."\1"], true),
        };
        if (!$own) {
            foreach (@net_get_interfaces() ?: [] as $interface) {
                foreach (\is_array($interface) && \is_array($interface['unicast'] ?? null) ? $interface['unicast'] : [] as $one) {
                    $own = $own || (\is_array($one) && \is_string($one['address'] ?? null) && @inet_pton($one['address']) === $bytes);
                }
            }
        }

        return $own ? self::HERE : (string) inet_ntop($bytes);
    }
}
