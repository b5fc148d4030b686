<?php

declare(strict_types=1);

namespace Fasti\Source;

use Fasti\Core\Survey\Inventory;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Fasti\Source\Connector\Connectors;

/** Opens sources for reading. */
final readonly class Sources
{
    /** Seconds until a source has let us in and answered once: where a person waits for it, and in jobs. */
    public const AT_ONCE = 2;
    public const IN_JOBS = 10;
    private const READING = 120;

    public function __construct(private Vault $vault, private Connectors $connectors)
    {
    }

    /** @throws SourceError */
    public function reader(Target $target, int $connect = self::IN_JOBS, int $seconds = self::READING): Reader
    {
        return $this->connectors->of($target->engine)->reader($target, $connect, $seconds);
    }

    /**
     * A session for questions to the data, or null for files, which are read as they are.
     *
     * @throws SourceError
     */
    public function rows(Target $target, int $seconds, int $connect = self::IN_JOBS): ?Rows
    {
        return $this->connectors->of($target->engine)->rows($target, $connect, $seconds);
    }

    /**
     * Where a source is reached at present.
     *
     * @throws SourceError
     */
    public function target(Source $source): Target
    {
        return $this->targetOf($source->connection());
    }

    /** @throws SourceError */
    public function targetOf(Connection $connection): Target
    {
        try {
            $secret = $this->vault->open($connection->sealedSecret);
        } catch (\RuntimeException $e) {
            throw new SourceError($e->getMessage(), '', $e);
        }

        return new Target(
            $connection->engine, $connection->host, $connection->port, $connection->database, $connection->account, $secret, $connection->path,
            $connection->dialect,
        );
    }

    /**
     * Looks at what a connection shows, and keeps it, so that choosing what to read connects to nothing.
     *
     * @throws SourceError
     */
    public function look(Connection $connection): Inventory
    {
        $inventory = $this->reader($this->targetOf($connection), self::AT_ONCE, 30)->inventory();
        $connection->inventory = ['server' => $inventory->server, 'schemas' => $inventory->schemas];
        $connection->lookedAt = new \DateTimeImmutable();

        return $inventory;
    }

    /** What it showed when it was last looked at. */
    public static function seen(Connection $connection): ?Inventory
    {
        return null === $connection->inventory ? null : new Inventory($connection->inventory['server'], $connection->inventory['schemas']);
    }
}
