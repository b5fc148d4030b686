<?php

declare(strict_types=1);

namespace Fasti\Drift;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Drift\Doubt;
use Fasti\Finding\Findings;
use Fasti\Finding\Noticed;
use Fasti\Lineage\Dependants;
use Fasti\Register\EntryStore;

/** Looks through everything that people wrote about a source, once, for what its changes make doubtful. */
final readonly class Doubts
{
    public function __construct(private EntryStore $entries, private Findings $findings, private DoubtfulText $check, private Dependants $dependants)
    {
    }

    /** @param array<int, list<string>> $made fields that are computed from what has changed, in whatever source → why that matters */
    public function raise(int $source, Catalog $catalog, Changes $changes, array $made = []): void
    {
        $pairs = [];
        foreach ($changes->tables as [$was, $is, $fields]) {
            $pairs[$is->place()->key()] = [$was, $is, array_flip($fields)];
        }
        $noticed = [];
        foreach ([] === $pairs && [] === $changes->mentions ? [] : $this->entries->written($source) as $written) {
            $place = $written->place->key();
            foreach ($written->texts as $property => $text) {
                $reasons = $changes->spokenOf($text, $place);
                if (isset($pairs[$place])) {
                    array_push(
                        $reasons,
                        ...self::changed($property, $text, $written->field, $written->name, $pairs[$place], Dialects::ofCatalog($catalog)),
                    );
                }
                foreach (array_unique($reasons) as $reason) {
                    $noticed[] = new Noticed($written->entry, $written->field, $reason, '', $property, $reason);
                }
            }
        }
        $this->findings->add($this->check, ...$noticed, ...$this->made($made));
    }

    /**
     * @param array<int, list<string>> $made
     *
     * @return list<Noticed>
     */
    private function made(array $made): array
    {
        $noticed = [];
        foreach ($this->dependants->sources(array_keys($made)) as $source) {
            foreach ($this->entries->written($source) as $written) {
                foreach (null === $written->field ? [] : $made[$written->field] ?? [] as $reason) {
                    foreach (array_keys($written->texts) as $property) {
                        $noticed[] = new Noticed($written->entry, $written->field, $reason, '', $property, $reason);
                    }
                }
            }
        }

        return $noticed;
    }

    /**
     * @param array{Table, Table, array<string, string>} $pair before, after, and the old names of renamed fields
     *
     * @return list<string>
     */
    private static function changed(string $property, string $text, ?int $field, string $name, array $pair, Dialect $dialect): array
    {
        [$was, $is, $oldNames] = $pair;
        if (null !== $field) {
            $old = $was->column($oldNames[$name] ?? $name);
            $new = $is->column($name);

            return array_values(array_filter([null === $old || null === $new ? null : Doubt::about($text, $old, $new, $dialect)]));
        }
        if ('grain' === $property) {
            return ($was->primaryKey->columns ?? []) === ($is->primaryKey->columns ?? [])
                ? []
                : ['The primary key has changed, so one row may stand for something else now.'];
        }
        $shell = static fn (Table $table): Column => new Column($table->name, '', comment: $table->comment);

        return array_values(array_filter([Doubt::about($text, $shell($was), $shell($is), $dialect)]));
    }
}
