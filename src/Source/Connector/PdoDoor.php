<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

/** A connection over PDO. */
final class PdoDoor implements Door
{
    private readonly \PDO $pdo;
    /** @var list<string> */
    private array $columns = [];

    /**
     * @param array<int, int|bool> $options of PDO, beside those that all have
     * @param list<string>         $first   statements that make the session what it is to be
     */
    public function __construct(string $dsn, string $account, #[\SensitiveParameter] string $secret, array $options, array $first)
    {
        $this->pdo = new \PDO($dsn, $account, $secret, [
            \PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION, \PDO::ATTR_STRINGIFY_FETCHES => true, \PDO::ATTR_EMULATE_PREPARES => true,
        ] + $options);
        foreach ($first as $sql) {
            $this->pdo->exec($sql);
        }
    }

    public function rows(string $sql, array $parameters): iterable
    {
        // Without parameters nobody looks for their places, which a question mark in a name or a text might be taken for.
        $statement = [] === $parameters ? $this->pdo->query($sql) : $this->pdo->prepare($sql);
        if (false === $statement) {
            throw new \RuntimeException('No statement could be made.');
        }
        if ([] !== $parameters) {
            $statement->execute($parameters);
        }
        $this->columns = [];
        for ($i = 0; $i < $statement->columnCount(); ++$i) {
            $meta = $statement->getColumnMeta($i);
            $this->columns[] = \is_array($meta) ? (string) $meta['name'] : (string) $i;
        }
        $statement->setFetchMode(\PDO::FETCH_NUM);

        // The statement gives its rows by itself, without a call for each.
        return [] === $this->columns ? [] : $statement;
    }

    public function columns(): array
    {
        return $this->columns;
    }

    public function exec(string $sql): void
    {
        $this->pdo->exec($sql);
    }

    public function code(\Exception $e): array
    {
        return $e instanceof \PDOException ? self::codeOf($e) : ['', 0];
    }

    /** @return array{string, int} */
    public static function codeOf(\PDOException $e): array
    {
        $state = match (true) {
            \is_string($e->errorInfo[0] ?? null) => $e->errorInfo[0],
            1 === preg_match('/^SQLSTATE\[(\w{5})\]/', $e->getMessage(), $m) => $m[1],
            default => '',
        };
        $code = $e->errorInfo[1] ?? (is_numeric($e->getCode()) ? $e->getCode() : 0);

        return [$state, is_numeric($code) ? (int) $code : 0];
    }
}
