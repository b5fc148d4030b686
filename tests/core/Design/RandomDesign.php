<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Design;

use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Design\Always;
use Fasti\Core\Design\Attribute;
use Fasti\Core\Design\Count;
use Fasti\Core\Design\Dependency;
use Fasti\Core\Design\Design;
use Fasti\Core\Design\DesignJoin;
use Fasti\Core\Design\DesignView;
use Fasti\Core\Design\Identifier;
use Fasti\Core\Design\Limit;
use Fasti\Core\Design\Lookup;
use Fasti\Core\Design\OpenQuestion;
use Fasti\Core\Design\Rules;
use Fasti\Core\Design\Thing;
use Fasti\Core\Design\ValueList;
use Fasti\Core\Dialect\GeneralType;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** Makes up designs, the same ones for a seed: of every word an outline has, in odd names and odd company. */
final class RandomDesign
{
    private const NAMES = [
        'reach', 'gauge', 'water level', 'kit', 'loan', 'school', 'catch', 'survey day', 'Net', 'order', 'user', 'group', 'select', 'pH reading', 'eel trap',
        'permit to fish and to land', 'so-called "weir"', 'ÅKER', 'box, large',
        'a very long name that goes on and on until no engine could keep all of it as it is',
        'told apart', 'always', 'table', 'species', 'data', 'address', 'GPS fix', 'value', '1st visit', 'history', 'key', 'design work', 'view point',
    ];
    private const ATTRIBUTES = [
        'name', 'label', 'code', 'taken at', 'opened on', 'closed on', 'depth', 'mass', 'state', 'remark', 'order', 'from', 'to', 'desc', 'user', 'value',
        'number of fish', 'is spare', 'key', 'id', 'e-mail', 'looked up', 'depends on nothing', 'unit, as written', 'say "so"', 'größe', 'always wet', 'x',
        'an attribute whose name is longer than any engine of those that there are would ever be ready to keep', 'valid from', 'kind', 'version', 'of', 'row',
    ];
    private const VALUES = ['open', 'paused', 'closed', 'in repair', 'a, b', "o'clock", '5', 'required', 'Ålen', '100 % full', 'the rest', '"so"', 'a/b'];

    private readonly Randomizer $random;

    public function __construct(int $seed)
    {
        $this->random = new Randomizer(new Mt19937($seed));
    }

    public static function of(int $seed): Design
    {
        return (new self($seed))->design();
    }

    public function design(): Design
    {
        $names = $this->nonEmpty($this->some(self::NAMES, $this->between(1, 7)));
        $lists = [];
        foreach ($this->some(['state', 'colour', 'grade of water'], $this->between(0, 2)) as $name) {
            $lists[] = new ValueList(
                $name,
                array_map(fn (): string => $this->chance(30) ? 'what it is, "so to say"' : '', array_flip($this->some(self::VALUES, 3))),
            );
        }
        $things = [];
        foreach ($names as $i => $name) {
            $things[] = $this->thing($name, $lists, $i > 0 && $this->chance(15) ? $names[$this->between(0, $i - 1)] : null);
        }
        $joins = [];
        for ($n = $this->between(0, 2 * \count($names)); $n > 0; --$n) {
            $joins[] = $this->join($names, $lists, \count($joins));
        }
        $rules = new Rules();
        foreach (Rules::ALL as $rule => [, $settings]) {
            if ($this->chance(25)) {
                $rules = $rules->set($rule, (string) $this->one(array_keys($settings)));
            }
        }
        $rules = new Rules(
            $rules->set,
            $this->chance(15) ? 'ft_' : '',
            $this->chance(10) ? 30 : null,
            $rules->is('times', 'yes') && $this->chance(40) ? ['times' => ['made at', 'changed, "at"']] : [],
        );
        $questions = [];
        if ($this->chance(40)) {
            $questions[] = new OpenQuestion('May it be "so"?', $this->some($names, $this->between(0, 2)), $this->chance(50) ? 'No, never.' : '', '');
        }
        $views = [];
        $shown = $things[0]->attributes;
        if ($this->chance(30) && [] !== $shown) {
            $views[] = new DesignView('first of them', $names[0], [['path' => [], 'attribute' => $shown[0]->name, 'as' => $this->chance(50) ? 'shown' : '']]);
        }

        return new Design(
            'Work of the "trust"',
            $this->chance(50) ? 'what is kept, and why' : '',
            '',
            '',
            $rules,
            $things,
            $joins,
            $lists,
            $questions,
            [],
            $views,
        );
    }

    /** @param list<ValueList> $lists */
    private function thing(string $name, array $lists, ?string $kindOf): Thing
    {
        $attributes = [];
        foreach ($this->some(self::ATTRIBUTES, $this->between(0, 7)) as $attribute) {
            $attributes[] = $this->attribute($attribute, $lists);
        }
        $named = array_map(static fn (Attribute $each): string => $each->name, array_values(array_filter(
            $attributes,
            static fn (Attribute $each): bool => !$each->several && \in_array(
                $each->type->kind,
                ['text', 'whole', 'number', 'date', 'instant', 'one of', 'UUID'],
                true,
            )
                && null === $each->computed && ($each->type->length ?? 0) < 100,
        )));
        $keys = [] !== $named && $this->chance(50) ? [
            new Identifier($this->nonEmpty($this->some($named, $this->between(1, 3))), $this->chance(10) ? "key of $name" : null),
        ] : [];
        $lookups = [];
        if ([] !== $named && $this->chance(30)) {
            $lookups[] = new Lookup(
                array_map(fn (string $each): IndexPart => new IndexPart($each, null, $this->chance(20)), $this->some($named, $this->between(1, 2))),
            );
        }
        $conditions = [];
        if ($this->chance(15)) {
            $conditions[] = new Always('1 = 1', $this->chance(40) ? 'holds_always_'.substr(md5($name), 0, 6) : null);
        }

        return new Thing(
            $name,
            $this->chance(60) ? 'visit to a place, on one day' : '',
            $this->chance(30) ? 'What it is; and what it is "not".' : '',
            $attributes,
            $keys,
            $lookups,
            $conditions,
            \count($named) > 1 && $this->chance(20) ? [new Dependency($named[0], [$named[1]])] : [],
            kindOf: $kindOf,
            keyed: $this->chance(20) ? $this->one(['number', 'uuid', 'natural']) : null,
            history: null === $kindOf && $this->chance(10),
            period: null === $kindOf && $this->chance(10),
            table: $this->chance(10) ? 'Tbl '.substr(md5($name), 0, 6) : null,
        );
    }

    /** @param list<ValueList> $lists */
    private function attribute(string $name, array $lists): Attribute
    {
        $type = $this->type($lists);
        $plain = \in_array($type->kind, ['text', 'whole', 'number', 'date', 'one of', 'instant'], true);
        $limits = [];
        if (\in_array($type->kind, ['whole', 'number'], true) && null === $type->from && null === $type->to && $this->chance(30)) {
            $limits[] = new Limit($this->one(array_keys(\array_slice(Limit::WORDS, 4))), (string) $this->between(-5, 90), true);
        }
        $given = match (true) {
            !$plain || $this->chance(60) => null,
            'text' === $type->kind => $this->one(array_values(array_filter(
                self::VALUES,
                static fn (string $value): bool => null === $type->length || mb_strlen($value) <= $type->length,
            )) ?: ['']),
            'whole' === $type->kind, 'number' === $type->kind => null === $type->from && null === $type->to && [] === $limits ? '7' : null,
            'date' === $type->kind => $this->one(['today', '2026-01-31']),
            'instant' === $type->kind => 'now',
            default => [] === $type->members ? null : $this->one($type->members),
        };

        return new Attribute(
            $name,
            $type,
            $this->chance(40),
            $plain && $this->chance(15) && ($type->length ?? 0) < 100,
            given: $given,
            limits: $limits,
            meaning: $this->chance(20) ? "What is meant, and\nwhat's not: \"this\"." : '',
            unit: \in_array($type->kind, ['whole', 'number'], true) && $this->chance(30) ? 'mg/l' : '',
            personal: $this->chance(10),
            several: 'one of' !== $type->kind && $plain && $this->chance(8),
            column: $this->chance(8) ? 'Col '.substr(md5($name), 0, 6) : null,
        );
    }

    /** @param list<ValueList> $lists */
    private function type(array $lists): GeneralType
    {
        return match ($this->between(0, 15)) {
            0, 1, 2 => new GeneralType('text', $this->one([null, 1, 24, 80, 400])),
            3 => new GeneralType('fixed text', $this->between(1, 12)),
            4, 5 => new GeneralType('whole', $this->one(GeneralType::SIZES)),
            6 => new GeneralType('whole', from: '0', to: $this->one(['9', '120', '70000', '5000000000'])),
            7 => new GeneralType('number', $this->between(6, 12), decimals: $this->between(0, 4)),
            8 => new GeneralType('number', from: $this->one(['0', '-99.99', '-5']), to: $this->one(['99.99', '14', '9999.9'])),
            9 => new GeneralType($this->one(GeneralType::PLAIN)),
            10 => new GeneralType($this->one(GeneralType::TIMES), decimals: $this->one([null, 3, 6])),
            11 => new GeneralType('one of', members: $this->some(self::VALUES, $this->between(1, 4))),
            12 => [] === $lists ? new GeneralType(
                'any of',
                members: $this->some(['red', 'green', 'blue'], 2),
            ) : new GeneralType('one of', list: $this->one($lists)->name),
            13 => new GeneralType($this->one(['bytes', 'fixed bytes']), 16),
            14 => new GeneralType('date'),
            default => new GeneralType(''),
        };
    }

    /**
     * @param non-empty-list<string> $names
     * @param list<ValueList>        $lists
     */
    private function join(array $names, array $lists, int $number): DesignJoin
    {
        $from = $this->one($names);
        $to = $this->one($names);
        $join = new DesignJoin(
            $from,
            $this->one(['stands on', 'is of', 'was handed out to', 'lies in']),
            $this->count(),
            $to,
            $this->one(['carries', 'is looked after by', 'holds']),
            $this->count(),
            $this->chance(30) || $from === $to ? $this->one(['home', 'other end', 'second', 'owner']).' '.('' === trim((string) $number) ? '' : $number) : '',
        );
        if (!$join->isLink()) {
            return $join->with(
                onDelete: $this->chance(25) ? $this->one(['CASCADE', 'RESTRICT', 'NO ACTION', ...(0 === $join->parents()->least ? ['SET NULL'] : [])]) : null,
            );
        }

        return $join->with(
            attributes: $this->chance(40) ? [
                $this->attribute('condition', $lists)->with(several: false),
                new Attribute('since', new GeneralType('date'), true),
            ] : [],
            again: $this->chance(20),
            link: $this->chance(30) ? 'pairing '.$number : '',
            keyed: $this->chance(20) ? $this->one(['number', 'uuid', 'both']) : null,
            table: $this->chance(10) ? 'Link '.$number : null,
        );
    }

    private function count(): Count
    {
        return match ($this->between(0, 6)) {
            0, 1 => new Count(1, 1),
            2 => new Count(0, 1),
            3 => new Count(1, null),
            4 => new Count(2, 4),
            default => new Count(0, null),
        };
    }

    // ---- chance ----

    private function between(int $least, int $most): int
    {
        return $this->random->getInt($least, $most);
    }

    private function chance(int $percent): bool
    {
        return $this->between(1, 100) <= $percent;
    }

    /**
     * @template T
     *
     * @param array<T> $of
     *
     * @return T
     */
    private function one(array $of): mixed
    {
        $of = array_values($of);

        return [] === $of ? throw new \LogicException('There is nothing to choose from.') : $of[$this->between(0, \count($of) - 1)];
    }

    /**
     * @param list<string> $of
     *
     * @return list<string>
     */
    private function some(array $of, int $count): array
    {
        /** @var list<string> $mixed */
        $mixed = $this->random->shuffleArray($of);

        return \array_slice($mixed, 0, $count);
    }

    /**
     * @param list<string> $list
     *
     * @return non-empty-list<string>
     */
    private function nonEmpty(array $list): array
    {
        return [] === $list ? throw new \LogicException('Nothing was chosen.') : $list;
    }
}
