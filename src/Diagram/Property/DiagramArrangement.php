<?php

declare(strict_types=1);

namespace Fasti\Diagram\Property;

use Fasti\Core\Diagram\Arrangement;
use Fasti\Core\Diagram\SceneError;
use Fasti\Text\BadText;
use Fasti\Text\Property;

/** What stands where: the pieces of a diagram as one JSON text, so that a sitting is one change that can be taken back. */
final class DiagramArrangement extends Property
{
    public const NAME = 'arrangement';

    public function topic(): string
    {
        return 'diagram';
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function label(): string
    {
        return self::NAME;
    }

    public function column(): string
    {
        return self::NAME;
    }

    public function most(): int
    {
        return 4000000;
    }

    public function inWords(string $before, string $after): string
    {
        try {
            return Arrangement::fromJson($after)->since(Arrangement::fromJson($before));
        } catch (SceneError $e) {
            return $e->getMessage();
        }
    }

    public function check(string $value, int $id): void
    {
        try {
            Arrangement::fromJson($value);
        } catch (SceneError $e) {
            throw new BadText($e->getMessage());
        }
    }
}
