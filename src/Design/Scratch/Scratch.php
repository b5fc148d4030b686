<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Connector\Fault;
use Fasti\Source\Connector\Session;

/**
 * An empty database of a scratch server, for as long as somebody tries something in it. What is tried runs as an account that owns this
 * database, and has no other right.
 */
final class Scratch
{
    /** Seconds that a run may take. */
    public const RUN = 300;
    private const LOST = '/gone away|server closed|no connection|lost connection|terminating connection|connection was killed/i';

    /** Rows of a source are in it, so that what the engine says may hold values of theirs. */
    private bool $holdsRows = false;
    /** @var list<string> why rows were left out, a sentence for each */
    public array $leftOut = [];
    private Session $session;
    private readonly float $until;

    /**
     * @param \Closure(\Closure(Fault): SourceError): Session $open
     * @param \Closure(bool): void                           $loosely lets rows lead to nothing, or not any more
     */
    public function __construct(\Closure $open, public readonly Dialect $dialect, public readonly string $schema, private readonly \Closure $loosely)
    {
        $this->until = microtime(true) + self::RUN;
        $this->session = $open($this->explained(...));
    }

    /** @throws SourceError with what the engine says */
    public function exec(string $sql): void
    {
        if (microtime(true) > $this->until) {
            throw new SourceError(
                \sprintf('The run took more than %d seconds, and was ended.', self::RUN),
                'Nothing of yours was on it. Try a part of the design by itself.',
                null,
                SourceError::LOST,
            );
        }
        $this->session->exec($sql);
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
        $this->holdsRows = true;
        ($this->loosely)(true);
        $count = 0;
        foreach ($statements as $sql) {
            try {
                $this->exec($sql);
                ++$count;
            } catch (SourceError $e) {
                if (SourceError::LOST === $e->what) {
                    throw $e;
                }
                // What stands for a value that nobody may see may break a rule that the value itself kept.
                $this->leftOut[] = $e->getMessage();
            }
        }
        ($this->loosely)(false);

        return $count;
    }

    public function rows(): Rows
    {
        return $this->session;
    }

    /** @throws SourceError */
    public function catalog(Progress $progress): Catalog
    {
        $reader = $this->dialect->reader($this->session, '') ?? throw new \LogicException('This engine is not read.');
        $server = null !== $this->dialect->capabilities()->home ? [] : [$this->schema];

        return $reader->read(new Choice($server), $progress);
    }

    private function explained(Fault $fault): SourceError
    {
        if (1 === preg_match(self::LOST, $fault->text)) {
            return new SourceError('The scratch server died in the middle.', 'Nothing of yours was on it. Run it again.', null, SourceError::LOST);
        }
        if ($this->holdsRows) {
            return new SourceError(implode(' ', array_filter($fault->kind())), '');
        }

        return new SourceError(trim(preg_replace('/^SQLSTATE\[\w+\]:? ?(?:\[\d+\] )?/', '', $fault->text) ?? $fault->text), '');
    }
}
