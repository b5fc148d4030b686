<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Catalog\IndexPart;
use Fasti\Core\Catalog\Trigger;

/** What else is said of a thing: keys, what it is looked up by, conditions, triggers. */
final class ClauseReader
{
    public function __construct(private readonly OutlineReader $all)
    {
    }

    /** @param list<Piece> $pieces */
    public function known(Thing $thing, array $pieces): void
    {
        $attribute = $this->all->attributes->attribute($pieces);
        $known = $thing->attribute($attribute->name);
        if (null !== $known) {
            throw new NotUnderstood(\sprintf('%s has “%s” already, in line %d.', $thing->name, $known->name, $known->line), $pieces[0]);
        }
        $this->all->things[(int) $this->all->block] = $thing->with(attributes: [...$thing->attributes, $attribute]);
        $this->all->add('attribute', $attribute);
    }

    /** @param list<Piece> $pieces what else is said of a thing, in a line of its own */
    public function clause(array $pieces, Thing $thing): ?Thing
    {
        $first = $pieces[0];
        $matched = 1 === \count($pieces) || null !== $first->match('/^(?:keyed by .+)$/u');
        if (!$matched) {
            return null;
        }
        if (null !== ($m = $first->match('/^table (»)(?: in (»))?$/u'))) {
            return $thing->with(table: $m[0], schema: $m[1]);
        }
        if (null !== ($m = $first->match('/^in the schema (»)$/u'))) {
            return $thing->with(schema: $m[0]);
        }
        if (null !== ($m = $first->match('/^meaning (»)$/u'))) {
            return $thing->with(meaning: $m[0]);
        }
        if (null !== ($m = $first->match('/^keyed by (a number of its own|a UUID of its own|what tells it apart|nothing)$/u'))) {
            $keyed = ['a number of its own' => 'number', 'a UUID of its own' => 'uuid', 'what tells it apart' => 'natural', 'nothing' => 'none'][$m[0]] ?? null;

            return $thing->with(keyed: $keyed, keyName: $this->all->called->option($pieces, 1, 'kept as') ?? $thing->keyName);
        }
        if (null !== ($m = $first->match('/^stored as (»)$/u'))) {
            return $thing->with(stored: $m[0]);
        }
        if (null !== ($m = $first->match('/^sorted as (»)$/u'))) {
            return $thing->with(sorted: $m[0]);
        }

        return match ($first->text) {
            'keeps its history' => $thing->with(history: true),
            'is valid for a period' => $thing->with(period: true),
            default => null,
        };
    }

    /** @param list<Piece> $pieces */
    public function identifier(array $pieces): Identifier
    {
        $name = null;
        $said = [$pieces[0]->after('/^told apart by /u')];
        foreach (\array_slice($pieces, 1) as $piece) {
            if (null !== ($m = $piece->match('/^kept as (»)$/u'))) {
                $name = $m[0];
            } else {
                $said[] = $piece;
            }
        }
        $parts = $this->all->called->names($said);

        return new Identifier([] === $parts ? throw new NotUnderstood('By what?', $pieces[0]) : $parts, $name, $this->all->line + 1);
    }

    /** @param list<Piece> $pieces */
    public function lookup(array $pieces): Lookup
    {
        $unique = str_starts_with($pieces[0]->text, 'looked up as one only by ');
        $parts = $sql = [];
        $name = null;
        $method = '';
        $where = null;
        $comment = '';
        foreach ($pieces as $i => $piece) {
            if ($i > 0 && null !== ($m = $piece->match('/^(kept as|with|where|meaning) (»)$/u'))) {
                match ($m[0]) {
                    'kept as' => $name = $m[1],
                    'with' => $method = $m[1],
                    'where' => $where = $m[1],
                    default => $comment = $m[1],
                };
                continue;
            }
            foreach ((0 === $i ? $piece->after('/^looked up (?:as one only )?by /u') : $piece)->parts() as $part) {
                $m = $part->match('/^(?:the first ([\d,]+) characters of )?(?:(computed as) (»)|(.+?))( downwards)?$/u') ?? ['', '', '', $part->value(), ''];
                if ('' !== $m[1]) {
                    $sql[] = \count($parts);
                }
                $parts[] = new IndexPart('' === $m[1] ? $m[3] : $m[2], '' === $m[0] ? null : (int) str_replace(',', '', $m[0]), '' !== $m[4]);
            }
        }

        return new Lookup($parts, $sql, $name, $unique, $method, $where, $comment, $this->all->line + 1);
    }

    /** @param list<Piece> $pieces */
    public function trigger(array $pieces, string $name): Trigger
    {
        $timing = '';
        $event = '';
        $body = null;
        $statement = '';
        foreach (\array_slice($pieces, 1) as $piece) {
            if (null !== ($m = $piece->match(
                '/^(before|after|instead of) ((?:insert|update|delete|truncate)(?: or (?:insert|update|delete|truncate))*)$/ui',
            ))) {
                $timing = strtoupper($m[0]);
                $event = strtoupper($m[1]);
            } elseif ($piece->isQuoted()) {
                $body = $piece->quotes[0];
            } elseif (null !== ($m = $piece->match('/^made by (»)$/u'))) {
                $statement = $m[0];
            } else {
                throw new NotUnderstood('Here stands when it runs (“before insert”), or its SQL in $$ … $$.', $piece);
            }
        }
        if ('' === $timing || null === $body) {
            throw new NotUnderstood('A trigger says when it runs (“before insert”) and what it does, in $$ … $$.', $pieces[0]);
        }

        return new Trigger($name, $timing, $event, $body, $statement);
    }
}
