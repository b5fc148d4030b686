<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Core\Search\Trigrams;
use Fasti\Core\Wording\Naming;
use Fasti\Support\Batch;
use Fasti\Support\Row;

/** The distinct identifiers of the whole register, folded for search. */
final readonly class FoldedNames
{
    private const LOOKED_UP = 2000;
    private const GRAMS = 4000;
    private const MOST = 190;

    public function __construct(private Connection $db)
    {
    }

    /** Identifiers of signs alone fold to nothing; they are then kept as they are, so that each still has an entry. */
    public static function fold(string $name): string
    {
        $folded = Naming::folded($name);

        return mb_substr('' === $folded ? $name : $folded, 0, self::MOST);
    }

    /**
     * Makes the identifiers that are not there yet.
     *
     * @param list<string> $names
     *
     * @return array<string, int> folded (see fold()) → id
     */
    public function identify(array $names): array
    {
        $needed = array_fill_keys(array_map(self::fold(...), $names), true);
        $ids = [];
        foreach (array_chunk(array_map(strval(...), array_keys($needed)), self::LOOKED_UP) as $chunk) {
            $found = $this->ids($chunk);
            $missing = array_values(array_filter($chunk, static fn (string $folded): bool => !isset($found[$folded])));
            if ([] !== $missing) {
                Batch::insert($this->db, 'INSERT IGNORE INTO identifier (folded) VALUES', array_map(static fn (string $folded): array => [$folded], $missing));
                $made = $this->ids($missing);
                $grams = [];
                foreach ($made as $folded => $id) {
                    foreach (Trigrams::of((string) $folded) as $gram) {
                        $grams[] = [$gram, $id];
                    }
                }
                Batch::insert($this->db, 'INSERT IGNORE INTO identifier_gram (gram, identifier_id) VALUES', $grams, '', self::GRAMS);
                $found += $made;
            }
            $ids += $found;
        }

        return $ids;
    }

    /**
     * @param list<string> $folded
     *
     * @return array<string, int>
     */
    private function ids(array $folded): array
    {
        $ids = [];
        foreach ($this->db->iterateAssociative('SELECT id, folded FROM identifier WHERE folded IN (?)', [$folded], [ArrayParameterType::STRING]) as $row) {
            $ids[Row::text($row, 'folded')] = Row::int($row, 'id');
        }

        return $ids;
    }
}
