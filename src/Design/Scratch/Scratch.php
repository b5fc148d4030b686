<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Connector\PdoRows;

/** An empty database of a scratch server, for as long as somebody tries something in it. */
final readonly class Scratch
{
    /**
     * @param string $loose  the statement after which rows may lead to nothing
     * @param string $strict the one after which they may not any more
     */
    public function __construct(public \PDO $pdo, public Dialect $dialect, public string $schema, private string $loose, private string $strict)
    {
    }

    /** @throws SourceError with what the engine says */
    public function exec(string $sql): void
    {
        try {
            $this->pdo->exec($sql);
        } catch (\PDOException $e) {
            throw $this->explained($e);
        }
    }

    /**
     * Puts rows in without looking where they lead: those of a sample fit together, but come in no particular order.
     *
     * @param iterable<string> $statements
     *
     * @throws SourceError
     */
    public function put(iterable $statements): int
    {
        $this->exec($this->loose);
        $count = 0;
        foreach ($statements as $sql) {
            $this->exec($sql);
            ++$count;
        }
        $this->exec($this->strict);

        return $count;
    }

    public function rows(): PdoRows
    {
        return new PdoRows($this->pdo, $this->explained(...));
    }

    /** @throws SourceError */
    public function catalog(Progress $progress): Catalog
    {
        $reader = $this->dialect->reader($this->rows(), '') ?? throw new \LogicException('This engine is not read.');
        $server = null !== $this->dialect->manners()->home ? [] : [$this->schema];

        return $reader->read(new Choice($server), $progress);
    }

    private function explained(\PDOException $e): SourceError
    {
        $said = preg_replace('/^SQLSTATE\[\w+\]:? ?(?:\[\d+\] )?/', '', $e->getMessage()) ?? $e->getMessage();
        $lost = 1 === preg_match('/gone away|server closed|no connection|lost connection|terminating connection/i', $said);

        return $lost
            ? new SourceError('The scratch server died in the middle.', 'Nothing of yours was on it. Run it again.', $e, SourceError::LOST)
            : new SourceError(trim($said), '', $e);
    }
}
