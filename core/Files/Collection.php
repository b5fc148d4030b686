<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\DocumentShape;
use Fasti\Core\Catalog\MemberPath;
use Fasti\Core\Catalog\Seen;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Privacy\Privacy;
use Fasti\Core\Profile\Likely;
use Fasti\Core\Profile\TextShape;
use Fasti\Core\Survey\Progress;

/**
 * A collection of documents as a table of the catalog: its members are the columns, named by their paths (see
 * MemberPath): `a.b` is the member b of the object a, `a[]` what a list holds, `a{}` what stands under the keys of a map.
 */
final class Collection
{
    private const MOST_SHAPES = 12;
    /** Two documents have the same shape, with some members optional, when this share of their members is common. */
    private const ALIKE = 0.75;
    private const MOST_CODES = 30;
    private const LONGEST_CODE = 24;

    public Structure $structure;
    /** @var list<string> */
    public array $notes = [];
    /** @var array<string, Member> members by path, for finding references */
    public array $members = [];

    /** @param array<string, true> $names of all collections that are read together, in small letters and the singular */
    public function __construct(public readonly string $schema, public readonly string $name, private readonly string $path, private readonly array $names = [])
    {
    }

    public function read(Progress $progress): Table
    {
        $maps = [];
        $size = (int) @filesize($this->path);
        while (true) {
            $this->structure = new Structure($maps, $this->names);
            $documents = new JsonDocuments($this->path);
            try {
                foreach ($documents as [$value, $text]) {
                    $this->structure->add($value, $text);
                    if (0 === ($this->structure->documents & 0x3FF)) {
                        $progress->at('the documents of '.$this->name, $documents->bytes, max($size, $documents->bytes));
                    }
                }
                $this->structure->tellMaps();
                break;
            } catch (FoundMaps $e) {
                foreach ($e->why as $path => $why) {
                    $maps[$path] = true;
                    $what = '' === $path ? 'the document itself' : 'the object '.$path;
                    $this->notes[] = \sprintf('%s: %s is a map, for %s. The names are data and are documented as one member.', $this->name, $what, $why);
                }
            }
        }
        $this->notes = [...$this->notes, ...$documents->faults];
        if ($documents->faulty > \count($documents->faults)) {
            $this->notes[] = \sprintf('%s: %d documents in all could not be read as they are.', $this->name, $documents->faulty);
        }
        if ($this->structure->others > 0) {
            $this->notes[] = \sprintf('%s: %d values are no objects and were passed over.', $this->name, $this->structure->others);
        }
        if ($this->structure->tooDeep) {
            $this->notes[] = \sprintf('%s: some documents are nested more than %d deep; what lies below is not listed.', $this->name, Structure::DEEPEST);
        }

        return $this->table();
    }

    /** Every value was looked at, so that formats and codes hold for all documents. */
    public function lookedAtAll(): bool
    {
        return $this->structure->looked === $this->structure->documents;
    }

    private function table(): Table
    {
        $columns = [];
        foreach ($this->structure->root->members as $member) {
            $this->columns($member, $this->structure->root->objects, $columns);
        }

        return new Table(
            $this->schema,
            $this->name,
            TableType::Collection,
            '',
            $columns,
            null,
            [],
            [],
            [],
            [],
            [],
            $this->structure->documents,
            (int) @filesize($this->path),
            null,
            'JSON',
            null,
            [],
            $this->shapes(),
        );
    }

    /** @param list<Column> $columns */
    private function columns(Member $member, int $of, array &$columns): void
    {
        $types = $member->types();
        $this->members[$member->path] = $member;
        $columns[] = new Column(
            $member->path,
            self::type($member, $types, $this->lookedAtAll()),
            $member->present < $of || $member->nulls > 0,
            seen: new Seen($member->present, $of, $types, $this->codes($member)),
        );
        if (null !== $member->node) {
            foreach ($member->node->members as $inner) {
                $this->columns($inner, $inner->present > $member->node->objects ? $inner->present : $member->node->objects, $columns);
            }
        }
        $this->items($member->items, $columns);
    }

    /** @param list<Column> $columns */
    private function items(?Member $items, array &$columns): void
    {
        if (null === $items) {
            return;
        }
        if (0 < $items->present - ($items->node->objects ?? 0)) {
            $this->columns($items, $items->present, $columns);

            return;
        }
        // A list of objects alone needs no line of its own: its members have theirs.
        foreach ($items->node->members ?? [] as $inner) {
            $this->columns($inner, max($inner->present, $items->node->objects ?? 0), $columns);
        }
    }

    /** @param array<string, int> $types */
    private static function type(Member $member, array $types, bool $all): string
    {
        $words = [];
        foreach (array_keys(array_diff_key($types, ['null' => 1])) as $type) {
            $words[] = 'string' === $type && $all && !$member->unlooked && null !== $member->format && '' !== $member->format
                ? 'string ('.$member->format.')'
                : $type;
        }
        // A whole number is a number: both together are no variation.
        if (\in_array('integer', $words, true) && \in_array('number', $words, true)) {
            $words = array_values(array_diff($words, ['integer']));
        }
        sort($words);

        return [] === $words ? 'null' : implode(' | ', $words);
    }

    /** @return array<string, int> */
    private function codes(Member $member): array
    {
        $distinct = \count($member->values ?? []);
        if (null === $member->values
            || 0 === $member->strings
            || $distinct > self::MOST_CODES
            || 0 === $distinct
            || $member->longest > self::LONGEST_CODE
            || $member->looked < 4 * $distinct) {
            return [];
        }
        $seen = array_map(strval(...), array_keys($member->values));
        [$likely] = Likely::kind(TypeFamily::Text, $seen, $distinct, $distinct, null, $member->longest);
        if ('' !== Privacy::reason($this->name, $member->path, $likely, $seen)) {
            return [];
        }
        $values = [];
        foreach ($member->values as $value => $count) {
            $values[(string) $value] = $count;
        }
        arsort($values);

        return $values;
    }

    /** An example without personal data: of such values only the shape is kept. */
    private function masked(string $json): string
    {
        $document = json_decode($json, false, JsonDocuments::DEPTH);

        return $document instanceof \stdClass
            ? (string) json_encode(
                $this->without($document, ''),
                \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_PRESERVE_ZERO_FRACTION,
                JsonDocuments::DEPTH,
            )
            : '';
    }

    private function without(mixed $value, string $path): mixed
    {
        if ($value instanceof \stdClass) {
            $map = isset($this->structure->maps[$path]);
            foreach ((array) $value as $name => $inner) {
                $value->{$name} = $this->without($inner, $map ? MemberPath::values($path) : MemberPath::member($path, (string) $name));
            }

            return $value;
        }
        if (\is_array($value)) {
            return array_map(fn (mixed $item): mixed => $this->without($item, MemberPath::items($path)), $value);
        }
        if (!\is_string($value) && !\is_int($value)) {
            return $value;
        }
        $likely = \is_string($value) ? Likely::kind(TypeFamily::Text, [$value], 1, 1, null, mb_strlen($value))[0] : '';

        return '' === Privacy::reason($this->name, $path, $likely, [(string) $value]) ? $value : TextShape::of((string) $value);
    }

    /** @return list<DocumentShape> */
    private function shapes(): array
    {
        $all = $this->structure->shapes;
        uasort($all, static fn (array $a, array $b): int => $b['count'] <=> $a['count'] ?: $a['first'] <=> $b['first']);
        $groups = [];
        foreach ($all as $shape) {
            $paths = array_flip($shape['paths']);
            $home = null;
            foreach ($groups as $i => $group) {
                if ('' !== $shape['version'] || '' !== $group['version']) {
                    $same = $shape['version'] === $group['version'];
                } else {
                    $common = \count(array_intersect_key($paths, $group['core']));
                    $same = $common >= self::ALIKE * (\count($paths) + \count($group['core']) - $common);
                }
                if ($same) {
                    $home = $i;
                    break;
                }
            }
            if (null === $home) {
                $groups[] = [
                    'core' => $paths, 'version' => $shape['version'], 'count' => $shape['count'], 'first' => $shape['first'], 'last' => $shape['last'],
                    'example' => $shape['example'], 'always' => $paths, 'any' => $paths,
                ];
            } else {
                $group = &$groups[$home];
                $group['count'] += $shape['count'];
                $group['first'] = min($group['first'], $shape['first']);
                $group['last'] = max($group['last'], $shape['last']);
                $group['always'] = array_intersect_key($group['always'], $paths);
                $group['any'] += $paths;
                unset($group);
            }
        }
        usort($groups, static fn (array $a, array $b): int => $b['count'] <=> $a['count'] ?: $a['first'] <=> $b['first']);
        $names = static fn (array $paths): array => array_map(strval(...), array_keys($paths));

        return array_map(
            fn (array $group): DocumentShape => new DocumentShape(
                $group['count'],
                $names($group['always']),
                $names(array_diff_key($group['any'], $group['always'])),
                $this->masked($group['example']),
                $group['first'],
                $group['last'],
            ),
            \array_slice($groups, 0, self::MOST_SHAPES),
        );
    }
}
