<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Fasti\Source\OwnDatabase;
use Fasti\Work\CurrentJob;
use Psr\Log\LoggerInterface;

/** What servers have in common, whatever their engine. */
abstract class ServerConnector extends SessionConnector
{
    private const NOTHING = 'Nothing answers at ';

    public function __construct(private readonly OwnDatabase $own, CurrentJob $job, LoggerInterface $logger)
    {
        parent::__construct($job, $logger);
    }

    /**
     * What opens a door to it.
     *
     * @param string $address an address, or the path of a socket or of the folder of one
     *
     * @return list<mixed> what PdoDoor takes
     */
    abstract protected function opening(string $address, Target $target, int $connect, int $seconds): array;

    public function fields(): array
    {
        return ['url', 'host', 'port', 'database', 'account', 'secret'];
    }

    public function rows(Target $target, int $connect, int $seconds): Session
    {
        // Where a name stands for several addresses, the first that answers is taken; the limit is one for all.
        $until = microtime(true) + $connect;
        $addresses = $this->own->addresses($target);
        foreach ($addresses as $i => $address) {
            $left = max(1, (int) ceil($until - microtime(true)));
            try {
                return $this->session(
                    $target,
                    $left,
                    $seconds,
                    Served::beside(...),
                    ['door' => PdoDoor::class, 'with' => $this->opening($address, $target, $left, $seconds)],
                );
            } catch (SourceError $e) {
                if ($i === array_key_last($addresses) || microtime(true) >= $until || !str_starts_with($e->getMessage(), self::NOTHING)) {
                    throw $e;
                }
            }
        }
        throw new SourceError(...self::noSuchHost($target));
    }

    protected function at(Target $target): string
    {
        return $target->host.':'.$target->port;
    }

    protected function mute(Target $target, int $connect): array
    {
        return [
            \sprintf('%s did not answer within %d seconds.', $this->at($target), $connect),
            'Check the address, and whether a firewall stands between.',
        ];
    }

    /** @return array{string, string} */
    protected static function noSuchHost(Target $target): array
    {
        return [\sprintf('No host is known by the name “%s”.', $target->host), 'Check the spelling, or use its address.'];
    }

    /** @return array{string, string} */
    protected function refused(Target $target): array
    {
        return [self::NOTHING.$this->at($target).'.', 'Check the port, and that the database is running and listens on that address.'];
    }

    /** @return array{string, string} */
    protected function wrongPassword(Target $target): array
    {
        return [
            \sprintf('The server at %s does not accept this account with this password.', $this->at($target)),
            'Check both; letters count as capital and small.',
        ];
    }

    /** @return array{string, string} */
    protected static function mayNotRead(): array
    {
        return ['The account may not read this.', 'It needs SELECT on what is to be documented; nothing more.'];
    }
}
