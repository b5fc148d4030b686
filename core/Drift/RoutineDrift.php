<?php

declare(strict_types=1);

namespace Fasti\Core\Drift;

use Fasti\Core\Catalog\Routine;

/** What became of one routine. */
final readonly class RoutineDrift
{
    /** @param list<string> $words what changed */
    public function __construct(public Fate $change, public ?Routine $before, public ?Routine $after, public array $words)
    {
    }

    public function routine(): Routine
    {
        return $this->after ?? $this->before ?? throw new \LogicException('A drift has one side at least.');
    }

    /** @return list<string> */
    public static function words(Routine $was, Routine $is): array
    {
        $words = [];
        if ($was->parameters !== $is->parameters) {
            $words[] = \sprintf('it takes %s (was %s)', $is->parameters ?: 'nothing', $was->parameters ?: 'nothing');
        }
        if ($was->returns !== $is->returns) {
            $words[] = \sprintf('it gives %s (was %s)', $is->returns ?? 'nothing', $was->returns ?? 'nothing');
        }
        // A body that may not be read is not known to be another.
        if (null !== $was->body && null !== $is->body && TableWords::body($was->body) !== TableWords::body($is->body)) {
            $words[] = 'it does something else now';
        }
        if ($was->comment !== $is->comment) {
            $words[] = '' === $is->comment
                ? 'its comment was removed'
                : \sprintf('the database says “%s” of it%s', $is->comment, '' === $was->comment ? '' : \sprintf(' (was “%s”)', $was->comment));
        }

        return $words;
    }

    /** In a sentence: `the function f is new`. */
    public function inWords(): string
    {
        $routine = $this->routine();
        $name = ('' === $routine->schema ? '' : $routine->schema.'.').$routine->name;

        return \sprintf('the %s %s %s', $routine->kind, $name, match ($this->change) {
            Fate::New => 'is new',
            Fate::Gone => 'is gone',
            default => 'has changed'.([] === $this->words ? '' : ': '.implode('; ', $this->words)),
        });
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        $routine = $this->routine();

        return array_filter(
            ['change' => $this->change->value, 'kind' => $routine->kind, 'schema' => $routine->schema, 'name' => $routine->name, 'words' => $this->words],
            static fn (mixed $value): bool => '' !== $value && [] !== $value,
        );
    }
}
