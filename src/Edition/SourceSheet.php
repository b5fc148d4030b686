<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Core\Edition\Slug;
use Fasti\Register\RegisterCoverage;
use Fasti\Source\KnownSource;

/**
 * A source whose entries have all gone by.
 *
 * @phpstan-type Listed array{name: string, title: string, grain: string, type: string, described: int, fields: int, path: string}
 */
final readonly class SourceSheet
{
    public string $slug;

    /**
     * @param array<string, list<Listed>>                                                                       $schemas
     */
    public function __construct(public KnownSource $source, public RegisterCoverage $coverage, public array $schemas)
    {
        $this->slug = Slug::of($source->name);
    }
}
