<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Catalog\MemberPath;
use Fasti\Core\Wording\Amount;

/**
 * Works out the structure of a collection from its documents, one pass, in memory that does not grow with their number.
 *
 * Types and presence are counted in every document. Values (codes, formats, lengths) are looked at in the first ones and
 * then in every 64th. Shapes are the distinct sets of members: each object has a number for its set, made of the names
 * and of the numbers of the objects within, so that two documents have the same shape when their numbers are equal.
 */
final class Structure
{
    public const LOOK_AT_FIRST = 20000;
    public const LOOK_AT_EVERY = 64;
    /** Of each list. */
    private const LOOK_AT_ITEMS = 50;
    public const DEEPEST = 64;
    /** Lists directly within lists. */
    private const DEEPEST_LISTS = 8;
    private const MOST_VALUES = 60;
    private const MOST_SHAPES = 2000;
    private const SKETCH = 512;
    private const MOST_NAMES_AT_ALL = 5000;
    /** So many documents show what is a map; if one is found only at the end, all of them are read twice. */
    private const TELLS_MAPS = 1000;
    private const VERSION = '/^(?:schema|format|message|payload)?[_-]?(?:version|ver|v)$/i';
    private const IDENTIFIER = '/(?:^|[_.-])(?:id|ids|code|codes|ref|no|nr|key|number|uuid|station|parameter)$|[a-z](?:Id|Ids|Code|Ref|No|Key)$/';
    /** As the standards have them, so that what satisfies these satisfies a validator. */
    private const FORMATS = [
        'date-time' => '/^\d{4}-\d\d-\d\d[Tt](?:[01]\d|2[0-3]):[0-5]\d:[0-5]\d(?:\.\d+)?(?:[Zz]|[+-](?:[01]\d|2[0-3]):[0-5]\d)$/D',
        'date' => '/^\d{4}-\d\d-\d\d$/D',
        'uuid' => '/^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/Di',
        'email' => '/^[a-z0-9_+-]+(?:\.[a-z0-9_+-]+)*@(?:[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?\.)+[a-z]{2,63}$/Di',
        'uri' => '~^https?://[a-z0-9-]+(?:\.[a-z0-9-]+)*(?::\d{1,5})?(?:/(?:[a-z0-9._\~!$&\'()*+,;=:@/-]|%[0-9a-f]{2})*)?'
            .'(?:\?(?:[a-z0-9._\~!$&\'()*+,;=:@/?-]|%[0-9a-f]{2})*)?(?:#(?:[a-z0-9._\~!$&\'()*+,;=:@/?-]|%[0-9a-f]{2})*)?$~Di',
    ];

    public int $documents = 0;
    public int $others = 0;
    public int $looked = 0;
    public bool $tooDeep = false;
    public Node $root;
    /** @var array<string, int> names and inner shapes of an object → its number */
    private array $ids = [];
    /** @var array<string, array{count: int, first: int, last: int, example: string, paths: list<string>, version: string}> */
    public array $shapes = [];
    public int $shapeless = 0;
    /** @var array<string, true> names of members at the top that number the versions of a message */
    private array $versions = [];

    /**
     * @param array<string, true> $maps  paths of objects that are known to be maps
     * @param array<string, true> $names of collections, in small letters and the singular: members called like one may refer to it
     */
    public function __construct(public readonly array $maps = [], private readonly array $names = [])
    {
        $this->root = new Node('', 0);
        $this->root->map = isset($maps['']);
    }

    /** @throws FoundMaps where objects turned out to be maps: begin again, knowing that */
    public function add(mixed $document, string $text): void
    {
        if (!$document instanceof \stdClass) {
            ++$this->others;

            return;
        }
        $number = ++$this->documents;
        $look = $number <= self::LOOK_AT_FIRST || 0 === $number % self::LOOK_AT_EVERY;
        if ($look) {
            ++$this->looked;
        }
        $version = '';
        $shape = $this->walk($document, $this->root, $look, $version);
        $key = $version.'#'.$shape;
        if (isset($this->shapes[$key])) {
            ++$this->shapes[$key]['count'];
            $this->shapes[$key]['last'] = $number;
        } elseif (\count($this->shapes) < self::MOST_SHAPES) {
            $this->shapes[$key] = [
                'count' => 1, 'first' => $number, 'last' => $number, 'example' => \strlen($text) > 20000 ? '' : trim($text),
                'paths' => $this->paths($document, $this->root), 'version' => $version,
            ];
        } else {
            ++$this->shapeless;
        }
        if (self::TELLS_MAPS === $number) {
            $this->tellMaps();
        }
    }

    /** @throws FoundMaps */
    public function tellMaps(): void
    {
        $found = Maps::in($this->root);
        if ([] !== $found) {
            throw new FoundMaps($found);
        }
    }

    private function walk(\stdClass $object, Node $node, bool $look, string &$version): int
    {
        ++$node->objects;
        $signature = '';
        $map = $node->map;
        foreach ((array) $object as $name => $value) {
            $name = (string) $name;
            $member = $node->members[$map ? '' : $name] ?? $this->member($node, $name);
            ++$member->present;
            $inner = '';
            if ($value instanceof \stdClass) {
                $inner = $this->inside($member, $node, $value, $look)."\x02";
            } elseif (\is_array($value)) {
                $inner = $this->listed($member, $node, $value, $look)."\x03";
            } else {
                $this->single($member, $value, $look);
            }
            if (!$map) {
                $signature .= $name."\x01".$inner;
            }
            if (0 === $node->depth && isset($this->versions[$name]) && (\is_int($value) || \is_string($value))) {
                $version = $name.' '.mb_strimwidth((string) $value, 0, 20);
            }
        }

        return $this->ids[$signature] ??= \count($this->ids);
    }

    /** A value that is neither an object nor a list. */
    private function single(Member $member, mixed $value, bool $look): void
    {
        if (\is_string($value)) {
            ++$member->strings;
            if ($look) {
                $this->look($member, $value);
            }
            if ($member->sketched) {
                $this->sketch($member, $value);
            }
        } elseif (\is_int($value)) {
            ++$member->integers;
            if ($look) {
                $this->tally($member, $value);
            }
            if ($member->sketched) {
                $this->sketch($member, (string) $value);
            }
        } elseif (\is_float($value)) {
            ++$member->numbers;
        } elseif (\is_bool($value)) {
            ++$member->booleans;
        } else {
            ++$member->nulls;
        }
    }

    private function inside(Member $member, Node $node, \stdClass $value, bool $look): int
    {
        if (null === $member->node) {
            $member->node = new Node($member->path, $node->depth + 1);
            $member->node->map = isset($this->maps[$member->path]);
        }
        if ($node->depth + 1 >= self::DEEPEST) {
            $this->tooDeep = true;
            ++$member->node->objects;

            return -1;
        }
        $version = '';

        return $this->walk($value, $member->node, $look, $version);
    }

    /** @param array<mixed> $list */
    private function listed(Member $member, Node $node, array $list, bool $look, int $depth = 1): string
    {
        ++$member->lists;
        if ([] === $list) {
            return '';
        }
        $items = $member->items ??= new Member(MemberPath::items($member->path), $member->sketched);
        $inner = [];
        if ($look && \count($list) > self::LOOK_AT_ITEMS) {
            $items->unlooked = true;
        }
        foreach ($list as $i => $value) {
            ++$items->present;
            if ($value instanceof \stdClass) {
                $inner[$this->inside($items, $node, $value, $look && $i < self::LOOK_AT_ITEMS)] = true;
            } elseif (!\is_array($value)) {
                $this->single($items, $value, $look && $i < self::LOOK_AT_ITEMS);
            } elseif ($depth < self::DEEPEST_LISTS) {
                $this->listed($items, $node, $value, $look, $depth + 1);
            } else {
                ++$items->lists;
                $this->tooDeep = true;
            }
        }
        if (\count($inner) > 1) {
            ksort($inner);
        }

        return implode(',', array_keys($inner));
    }

    private function member(Node $node, string $name): Member
    {
        if ($node->map) {
            return $node->members[''] = new Member(MemberPath::values($node->path), false);
        }
        $count = \count($node->members);
        if ($count >= Maps::MOST_NAMES) {
            $present = array_sum(array_map(static fn (Member $member): int => $member->present, $node->members));
            if ($count >= self::MOST_NAMES_AT_ALL || $present < 0.1 * $count * $node->objects) {
                throw new FoundMaps([$node->path => \sprintf('it has more than %s different names', Amount::count($count))]);
            }
        }
        if (0 === $node->depth && 1 === preg_match(self::VERSION, $name)) {
            $this->versions[$name] = true;
        }
        $sketched = 1 === preg_match(self::IDENTIFIER, $name) || isset($this->names[rtrim(strtolower($name), 's')]);

        return $node->members[$name] = new Member(MemberPath::member($node->path, $name), $sketched);
    }

    private function look(Member $member, string $value): void
    {
        $length = \strlen($value);
        if ($length > $member->longest) {
            $member->longest = $length;
        }
        if ($length <= 40) {
            $this->tally($member, $value);
        } else {
            $member->values = null;
        }
        if ('' === $member->format) {
            $member->format = null;
            foreach (array_keys(self::FORMATS) as $format) {
                if (self::hasFormat($value, $format)) {
                    $member->format = $format;
                    break;
                }
            }
        } elseif (null !== $member->format && !self::hasFormat($value, $member->format)) {
            $member->format = null;
        }
    }

    private static function hasFormat(string $value, string $format): bool
    {
        return 1 === preg_match(self::FORMATS[$format], $value)
            && (!str_starts_with($format, 'date') || checkdate((int) substr($value, 5, 2), (int) substr($value, 8, 2), (int) substr($value, 0, 4)));
    }

    private function tally(Member $member, string|int $value): void
    {
        ++$member->looked;
        if (null !== $member->values) {
            $member->values[$value] = ($member->values[$value] ?? 0) + 1;
            if (\count($member->values) > self::MOST_VALUES) {
                $member->values = null;
            }
        }
    }

    private function sketch(Member $member, string $value): void
    {
        $hash = crc32($value);
        if ($hash < $member->limit) {
            $member->sketch[$hash] = true;
            if (\count($member->sketch) > 2 * self::SKETCH) {
                ksort($member->sketch);
                $member->sketch = \array_slice($member->sketch, 0, self::SKETCH, true);
                $member->limit = (int) array_key_last($member->sketch);
            }
        }
    }

    /** @return list<string> of the members that a document has, with those of objects within */
    private function paths(\stdClass $object, Node $node): array
    {
        $paths = [];
        foreach ((array) $object as $name => $value) {
            $path = $node->members[$node->map ? '' : (string) $name]->path ?? '';
            $paths[$path] = true;
            $member = $node->members[$node->map ? '' : (string) $name] ?? null;
            foreach (\is_array($value) ? $value : [$value] as $inner) {
                $holder = \is_array($value) ? $member?->items : $member;
                if ($inner instanceof \stdClass && null !== $holder?->node && $holder->node->depth < self::DEEPEST) {
                    $paths += array_flip($this->paths($inner, $holder->node));
                }
            }
            if (\count($paths) > 2000) {
                break;
            }
        }

        return array_map(strval(...), array_keys($paths));
    }
}
