<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Catalog\Table;
use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;
use Fasti\Core\Join\NameWords;

/** The meaning of two fields that belong together: one says of what kind the other is, or into which table it leads. */
final class OfKindBeside implements Rule
{
    public function name(): string
    {
        return 'of-kind-beside';
    }

    private const KINDS = ['kind', 'type', 'class', 'table'];
    private const LEADS = ['id', 'ref', 'key', 'no'];

    /** @var \WeakMap<Table, array<string, list<array{string, string}>>> by the words before the last: names, and their last word */
    private \WeakMap $beside;

    public function __construct()
    {
        $this->beside = new \WeakMap();
    }

    public function of(Field $field): iterable
    {
        $raw = $field->name->raw;
        $last = $raw[\count($raw) - 1] ?? '';
        $head = \array_slice($raw, 0, -1);
        $asks = \in_array($last, self::KINDS, true) || \in_array($last, self::LEADS, true);
        if (!$asks || [] === $head || null !== $field->lead() && 1 === \count($field->material->leadsOf($field->entry, $field->column->name))) {
            return;
        }
        foreach ($this->besides($field->table)[implode("\0", $head)] ?? [] as [$name, $end]) {
            if ($name === $field->column->name) {
                continue;
            }
            $thing = implode(' ', $head);
            if (\in_array($last, self::KINDS, true) && \in_array($end, self::LEADS, true)) {
                $values = $field->values()[0] ?? [];
                $which = [] === $values || \count($values) > 12 ? '' : ': '.implode(', ', $values);
                yield new Draft('meaning', English::sentence("Which kind of thing the $thing is, and so what $name leads to$which"), 0.84,
                    ["$name stands beside it"]);
            } elseif (\in_array($end, self::KINDS, true) && \in_array($last, self::LEADS, true)) {
                yield new Draft('meaning', English::sentence("The $thing that the {$field->noun()} is about, of the kind that $name says"), 0.84,
                    ["$name stands beside it"]);
            }
        }
    }

    /** @return array<string, list<array{string, string}>> */
    private function besides(Table $table): array
    {
        if (!isset($this->beside[$table])) {
            $found = [];
            foreach ($table->columns as $column) {
                $words = NameWords::of($column->name);
                $found[implode("\0", \array_slice($words, 0, -1))][] = [$column->name, $words[\count($words) - 1] ?? ''];
            }
            $this->beside[$table] = $found;
        }

        return $this->beside[$table];
    }
}
