<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Join;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Proposal;
use Fasti\Core\Join\Proposals;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;

/** A database in memory, read as any other is. */
final class Base implements Rows
{
    public \PDO $pdo;
    /** @var list<string> what was asked */
    public array $asked = [];
    /** @var \Closure(string): void called before each question */
    public \Closure $before;

    public function __construct(string $sql)
    {
        $this->pdo = new \PDO('sqlite::memory:', options: [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION, \PDO::ATTR_STRINGIFY_FETCHES => true]);
        $this->pdo->exec($sql);
        $this->before = static function (): void {
        };
    }

    public function rows(string $sql, array $parameters = []): iterable
    {
        $this->asked[] = $sql;
        ($this->before)($sql);
        try {
            $statement = $this->pdo->prepare($sql);
            $statement->execute($parameters);
            /** @var list<array<string, string|null>> $rows */
            $rows = $statement->fetchAll(\PDO::FETCH_ASSOC);
        } catch (\PDOException $e) {
            throw new SourceError($e->getMessage(), '', $e);
        }

        return $rows;
    }

    public function catalog(): Catalog
    {
        return (Dialects::of('sqlite')->reader($this, '') ?? throw new \LogicException('It is read.'))->read(new Choice(), new SilentProgress());
    }

    /** @return array<string, float> `table.field > table.field` → confidence, by names and types */
    public function named(): array
    {
        return self::said((new Proposals())->of($this->catalog()));
    }

    /** @return array<string, float> the same, with the data */
    public function looked(): array
    {
        return self::said((new Proposals())->of($this->catalog(), $this));
    }

    /**
     * @param list<Proposal> $proposals
     *
     * @return array<string, float>
     */
    public static function said(array $proposals): array
    {
        $said = [];
        foreach ($proposals as $one) {
            $said[$one->from->name.'.'.implode('+', $one->columns).' > '.$one->to->name.'.'.implode('+', $one->toColumns).(null === $one->where ? ''
                : ' where '.$one->condition())] = $one->confidence;
        }

        return $said;
    }

    /** Rows `1..n` of a table, by expressions over `n`. */
    public static function rowsOf(string $table, int $count, string $values): string
    {
        return "WITH RECURSIVE s(n) AS (SELECT 1 UNION ALL SELECT n + 1 FROM s WHERE n < $count) INSERT INTO $table SELECT $values FROM s;\n";
    }
}
