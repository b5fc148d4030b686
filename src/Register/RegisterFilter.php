<?php

declare(strict_types=1);

namespace Fasti\Register;

use Fasti\Core\Catalog\TableType;
use Symfony\Component\HttpFoundation\Request;

/** What the register is narrowed to. */
final readonly class RegisterFilter
{
    public function __construct(
        public string $text = '',
        public int $source = 0,
        public string $schema = '',
        public ?TableType $type = null,
        public string $described = '',
        public string $after = '',
    ) {
    }

    public static function from(Request $request): self
    {
        $query = $request->query;

        return new self(
            trim($query->getString('q')),
            max(0, $query->getInt('source')),
            $query->getString('schema'),
            TableType::tryFrom($query->getString('type', $query->getString('kind'))),
            $query->getString('described'),
            $query->getString('after'),
        );
    }
}
