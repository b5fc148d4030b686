<?php

declare(strict_types=1);

namespace Fasti\Core\Finding;

/** One thing that is looked for. A class a check. */
interface Check
{
    /** As the database has it: `no-primary-key`. */
    public function name(): string;

    public function severity(): Severity;

    /** Why it matters, in a sentence or two. */
    public function why(): string;

    /** What to do about it, in a sentence. */
    public function mend(): string;

    /**
     * What the findings of one group say together: "3 tables have no primary key".
     *
     * @param string $group theirs
     * @param string $one   the title of one of them
     */
    public function title(string $group, string $one, int $count): string;
}
