<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

/** What people have said of an entry or a field. */
final readonly class Said
{
    public function __construct(
        public string $businessName = '',
        public string $meaning = '',
        public string $grain = '',
        public string $unit = '',
        public string $allowed = '',
        public string $personal = '',
    ) {
    }

    public function of(string $property): string
    {
        return match ($property) {
            'businessName' => $this->businessName,
            'meaning' => $this->meaning,
            'grain' => $this->grain,
            'unit' => $this->unit,
            'allowed' => $this->allowed,
            'personal' => $this->personal,
            default => '',
        };
    }
}
