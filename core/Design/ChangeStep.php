<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** One step of a planned change: what it does, why care is needed, and the statements that do it. */
final readonly class ChangeStep
{
    /** It throws values away. */
    public const LOSES = 'loses';
    /** Nobody has said what rows get; they get the plainest value. */
    public const ASKS = 'asks';
    /** The table is locked, or written anew, for as long as it takes. */
    public const LOCKS = 'locks';

    /**
     * @param int                   $phase   in which of the phases of Changes it is done
     * @param list<string>          $sql
     * @param string                $risk    LOSES, ASKS, LOCKS or ''
     * @param string                $table   the table it is about, as it is called afterwards
     * @param ?array{string, ?string} $field the place in what was there: table and field, where the step changes or drops that
     * @param list<string>          $back    statements that undo it; none where what it does to values cannot be undone
     */
    public function __construct(
        public int $phase,
        public string $words,
        public array $sql,
        public string $risk = '',
        public string $table = '',
        public ?array $field = null,
        public array $back = [],
    ) {
    }
}
