<?php

declare(strict_types=1);

namespace Fasti\Diagram\Property;

use Doctrine\DBAL\Connection;
use Fasti\Text\BadText;
use Fasti\Text\Property;

final class DiagramName extends Property
{
    public function topic(): string
    {
        return 'diagram';
    }

    public function name(): string
    {
        return 'name';
    }

    public function label(): string
    {
        return 'name of the diagram';
    }

    public function column(): string
    {
        return 'name';
    }

    public function most(): int
    {
        return 120;
    }

    public function __construct(private readonly Connection $db)
    {
    }

    public function check(string $value, int $id): void
    {
        if ('' === trim($value)) {
            throw new BadText('A diagram needs a name, under which it is found again.');
        }
        if (false !== $this->db->fetchOne('SELECT id FROM diagram WHERE name = ? AND id <> ?', [$value, $id])) {
            throw new BadText(\sprintf('There is a diagram “%s” already. Choose another name, or go on with that one.', $value));
        }
    }
}
