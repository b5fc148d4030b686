<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;

/** What connectors that use PDO have in common. */
abstract class PdoConnector implements Connector
{
    protected const CONNECT_SECONDS = 2;
    private const READ_SECONDS = 120;

    /** @throws \PDOException|SourceError */
    abstract protected function connected(Target $target, int $seconds): \PDO;

    /** @return array{0: string, 1: string, 2?: string}|null message, advice, and which of the cases that callers tell apart */
    abstract protected function fault(\PDOException $e, Target $target, int $seconds): ?array;

    abstract protected function unknown(string $said, Target $target): string;

    public function reader(Target $target): Reader
    {
        return Dialects::of($this->engine())->reader($this->rows($target, self::READ_SECONDS), $target->database)
            ?? throw new \LogicException(\sprintf('%s has no reader.', $this->engine()));
    }

    public function rows(Target $target, int $seconds): PdoRows
    {
        $explain = fn (\PDOException $e): SourceError => $this->explained($e, $target, $seconds);
        try {
            return new PdoRows($this->connected($target, $seconds), $explain);
        } catch (\PDOException $e) {
            throw $explain($e);
        }
    }

    private function explained(\PDOException $e, Target $target, int $seconds): SourceError
    {
        $known = $this->fault($e, $target, $seconds);
        $said = (string) preg_replace('/^SQLSTATE\[\w+\](?: \[\d+\]|: [^:]+: \d+)?\s*/', '', $e->getMessage());
        [$message, $advice] = $known ?? [$this->unknown($said, $target), ''];

        return new SourceError($message, $advice, $e, $known[2] ?? '');
    }

    /** @return array{string, string, string} */
    protected static function overTime(int $seconds): array
    {
        return [
            \sprintf('The server needed more than %d seconds for one question, so Fasti gave up on it.', $seconds),
            'Choose fewer tables, or try when the server is less busy.',
            SourceError::OVER_TIME,
        ];
    }
}
