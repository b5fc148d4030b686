<?php

declare(strict_types=1);

namespace Fasti\Bench\Joins;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Candidate;
use Fasti\Core\Join\Candidates;
use Fasti\Core\Join\Chooser;
use Fasti\Core\Join\DataLook;
use Fasti\Core\Join\KeyValues;
use Fasti\Core\Join\Whole;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SilentProgress;

/** A schema whose joins are known, and the candidates that are found in it without them. */
final class Known
{
    /** Joins, of which a schema counts as that of so many at the most. */
    private const MOST = 100;

    public readonly Candidates $candidates;
    /** @var array<string, list<Candidate>> */
    public array $units;

    /** How much one of its fields counts: of a schema larger than most, less. */
    public readonly float $weight;

    /**
     * @param array<string, true> $truth    see Fit::join()
     * @param bool                $declared that is what the engine has as keys, and not more
     */
    public function __construct(
        public readonly string $name,
        public readonly Catalog $catalog,
        public readonly array $truth,
        public readonly bool $declared = false,
    ) {
        $this->weight = min(1.0, self::MOST / max(1, \count($truth)));
        $this->candidates = new Candidates($catalog->with(
            tables: array_map(static fn ($table) => $table->with(foreignKeys: []), $catalog->tables),
        ));
        $this->units = $this->candidates->all();
    }

    /** Looks at the data as well, by weights that are known so far. */
    public function look(Rows $rows, Chooser $chooser): void
    {
        Whole::weigh($this->units, $this->candidates, $chooser);
        $look = new DataLook(new KeyValues($rows, Dialects::ofCatalog($this->catalog)), $this->candidates);
        $this->units = $look->look($this->units, $chooser, new SilentProgress());
    }
}
