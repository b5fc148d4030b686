<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Fasti\Source\OwnDatabase;

/** What servers have in common, whatever their engine. */
abstract class ServerConnector extends PdoConnector
{
    public function __construct(private readonly OwnDatabase $own)
    {
    }

    abstract protected function opened(string $host, Target $target, int $seconds): \PDO;

    public function fields(): array
    {
        return ['url', 'host', 'port', 'database', 'account', 'secret'];
    }

    protected function connected(Target $target, int $seconds): \PDO
    {
        // The client library would take "localhost" as an order to use a socket file.
        $host = 'localhost' === strtolower($target->host) ? '127.0.0.1' : $target->host;
        if (1 === preg_match('/[;\s]/', $host)) {
            throw new SourceError('The host holds a character that no name may have.', 'Check it for spaces and semicolons.');
        }
        $this->own->refuse($target);

        return $this->opened($host, $target, $seconds);
    }

    protected function unknown(string $said, Target $target): string
    {
        return \sprintf('The server at %s answered with an error: %s', self::at($target), $said);
    }

    protected static function at(Target $target): string
    {
        return $target->host.':'.$target->port;
    }

    /** @return array{string, string} */
    protected static function noSuchHost(Target $target): array
    {
        return [\sprintf('No host is known by the name “%s”.', $target->host), 'Check the spelling, or use its address.'];
    }

    /** @return array{string, string} */
    protected static function refused(Target $target): array
    {
        return [\sprintf('Nothing answers at %s.', self::at($target)), 'Check the port, and that the database is running and listens on that address.'];
    }

    /** @return array{string, string} */
    protected static function silent(Target $target): array
    {
        return [
            \sprintf('%s did not answer within %d seconds.', self::at($target), self::CONNECT_SECONDS),
            'Check the address, and whether a firewall stands between.',
        ];
    }

    /** @return array{string, string} */
    protected static function wrongPassword(Target $target): array
    {
        return [
            \sprintf('The server at %s does not accept this account with this password.', self::at($target)),
            'Check both; letters count as capital and small.',
        ];
    }

    /** @return array{string, string} */
    protected static function mayNotRead(): array
    {
        return ['The account may not read this.', 'It needs SELECT on what is to be documented; nothing more.'];
    }

    /** @return array{string, string, string} */
    protected static function lost(Target $target): array
    {
        return [
            \sprintf('The connection to %s was lost in the middle of reading.', self::at($target)),
            'Nothing has been changed here. Try again when the server is up.',
            SourceError::LOST,
        ];
    }
}
