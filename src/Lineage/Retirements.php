<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Register\EntryStore;
use Fasti\Text\SaidStore;

/** What must not be used any more, as stewards said. */
final readonly class Retirements
{
    public const PROPERTIES = ['retired', 'replacedBy', 'retiresOn'];

    public function __construct(private SaidStore $said, private EntryStore $entries)
    {
    }

    /** @return array<int, Retirement> by field, those that are retired */
    public function fields(): array
    {
        $fields = array_keys($this->said->all('field', 'retired'));

        return array_filter($this->of('field', $fields), static fn (Retirement $retirement): bool => $retirement->retired);
    }

    /** @return array<int, Retirement> by entry, those that are retired */
    public function entries(): array
    {
        $retired = [];
        $ids = $this->entries->retired();
        $said = $this->of('entry', $ids);
        foreach ($ids as $id) {
            $retired[$id] = new Retirement(true, $said[$id]->replacedBy ?? '', $said[$id]->until ?? '');
        }

        return $retired;
    }

    /**
     * @param string    $topic entry or field
     * @param list<int> $ids
     *
     * @return array<int, Retirement> what is said of them; an entry's standing is kept elsewhere
     */
    public function of(string $topic, array $ids): array
    {
        return array_map(
            static fn (array $texts): Retirement => new Retirement(
                'retired' === ($texts['retired'] ?? ''),
                $texts['replacedBy'] ?? '',
                $texts['retiresOn'] ?? '',
            ),
            $this->said->of($topic, $ids, self::PROPERTIES),
        );
    }
}
