<?php

declare(strict_types=1);

namespace Fasti\Bench\Real;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\Drafts;
use Fasti\Core\Draft\Material;
use Fasti\Core\Join\Proposal;
use Fasti\Core\Join\Proposals;

/**
 * What is drafted for the fields of a schema of which nothing is declared and nothing said: how many get a meaning, and what a reader said of a
 * seeded sample of them. A judgement holds for the text that was read; of another text nobody knows.
 */
final readonly class DraftSample
{
    private const SEED = 26;
    private const LIKELY = 0.5;

    public int $fields;
    /** @var array<string, Draft> `table.field` → the surest meaning */
    public array $meanings;

    public function __construct(Catalog $catalog)
    {
        $bare = $catalog->with(tables: array_map(static fn (Table $table): Table => $table->with(foreignKeys: []), $catalog->tables));
        $likely = array_filter((new Proposals())->of($bare), static fn (Proposal $one): bool => $one->confidence >= self::LIKELY);
        $material = Material::ofCatalog($bare, array_values($likely));
        $drafts = new Drafts();
        $fields = 0;
        $meanings = [];
        foreach ($material->tables as $i => $table) {
            foreach ($table->columns as $column) {
                ++$fields;
                $draft = $drafts->ofField($material->field($i, $column))['meaning'][0] ?? null;
                if (null !== $draft) {
                    $meanings[$table->name.'.'.$column->name] = $draft;
                }
            }
        }
        $this->fields = $fields;
        $this->meanings = $meanings;
    }

    /** @return array<string, Draft> so many by chance, the same each time */
    public function some(int $most): array
    {
        $names = array_keys($this->meanings);
        sort($names);
        $chance = new \Random\Randomizer(new \Random\Engine\Mt19937(self::SEED));
        $chosen = \array_slice($chance->shuffleArray($names), 0, $most);

        return array_intersect_key($this->meanings, array_fill_keys($chosen, true));
    }

    /**
     * How many of the judged are right, and how many of these add something to the name; of all, and of those that are said with 0.8 and more.
     *
     * @param array<string, array{string, string}> $judged `table.field` → mark and judgement
     *
     * @return array{all: int, right: int, adds: int, sure: int, sureRight: int}
     */
    public function measure(array $judged): array
    {
        $found = ['all' => 0, 'right' => 0, 'adds' => 0, 'sure' => 0, 'sureRight' => 0];
        foreach ($judged as $at => [$mark, $judgement]) {
            $draft = $this->meanings[$at] ?? null;
            if (null === $draft || self::mark($draft->text) !== $mark) {
                continue;
            }
            $right = 'wrong' !== $judgement;
            ++$found['all'];
            $found['right'] += $right ? 1 : 0;
            $found['adds'] += 'adds' === $judgement ? 1 : 0;
            if ($draft->confidence >= 0.8) {
                ++$found['sure'];
                $found['sureRight'] += $right ? 1 : 0;
            }
        }

        return $found;
    }

    /** What stands for a text in the list of judgements, which holds no texts. */
    public static function mark(string $text): string
    {
        return substr(hash('xxh128', $text), 0, 10);
    }
}
