<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Wording\Amount;
use Fasti\Finding\Noticed;
use Fasti\Finding\RegisterCheck;
use Fasti\Register\Fields;

/** A view still uses something that is retired. */
final readonly class UsesRetired implements RegisterCheck
{
    public function __construct(private Retirements $retirements, private ReadingStore $store, private Fields $fields)
    {
    }

    public function name(): string
    {
        return 'uses-retired';
    }

    public function severity(): Severity
    {
        return Severity::Attention;
    }

    public function why(): string
    {
        return 'What it shows goes wrong or missing when the retired thing is taken away. Change its query to what replaces it.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Amount::of($count, 'view').' still use something that is retired';
    }

    public function about(): array
    {
        return ['standing', ...Retirements::PROPERTIES];
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
                \sprintf('It uses %s, which is retired%s.', null === $user['entry'] ? $at->place->table.'.'.$at->place->column : $at->place->table, '' === $words ? '' : ': '.$words),
                '',
                '',
                $words,
            );
        }
    }
}
