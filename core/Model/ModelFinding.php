<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Finding\Severity;

/** Something a check of a model noticed: what, where, why it matters, what to do. */
final readonly class ModelFinding
{
    /**
     * @param string $check as the database has it: `more-than-one-route`
     * @param string $about the measure, role, attribute or join that it is about
     * @param string $sql   shows the rows; '' where it is not about rows
     * @param ?int   $rows  how many; null where they were not counted
     */
    public function __construct(
        public string $check,
        public Severity $severity,
        public string $about,
        public string $words,
        public string $why,
        public string $mend,
        public string $sql = '',
        public ?int $rows = null,
    ) {
    }

    /** What tells it from others of the model. */
    public function key(): string
    {
        return hash('xxh128', $this->check."\0".$this->about."\0".preg_replace('/[\d,]+/', '#', $this->words));
    }
}
