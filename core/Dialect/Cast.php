<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/** How values of one type become values of another. */
final readonly class Cast
{
    /**
     * @param string  $sql   the value as the new type has it, or nothing where it cannot be one
     * @param ?string $loses a condition that holds where something of a value is lost; null where nothing ever is
     * @param bool    $none  no value of the one is one of the other
     * @param string  $words what is lost, of a value that the condition holds for
     * @param ?string $outside a condition that holds where a value is none of the new type; null where nobody has to ask, since what is kept of a value
     *                         fits where it stands already
     */
    public function __construct(
        public string $sql,
        public ?string $loses = null,
        public string $words = '',
        public bool $none = false,
        public ?string $outside = null,
    ) {
    }
}
