<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Wording\Amount;
use Fasti\Finding\Noticed;
use Fasti\Finding\RegisterCheck;
use Fasti\Register\FieldAt;
use Fasti\Register\Fields;
use Fasti\Register\Joins;

/** Something still uses what is retired: a view, a field that is filled from it, a table that refers to it. */
final readonly class UsesRetired implements RegisterCheck
{
    public function __construct(
        private Retirements $retirements,
        private ReadingStore $store,
        private Fields $fields,
        private Origins $origins,
        private Joins $joins,
    ) {
    }

    public function name(): string
    {
        return 'uses-retired';
    }

    public function severity(): Severity
    {
        return Severity::Fault;
    }

    public function why(): string
    {
        return 'What it shows goes wrong or missing when the retired thing is taken away.';
    }

    public function mend(): string
    {
        return 'Change its query to what replaces it.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Amount::of($count, 'place').' still use something that is retired';
    }

    public function about(): array
    {
        return ['standing', Origins::PROPERTY, ...Retirements::PROPERTIES];
    }

    public function of(): iterable
    {
        $fields = $this->retirements->fields();
        $entries = $this->retirements->entries();
        $of = array_fill_keys(array_keys($fields), null);
        foreach (array_keys($entries) as $entry) {
            $of += array_fill_keys($this->fields->present($entry), $entry);
        }
        $placed = $this->fields->placed(array_keys($of));
        $users = [];
        foreach ($this->store->dependingOn(array_keys($of)) as $edge) {
            $retired = $of[$edge['from']];
            $key = $edge['entry'].'/'.(null === $retired ? 'f'.$edge['from'] : 'e'.$retired);
            // A field of the view is named where there is one field alone that it is about.
            $users[$key]['fields'][$edge['field']] = true;
            $users[$key] += ['view' => $edge['entry'], 'from' => $edge['from'], 'entry' => $retired];
        }
        $views = $this->fields->placed(array_merge([], ...array_map(static fn (array $user): array => array_keys($user['fields']), array_values($users))));
        yield from $this->others($of, $placed, $fields, $entries);
        foreach ($users as $user) {
            $at = $placed[$user['from']] ?? null;
            if (null === $at || $user['view'] === $user['entry'] || isset($entries[$user['view']])) {
                continue;
            }
            $retirement = null === $user['entry'] ? $fields[$user['from']] : $entries[$user['entry']];
            $own = array_values(array_filter(array_keys($user['fields']), static fn (int $field): bool => isset($views[$field])));
            $words = $retirement->words();
            yield new Noticed(
                $user['view'],
                1 === \count($own) && null === $user['entry'] ? $own[0] : null,
                \sprintf(
                    'It uses %s, which is retired%s.',
                    null === $user['entry'] ? $at->place->table.'.'.$at->place->column : $at->place->table,
                    '' === $words ? '' : ': '.$words,
                ),
                '',
                '',
                $words,
            );
        }
    }

    /**
     * What uses something retired without being a view: fields of other sources that are filled from it, and tables that refer
     * to a retired one.
     *
     * @param array<int, ?int>          $of      field that is retired, by itself or with its entry → that entry
     * @param array<int, FieldAt>       $placed
     * @param array<int, Retirement>    $fields
     * @param array<int, Retirement>    $entries
     *
     * @return iterable<Noticed>
     */
    private function others(array $of, array $placed, array $fields, array $entries): iterable
    {
        $filled = array_filter($this->origins->said(), static fn (int $from): bool => \array_key_exists($from, $of));
        $filling = $this->fields->placed(array_keys($filled));
        foreach ($filled as $field => $from) {
            $words = (null === $of[$from] ? $fields[$from] : $entries[$of[$from]])->words();
            if (isset($filling[$field], $placed[$from])) {
                $what = $placed[$from]->place->table.'.'.$placed[$from]->place->column;
                yield new Noticed(
                    $filling[$field]->entry,
                    $field,
                    \sprintf('It is filled from %s, which is retired%s.', $what, '' === $words ? '' : ': '.$words),
                    '',
                    '',
                    $words,
                );
            }
        }
        foreach ($this->joins->of(array_keys($entries)) as $retired => $joins) {
            foreach ($joins as $join) {
                if (!$join->out && $join->kind->counts() && !isset($entries[$join->fromId])) {
                    $words = $entries[$retired]->words();
                    yield new Noticed(
                        $join->fromId,
                        null,
                        \sprintf(
                            'It refers to %s by %s, and that is retired%s.',
                            $join->toName,
                            implode(', ', array_column($join->pairs, 0)),
                            '' === $words ? '' : ': '.$words,
                        ),
                        '',
                        '',
                        $words,
                    );
                }
            }
        }
    }
}
