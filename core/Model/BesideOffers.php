<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Model\Companion\Companion;

/** What can be asked for beside the measures of a question, in the words in which it is asked for. */
final readonly class BesideOffers
{
    /** How far back is offered; whoever types says any other. */
    private const BACK = [[1, Span::Year], [1, Span::Month], [1, Span::Quarter], [1, Span::Week], [1, Span::Day]];

    public function __construct(private Ground $ground)
    {
    }

    /** @return list<array{value: string, words: string}> */
    public function of(Trial $trial): array
    {
        try {
            $question = new Question($this->ground, $trial);
        } catch (ModelError) {
            return [];
        }
        $names = $this->ground->names();
        $by = array_map($names->of(...), $question->by);
        $dates = array_map($names->of(...), $this->dates($question));
        $offers = [];
        foreach (Companion::known() as $companion) {
            foreach ($question->needed() as $measure) {
                foreach ($this->figures($companion, $measure, $question, $by, $dates) as $figure) {
                    if (!\in_array($figure->inWords(), $trial->shown(), true)) {
                        $offers[] = ['value' => $figure->inWords(), 'words' => $companion->help()];
                    }
                }
            }
        }

        return $offers;
    }

    /**
     * @param list<string> $by
     * @param list<string> $dates
     *
     * @return iterable<Figure>
     */
    private function figures(Companion $companion, Measure $measure, Question $question, array $by, array $dates): iterable
    {
        if ($companion->isBefore()) {
            foreach ($dates as $date) {
                foreach (\array_slice(self::BACK, 0, 'before' === $companion->name() ? 5 : 2) as [$many, $span]) {
                    yield new Figure($measure->name, $companion, [], $date, $many, $span);
                }
            }

            return;
        }
        if ([] === $by || $companion->adds() && '' !== (new Adding($this->ground))->why($measure, [])) {
            return;
        }
        if ($companion->runs()) {
            foreach ($question->by as $i => $level) {
                foreach ($this->isInOrder($level) ? $this->parted($by, $i) : [] as $within) {
                    yield new Figure($measure->name, $companion, $within, $by[$i]);
                }
            }

            return;
        }
        foreach ($this->parted($by, null) as $within) {
            yield new Figure($measure->name, $companion, $within);
        }
    }

    /**
     * @param list<string> $by
     *
     * @return list<list<string>> nothing, and each but the one that it runs along
     */
    private function parted(array $by, ?int $but): array
    {
        $others = array_values(array_filter($by, static fn (int $i): bool => $i !== $but, \ARRAY_FILTER_USE_KEY));

        return [[], ...\count($by) > 1 ? array_map(static fn (string $one): array => [$one], $others) : []];
    }

    private function isInOrder(Level $level): bool
    {
        $family = $this->ground->formula($level->role, $this->ground->model->attribute($level)->expression ?? '')->family;

        return TypeFamily::Time === $family || $family->isNumeric() || '' !== ($this->ground->model->attribute($level)->sorted ?? '');
    }

    /** @return list<Level> dates to which every fact of the question leads by one route; where the answer is of the time of some of them, those */
    private function dates(Question $question): array
    {
        $dates = [];
        $facts = $question->facts();
        foreach ($this->ground->model->roles as $role) {
            foreach ($facts as $fact) {
                if (null === $this->ground->roleNamed($fact) || 1 !== \count($this->ground->ways()->between($fact, $role->name))) {
                    continue 2;
                }
            }
            array_push($dates, ...(new Earlier($this->ground, $question))->dates($role->name));
        }
        $told = array_filter($dates, fn (Level $date): bool => $this->isTold($date, $question));

        return [] === $told ? $dates : array_values($told);
    }

    /** Whether what the answer is split by, or limited to, is of a date. */
    private function isTold(Level $date, Question $question): bool
    {
        $field = $this->ground->formula($date->role, $this->ground->model->attribute($date)->expression ?? '')->field();
        $levels = [...$question->by, ...array_merge([], ...array_map($question->limitedBy(...), $question->facts()))];
        $earlier = new Earlier($this->ground, $question);

        return null !== $field && [] !== array_filter($levels, static fn (Level $level): bool => $earlier->isOf($level, $date, $field));
    }
}
