<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\Role;

/** What lists and the search need of a model: kept beside it, so that none of them reads a whole definition. */
final readonly class ModelBrief
{
    /**
     * @param list<string> $measures
     * @param list<string> $facts
     */
    public function __construct(public array $measures, public array $facts)
    {
    }

    public static function of(Model $model): self
    {
        return new self(
            array_map(static fn (Measure $measure): string => $measure->name, $model->measures),
            array_map(static fn (Role $role): string => $role->name, $model->facts()),
        );
    }

    public function json(): string
    {
        return json_encode(get_object_vars($this), \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE | \JSON_INVALID_UTF8_SUBSTITUTE);
    }

    /** @param mixed $data as it was kept */
    public static function read(mixed $data): self
    {
        $texts = static fn (string $of): array => array_values(
            array_filter(\is_array($data) && \is_array($data[$of] ?? null) ? $data[$of] : [], is_string(...)),
        );

        return new self($texts('measures'), $texts('facts'));
    }
}
