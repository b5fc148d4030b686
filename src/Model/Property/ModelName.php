<?php

declare(strict_types=1);

namespace Fasti\Model\Property;

use Doctrine\DBAL\Connection;
use Fasti\Text\BadText;
use Fasti\Text\Property;

final class ModelName extends Property
{
    public function __construct(private readonly Connection $db)
    {
    }

    public function topic(): string
    {
        return 'model';
    }

    public function name(): string
    {
        return 'name';
    }

    public function label(): string
    {
        return 'name of the model';
    }

    public function column(): string
    {
        return 'name';
    }

    public function most(): int
    {
        return 120;
    }

    public function check(string $value, int $id): void
    {
        if ('' === trim($value)) {
            throw new BadText('A model needs a name, under which it is found again.');
        }
        if (false !== $this->db->fetchOne('SELECT id FROM analytic_model WHERE name = ? AND id <> ?', [$value, $id])) {
            throw new BadText(\sprintf('There is a model “%s” already. Choose another name.', $value));
        }
    }
}
