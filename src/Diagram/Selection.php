<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Join\Routes;
use Fasti\Join\EntryRoles;
use Fasti\Join\SourceGraph;
use Fasti\Register\EntryStore;
use Fasti\Register\RegisterFilter;
use Fasti\Register\RegisterPages;
use Symfony\Component\HttpFoundation\Request;

/** Which entries a diagram is to be made of: what a page of the register, of a search, of an area, of a route or of a diagram has asked for. */
final readonly class Selection
{
    public const MOST = 300;

    public function __construct(
        private RegisterPages $pages,
        private RegisterDiagram $drawing,
        private EntryRoles $roles,
        private EntryStore $entries,
        private SourceGraph $graph,
    ) {
    }

    public function asked(Request $request): Selected
    {
        $query = $request->query;
        $around = $query->getInt('around');
        $from = $query->getInt('from');
        $to = $query->getInt('to');
        if ($around > 0) {
            return $this->named($this->drawing->members(Scope::entry($around, $query->getInt('steps', 1))), [$around], 'Around %s', 'What %s joins');
        }
        if ($from > 0 && $to > 0) {
            return $this->named($this->route($from, $to, $query->getInt('number')), [$from, $to], 'From %s to %s', 'How one gets from %s to %s');
        }
        $area = $query->getString('area');
        if ('' !== $area) {
            return new Selected($this->roles->areas()[$area] ?? [], $area);
        }
        if ($query->getBoolean('register')) {
            return new Selected($this->pages->ids(RegisterFilter::from($request), self::MOST));
        }

        return new Selected(self::numbers($query->getString('entries')));
    }

    /** @return list<int> */
    public static function numbers(string $text): array
    {
        preg_match_all('/\d{1,9}/', $text, $m);

        return \array_slice(array_values(array_unique(array_map(intval(...), $m[0]))), 0, self::MOST);
    }

    /** @return list<int> */
    private function route(int $from, int $to, int $number): array
    {
        $source = $this->entries->sources([$from, $to]);
        $links = ($source[$from] ?? 0) === ($source[$to] ?? -1) ? $this->graph->links($source[$from]) : [];
        $found = (new Routes($links))->between($from, $to);
        $way = $found[$number] ?? $found[0] ?? null;

        return null === $way ? [$from, $to] : array_values(array_unique($way->nodes()));
    }

    /**
     * @param list<int> $entries
     * @param list<int> $about
     */
    private function named(array $entries, array $about, string $name, string $purpose): Selected
    {
        $placed = $this->entries->placed($about);
        $titles = array_map(static fn (int $entry): string => $placed[$entry]->title ?? '', $about);

        return new Selected($entries, mb_substr(\sprintf($name, ...$titles), 0, 120), mb_substr(\sprintf($purpose, ...$titles), 0, 400));
    }
}
