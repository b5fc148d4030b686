<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Finding\Severity;
use Fasti\Core\Join\NameWords;
use Fasti\Core\Model\Aggregate\Computed;
use Fasti\Core\Model\Aggregate\OfMeasures;
use Fasti\Core\Sql\Tree\Expression;
use Fasti\Core\Sql\Tree\Operation;
use Fasti\Core\Sql\Tree\Ref;
use Fasti\Core\Wording\Enumeration;
use Fasti\Core\Wording\Units;

/** What is wrong with a model, or may be, without a look at the data. */
final class ModelChecks
{
    private const AVERAGES = ['mean', 'avg', 'average', 'median', 'rate', 'ratio', 'share', 'percent', 'percentage', 'pct'];
    private const STOCKS = ['stock', 'balance', 'inventory', 'backlog', 'headcount', 'holding', 'outstanding', 'instore', 'onhand', 'remaining'];

    /** @var list<ModelFinding> */
    private array $found = [];

    public function __construct(private readonly Ground $ground, private readonly Known $known = new Known())
    {
    }

    /** @return list<ModelFinding> the gravest first */
    public function all(): array
    {
        $this->found = [];
        $this->names();
        $this->roles();
        $this->joins();
        $this->routes();
        $this->facts();
        $this->measures();
        $this->attributes();
        $this->hierarchies();
        $this->sharings();
        $this->sameNames();
        $this->personal();
        usort($this->found, static fn (ModelFinding $a, ModelFinding $b): int => $b->severity->rank() <=> $a->severity->rank());

        return $this->found;
    }

    private function note(string $check, Severity $severity, string $about, string $words, string $why, string $mend): void
    {
        $this->found[] = new ModelFinding($check, $severity, $about, $words, $why, $mend);
    }

    private function names(): void
    {
        $taken = [];
        foreach ([
            ...array_map(static fn (Role $role): array => ['role', $role->name], $this->ground->model->roles),
            ...array_map(static fn (Measure $measure): array => ['measure', $measure->name], $this->ground->model->measures),
        ] as [$kind, $name]) {
            $folded = $kind."\0".ModelNames::folded($name);
            if (isset($taken[$folded])) {
                $this->note('name-twice', Severity::Fault, $name, \sprintf('Two %ss are called “%s”', $kind, $name),
                    'A question that names it could mean either.', 'Give one of them another name.');
            }
            $taken[$folded] = true;
        }
    }

    private function roles(): void
    {
        foreach ($this->ground->model->roles as $role) {
            $table = $this->ground->table($role->name);
            if (null === $table) {
                $this->note('entry-gone', Severity::Fault, $role->name, \sprintf('The entry %s of “%s” is not there any more', $role->entry, $role->name),
                    'Whatever is taken of it or split by it cannot be answered.', 'Point the role at what replaces it, or take it out of the model.');
                continue;
            }
            $gone = array_values(array_filter($role->key, fn (string $field): bool => null === $this->ground->column($role->name, $field)));
            if ([] !== $gone) {
                $this->note(
                    'field-gone',
                    Severity::Fault,
                    $role->name,
                    \sprintf('%s, of the key of “%s”, is not there any more', implode(' and ', $gone), $role->name),
                    'Its rows are not told apart.', 'Say its key anew.');
            }
            if ('' !== $role->like && null === $this->ground->roleNamed($role->like)) {
                $this->note(
                    'role-of-nothing',
                    Severity::Fault,
                    $role->name,
                    \sprintf('“%s” is a role of “%s”, which the model has not', $role->name, $role->like),
                    'Its attributes are said there.', 'Say of which dimension it is a role.');
            }
            if (RoleKind::Fact === $role->kind
                && [] === array_filter($this->ground->model->measures, static fn (Measure $one): bool => $one->fact === $role->name)) {
                $this->note('fact-without-measure', Severity::Note, $role->name, \sprintf('Of the fact “%s” nothing is measured', $role->name),
                    'Nothing can be asked of it but through other facts.', 'Take a measure of it: the count of its rows is one.');
            }
            if (RoleKind::Fact === $role->kind && '' === trim($role->grain)) {
                $this->note('no-grain', Severity::Doubt, $role->name, \sprintf('It is not said what one row of “%s” stands for', $role->name),
                    'Who does not know what a row is, does not know what a count counts.', 'Say its grain.');
            }
        }
    }

    private function joins(): void
    {
        foreach ($this->ground->model->joins as $join) {
            foreach ([[$join->from, $join->fields], [$join->to, $join->keys]] as [$role, $fields]) {
                if (null === $this->ground->roleNamed($role)) {
                    $this->note(
                        'join-of-nothing',
                        Severity::Fault,
                        $join->key(),
                        \sprintf('A join leads %s “%s”, which the model has not', $role === $join->from ? 'from' : 'to', $role),
                        'Nothing goes over it.', 'Take the join out, or the entry in.');
                    continue;
                }
                foreach ($fields as $field) {
                    if (null !== $this->ground->table($role) && null === $this->ground->column($role, $field)) {
                        $this->note(
                            'field-gone',
                            Severity::Fault,
                            $join->key(),
                            \sprintf('%s of “%s”, by which a join finds its rows, is not there any more', $field, $role),
                            'Nothing goes over the join.', 'Say the join anew.');
                    }
                }
            }
            if ($join->toEnd->many()) {
                $this->note('join-multiplies', Severity::Fault, $join->key(), \sprintf('At one row of “%s” several of “%s” may stand', $join->from, $join->to),
                    'Joined so, its rows would be counted several times. No question goes over this join.',
                    'Join by a key of one row, or let a link of both be a fact of its own.');
            }
            if (isset($this->known->ends[$join->key()])) {
                $this->note('ends-differ', Severity::Doubt, $join->key(), $this->known->ends[$join->key()],
                    'What is stated of a join is what questions trust.', 'Correct what is stated, or the data.');
            }
        }
    }

    private function routes(): void
    {
        foreach ($this->ground->model->facts() as $fact) {
            foreach ($this->ground->ways()->reached($fact->name) as $role) {
                $routes = $this->ground->ways()->between($fact->name, $role);
                if (\count($routes) > 1 && $this->parts($routes)) {
                    $this->note('more-than-one-route', Severity::Fault, $fact->name.' → '.$role, \sprintf(
                        'From “%s” to “%s” there %s: %s',
                        $fact->name,
                        $role,
                        2 === \count($routes) ? 'are two routes' : 'are '.\count($routes).' routes',
                        implode('; or ', array_map(Ways::inWords(...), \array_slice($routes, 0, 3))),
                    ), 'Their rows may differ, so that a figure would depend on the route.', 'Choose one of them, or make a role of its own for each.');
                }
            }
        }
        foreach ($this->ground->model->choices as $choice) {
            if (null === $this->ground->roleNamed($choice->from) || [] === $this->ground->ways()->between($choice->from, $choice->to)) {
                $this->note(
                    'choice-of-nothing',
                    Severity::Fault,
                    $choice->from.' → '.$choice->to,
                    \sprintf('The chosen route from “%s” to “%s” is not there any more', $choice->from, $choice->to),
                    'Nothing is split by what it led to.', 'Choose another one.');
            }
        }
    }

    /**
     * Whether routes differ before their end: where they only share a way that splits earlier, that is said once, there.
     *
     * @param list<list<Way>> $routes
     */
    private function parts(array $routes): bool
    {
        $last = array_unique(
            array_map(
                static fn (array $route): string => [] === $route ? '' : $route[\count($route) - 1]->from().' '.$route[\count($route) - 1]->join->key(),
                $routes,
            ),
        );

        return \count($last) > 1;
    }

    private function facts(): void
    {
        $facts = $this->ground->model->facts();
        foreach ($facts as $i => $one) {
            foreach (\array_slice($facts, $i + 1) as $other) {
                $mine = $this->ground->ways()->reached($one->name);
                $theirs = $this->ground->ways()->reached($other->name);
                if ([] === array_intersect($mine, $theirs)) {
                    $alike = [];
                    foreach ($mine as $role) {
                        foreach ($theirs as $far) {
                            $dimension = $this->ground->model->dimension($this->ground->role($role))->name;
                            if ($dimension === $this->ground->model->dimension($this->ground->role($far))->name) {
                                $alike[] = "$role and $far";
                            }
                        }
                    }
                    $this->note(
                        'facts-apart',
                        Severity::Doubt,
                        $one->name.' and '.$other->name,
                        \sprintf(
                            '“%s” and “%s” share no dimension',
                            $one->name,
                            $other->name,
                        ).([] === $alike ? '' : ', only '.implode(', ', $alike).', which are roles of their own'),
                        'Their figures stand side by side only as totals.', 'Let both lead to the same role, where they mean the same.');
                }
            }
        }
    }

    private function measures(): void
    {
        foreach ($this->ground->model->measures as $measure) {
            if ($measure->aggregation->isOfMeasures()) {
                $this->ofMeasures($measure);
                continue;
            }
            $texts = ['' => $measure->expression, 'the filter of ' => $measure->filter];
            foreach ($texts as $of => $text) {
                $formula = '' === trim($text) || null === $this->ground->roleNamed($measure->fact) ? null : $this->ground->formula($measure->fact, $text);
                foreach ($formula->faults ?? [] as $fault) {
                    $this->note(
                        'not-understood',
                        Severity::Fault,
                        $measure->name,
                        \sprintf('%s“%s” is not understood: %s', ucfirst($of), $measure->name, $fault->inWords($text)),
                        'It cannot be computed.', 'Correct the expression.');
                }
                if ('' !== $of && null !== $formula && [] === $formula->faults && !\in_array($formula->family, [TypeFamily::Flag, TypeFamily::Other], true)) {
                    $this->note(
                        'not-understood',
                        Severity::Fault,
                        $measure->name,
                        \sprintf('The filter of “%s” is no condition: it is a %s', $measure->name, FormulaReader::word($formula->family)),
                        'Which rows count, it does not say.', 'Write a condition, such as “… = 1”.');
                }
                foreach ($formula->doubts ?? [] as $doubt) {
                    $this->note('units-differ', Severity::Doubt, $measure->name, \sprintf('In “%s”, %s', $measure->name, $doubt->inWords($text)),
                        'A sum of different units means nothing.', 'Bring all to one unit.');
                }
            }
            if ('' === trim($measure->meaning)) {
                $this->note(
                    'no-meaning',
                    Severity::Note,
                    $measure->name,
                    \sprintf('It is not said what “%s” means', $measure->name),
                    'Who reads the figure has only its name.', 'Say in a sentence what it tells.');
            }
            $this->fits($measure);
        }
    }

    private function ofMeasures(Measure $measure): void
    {
        $faults = [];
        $formula = $measure->aggregation instanceof Computed ? $this->ground->formulaOfMeasures($measure->expression) : null;
        foreach ($formula->faults ?? [] as $fault) {
            $faults[] = \sprintf('“%s” is not understood: %s', $measure->name, $fault->inWords($measure->expression));
        }
        $parts = $this->ground->model->partsOf($measure);
        foreach (null === $formula ? $parts : [] as $part) {
            if (null === $this->ground->names()->measure($part)) {
                $faults[] = \sprintf('“%s” is made of “%s”, which is no measure', $measure->name, $part);
            }
        }
        if ([] === $parts && [] === $faults) {
            $faults[] = \sprintf('“%s” is computed of no measure', $measure->name);
        }
        if ($this->isMadeOf($measure, $measure->name, [])) {
            $faults[] = \sprintf('“%s” is made of itself', $measure->name);
        }
        foreach ($faults as $fault) {
            $this->note('not-understood', Severity::Fault, $measure->name, $fault, 'It cannot be computed.', 'Choose the measures that it is made of.');
        }
        foreach ($formula->doubts ?? [] as $doubt) {
            $this->note('units-differ', Severity::Doubt, $measure->name, \sprintf('In “%s”, %s', $measure->name, $doubt->inWords($measure->expression)),
                'A sum of different units means nothing.', 'Bring all to one unit.');
        }
    }

    /** @param array<string, true> $passed */
    private function isMadeOf(Measure $measure, string $name, array $passed): bool
    {
        foreach (isset($passed[$measure->name]) ? [] : $this->ground->model->partsOf($measure) as $part) {
            $one = $this->ground->names()->measure($part);
            if ($one?->name === $name || null !== $one && $this->isMadeOf($one, $name, $passed + [$measure->name => true])) {
                return true;
            }
        }

        return false;
    }

    /** Whether what it adds up stands in the rows that it is taken of. */
    private function grained(Measure $measure): void
    {
        $grain = $this->ground->grains()->of($measure);
        foreach ($grain->elsewhere as $role) {
            $this->note(
                'another-grain',
                Severity::Fault,
                $measure->name,
                \sprintf('The amounts of “%s” stand in “%s”, of which one row has several of “%s”', $measure->name, $role, $measure->fact),
                \sprintf('Each would count once for each row of “%s”, so no question is answered by it.', $measure->fact),
                \sprintf('Make “%s” a fact, and take the measure of it.', $role),
            );
        }
        if (null !== $grain->mixed) {
            $this->note(
                'mixed-grains',
                Severity::Fault,
                $measure->name,
                \sprintf('“%s” puts amounts of “%s” together with those of “%s”', $measure->name, $grain->mixed[1], $grain->mixed[0]),
                \sprintf('Those of “%s” would count once for each row of “%s”, so no question is answered by it.', $grain->mixed[1], $grain->mixed[0]),
                'Make two measures of it.',
            );
        }
        if ([] !== $grain->factors) {
            $roles = Enumeration::of($grain->factors);
            $this->note(
                'factor-of-another',
                Severity::Note,
                $measure->name,
                \sprintf('“%s” takes what stands in %s as a factor for each row of %s', $measure->name, $roles, $measure->fact),
                'That is right of a rate or a price, and wrong of an amount, which would count again for each row.',
                \sprintf('See that it is no amount of %s.', $roles),
            );
        }
    }

    private function fits(Measure $measure): void
    {
        $formula = '' === trim($measure->expression) || null === $this->ground->roleNamed($measure->fact) ? null
            : $this->ground->formula($measure->fact, $measure->expression);
        if (null === $formula || [] !== $formula->faults) {
            return;
        }
        if ($measure->aggregation->needsNumbers() && !$formula->family->isNumeric()) {
            $this->note(
                'aggregation-unfit',
                Severity::Fault,
                $measure->name,
                \sprintf('“%s” takes the %s of what is a %s', $measure->name, $measure->aggregation->name(), FormulaReader::word($formula->family)),
                'It cannot be computed.', 'Count it, or take the least or the greatest.');

            return;
        }
        $this->grained($measure);
        $weighed = self::isWeighed($formula->tree);
        foreach ($formula->fields as $use) {
            $words = NameWords::singular(NameWords::of($use->column));
            $how = $this->known->averaged[$this->ground->role($use->role)->entry->key()."\0".$use->column] ?? '';
            // A mean by the number of rows behind it is what makes a sum of it again.
            $average = !$weighed && ('' !== $how || [] !== array_intersect($words, self::AVERAGES));
            $how = '' === $how ? 'its name says so' : $how;
            if ($average && $measure->aggregation->isMean()) {
                $this->note(
                    'average-of-averages',
                    Severity::Doubt,
                    $measure->name,
                    \sprintf('“%s” is the average of %s, which is an average itself (%s)', $measure->name, $use->column, $how),
                    'Groups of few and of many rows count the same, so that the figure is none of the rows behind.',
                    'Take a ratio: the sum of the values by the number of rows behind each.');
            } elseif ($average && $measure->aggregation->isTotal()) {
                $this->note(
                    'sum-of-averages',
                    Severity::Fault,
                    $measure->name,
                    \sprintf('“%s” adds up %s, which is an average itself (%s)', $measure->name, $use->column, $how),
                    'Such a sum means nothing.', 'Take a ratio of what is behind it, or say that it is not added.');
            }
            if (!$weighed
                && [] !== array_intersect([...$words, implode('', $words)], self::STOCKS)
                && $measure->aggregation->isTotal()
                && Additivity::Additive === $measure->adds) {
                $this->note(
                    'stock-over-time',
                    Severity::Doubt,
                    $measure->name,
                    \sprintf('“%s” adds up %s, which looks like a stock, over time as well', $measure->name, $use->column),
                    'Ten kits in store on each of thirty days are not three hundred kits.',
                    'Say that it is not added over time, and what counts there instead: the last, as a rule.');
            }
        }
        $this->unitsWithin($measure, $formula);
    }

    private static function isWeighed(?Expression $tree): bool
    {
        return $tree instanceof Operation && '*' === $tree->sign && \count(
            array_filter($tree->operands, static fn (Expression $one): bool => $one instanceof Ref),
        ) > 1;
    }

    /** Values whose unit stands in another field, of the fact or of what it leads to. */
    private function unitsWithin(Measure $measure, Formula $formula): void
    {
        if (!$measure->aggregation->needsNumbers()
            || '' !== $formula->unit
            || TypeFamily::Number !== $formula->family
            || '' !== trim($measure->filter)) {
            return;
        }
        foreach ($this->ground->ways()->reached($measure->fact) as $role) {
            if ($role !== $measure->fact && 1 !== \count($this->ground->ways()->between($measure->fact, $role)[0] ?? [])) {
                continue;
            }
            foreach ($this->ground->table($role)->columns ?? [] as $column) {
                if (\in_array(
                    NameWords::singular(NameWords::of($column->name)),
                    [['unit'], ['uom'], ['unit', 'code'], ['currency'], ['unit', 'of', 'measure']],
                    true,
                )) {
                    $this->note(
                        'units-mixed',
                        Severity::Doubt,
                        $measure->name,
                        \sprintf('“%s” puts together values whose unit is told by %s of “%s”', $measure->name, $column->name, $role),
                        'Degrees and milligrams have no sum and no mean.', 'Let a filter choose one unit, or split by it and never add up over it.');

                    return;
                }
            }
        }
    }

    private function attributes(): void
    {
        $reached = [];
        foreach ($this->ground->model->facts() as $fact) {
            $reached += array_flip($this->ground->ways()->reached($fact->name));
        }
        foreach ($this->ground->model->sharings as $sharing) {
            $reached += isset($reached[$sharing->of]) ? array_flip($this->ground->ways()->reached($sharing->link)) : [];
        }
        foreach ($this->ground->model->roles as $role) {
            $attributes = $this->ground->model->attributesOf($role);
            if ([] !== $attributes && !isset($reached[$role->name])) {
                $this->note('not-reached', Severity::Doubt, $role->name, \sprintf('Nothing leads to the attributes of “%s”', $role->name),
                    'No figure can be split by them.', 'Join a fact to it, or take it out of the model.');
            }
            foreach ('' === $role->like ? $role->attributes : [] as $attribute) {
                foreach ([$attribute->expression, $attribute->sorted] as $text) {
                    foreach ('' === trim($text) ? [] : $this->ground->formula($role->name, $text)->faults as $fault) {
                        $this->note(
                            'not-understood',
                            Severity::Fault,
                            ModelNames::full(new Level($role->name, $attribute->name)),
                            \sprintf('“%s” is not understood: %s', $attribute->name, $fault->inWords($text)),
                            'Nothing can be split by it.', 'Correct the expression.');
                    }
                }
            }
        }
    }

    private function sharings(): void
    {
        foreach ($this->ground->model->sharings as $sharing) {
            $why = [];
            foreach ([$sharing->link, $sharing->of] as $role) {
                if (null === $this->ground->roleNamed($role)) {
                    $why[] = \sprintf('the model has no role “%s”', $role);
                }
            }
            if ([] === $why && [] === $this->ground->ways()->stepsTo($sharing)) {
                $why[] = \sprintf('no join leads from “%s” to “%s”', $sharing->link, $sharing->of);
            }
            $weight = [] !== $why || Shared::ByWeight !== $sharing->how ? null : $this->ground->formula($sharing->link, $sharing->weight);
            foreach ($weight->faults ?? [] as $fault) {
                $why[] = 'its weight is not understood: '.$fault->inWords($sharing->weight);
            }
            if (null !== $weight && [] === $weight->faults && !$weight->family->isNumeric()) {
                $why[] = 'its weight is no number';
            }
            foreach ($why as $one) {
                $this->note(
                    'shares-nothing',
                    Severity::Fault,
                    $sharing->link.' of '.$sharing->of,
                    \sprintf('How %s is shared by %s cannot be: %s', $sharing->of, $sharing->link, $one),
                    'No answer is split by what lies beyond it.',
                    'Say anew how it is shared, or take that out.',
                );
            }
        }
    }

    private function hierarchies(): void
    {
        foreach ($this->ground->model->hierarchies as $hierarchy) {
            foreach ($hierarchy->levels as $level) {
                if (null === $this->ground->model->attribute($level)) {
                    $this->note(
                        'level-of-nothing',
                        Severity::Fault,
                        $hierarchy->name,
                        \sprintf('The hierarchy “%s” has a level “%s”, which the model has not', $hierarchy->name, ModelNames::full($level)),
                        'It cannot be gone up.', 'Take the level out, or the attribute in.');
                }
            }
        }
    }

    private function sameNames(): void
    {
        foreach ($this->ground->model->measures as $measure) {
            foreach ($this->known->measures as $other) {
                if (ModelNames::folded($other['name']) === ModelNames::folded($measure->name)
                    && ($other['how'] !== self::how($measure)
                        || ('' !== $other['meaning'] && '' !== $measure->meaning && $other['meaning'] !== $measure->meaning))) {
                    $this->note(
                        'same-name-other-meaning',
                        Severity::Doubt,
                        $measure->name,
                        \sprintf(
                            '“%s” of the model “%s” is another figure: %s',
                            $measure->name,
                            $other['model'],
                            '' === $other['meaning'] ? $other['how'] : $other['meaning'],
                        ),
                        'Two people will compare them, and wonder.', 'Give one of them another name, or let both be the same.');
                }
            }
        }
    }

    /** How a measure is computed, in words that are equal for equal measures. */
    public static function how(Measure $measure): string
    {
        return $measure->aggregation instanceof OfMeasures ? $measure->aggregation->made($measure)
            : $measure->aggregation->inWords().('' === trim($measure->expression) ? ' of rows' : ' of '.$measure->expression).' of '.$measure->fact
                .('' === trim($measure->filter) ? '' : ' where '.$measure->filter);
    }

    private function personal(): void
    {
        foreach ($this->ground->model->roles as $role) {
            foreach ('' === $role->like ? $role->attributes : [] as $attribute) {
                foreach ($this->ground->formula($role->name, $attribute->expression)->fields as $use) {
                    $why = $this->known->personal[$this->ground->role($use->role)->entry->key()."\0".$use->column] ?? null;
                    if (null !== $why) {
                        $this->note(
                            'personal',
                            Severity::Doubt,
                            ModelNames::full(new Level($role->name, $attribute->name)),
                            \sprintf('“%s” is personal: %s', ModelNames::full(new Level($role->name, $attribute->name)), $why),
                            'Whoever may ask the model would read it; it is hidden from those who may not see personal data.',
                            'Take it out of the model unless it is needed.');
                    }
                }
            }
        }
    }

    /** The unit that people mean by a text, or the text. */
    public static function unit(string $text): string
    {
        return Units::named($text)->symbol ?? $text;
    }
}
