<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Dialect\Dialects;

/** Rules of a design, and for which engine it is. */
final class RuleReader
{
    public function __construct(private readonly OutlineReader $all)
    {
    }

    /** @param list<Piece> $pieces */
    public function rule(array $pieces): void
    {
        $piece = $pieces[0];
        $rules = $this->all->design->rules;
        if (null !== ($m = $piece->match('/^for (.+)$/u'))) {
            $this->all->design = $this->all->design->with(engine: $this->engine($m[0], $piece));
        } elseif (null !== ($m = $piece->match('/^begun from (.+)$/u'))) {
            $this->all->design = $this->all->design->with(begun: $m[0]);
        } elseif (null !== ($m = $piece->match('/^sorted as (»)$/u'))) {
            $this->all->design = $this->all->design->with(sorted: $m[0]);
        } elseif (null !== ($m = $piece->match('/^tables begin with (»)$/u'))) {
            $this->all->design = $this->all->design->with(rules: $rules->with(prefix: $m[0]));
        } elseif (null !== ($m = $piece->match('/^names have at most (\d+) characters$/u'))) {
            $this->all->design = $this->all->design->with(rules: $rules->with(longest: max(8, (int) $m[0])));
        } else {
            $called = $filled = null;
            while (\count($pieces) > 1) {
                $last = $pieces[\count($pieces) - 1];
                if (null === $filled && null !== ($m = $last->match('/^computed as (»)$/u'))) {
                    $filled = $m[0];
                } elseif (null === $called && null !== $last->match('/^as (.+)$/u')) {
                    $called = $this->all->called->names([$last->after('/^as /u')]);
                } else {
                    break;
                }
                array_pop($pieces);
            }
            $words = $piece->text.implode('', array_map(static fn (Piece $each): string => $each->before.' '.$each->text, \array_slice($pieces, 1)));
            $said = Rules::said($words);
            if (null === $said) {
                $near = [];
                $spoken = explode(' ', mb_strtolower($words));
                foreach (Rules::ALL as [, $settings]) {
                    foreach ($settings as $sentence) {
                        similar_text(mb_strtolower($words), mb_strtolower($sentence), $alike);
                        $near[$sentence] = $alike + 20 * \count(array_intersect(explode(' ', mb_strtolower($sentence)), $spoken));
                    }
                }
                arsort($near);
                throw new NotUnderstood(\sprintf('“%s” is no rule.', $words), $piece, \array_slice(array_map(strval(...), array_keys($near)), 0, 3));
            }
            $this->all->design = $this->all->design->with(rules: $this->brought($rules->set($said[0], $said[1]), $said[0], $called, $filled, $piece));
            $this->all->add('rule', null, $said[0]);

            return;
        }
        $this->all->add('rule', null, explode(' ', $piece->text)[0]);
    }

    /**
     * What the fields are called that a rule brings, and by what they are filled.
     *
     * @param list<string>|null $called
     */
    private function brought(Rules $rules, string $rule, ?array $called, ?string $filled, Piece $piece): Rules
    {
        $most = Rules::BRING[$rule] ?? 0;
        if (0 === $most && (null !== $called || null !== $filled)) {
            throw new NotUnderstood('This rule brings no fields that could be called or filled otherwise.', $piece);
        }
        if (null !== $called && \count($called) !== $most) {
            throw new NotUnderstood(
                \sprintf('It brings %s: “as %s”.', 1 === $most ? 'one field' : 'two fields', 1 === $most ? 'changes' : 'made at and changed at'),
                $piece,
            );
        }

        return $rules->with(
            called: null === $called ? $rules->called : [$rule => $called] + $rules->called,
            filled: null === $filled ? $rules->filled : [$rule => $filled] + $rules->filled,
        );
    }

    public function engine(string $label, Piece $piece): string
    {
        foreach (Dialects::written() as $name => $dialect) {
            if (0 === strcasecmp($label, $dialect->label()) || 0 === strcasecmp($label, $name)) {
                return $name;
            }
        }
        $labels = array_map(static fn ($dialect): string => $dialect->label(), Dialects::written());
        throw new NotUnderstood(
            \sprintf('“%s” is no engine that scripts are written for. There are %s.', $label, implode(', ', $labels)),
            $piece,
            array_map(static fn (string $each): string => 'for '.$each, array_values($labels)),
        );
    }
}
