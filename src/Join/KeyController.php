<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Core\Catalog\Key;
use Fasti\Core\Join\EntryKind;
use Fasti\Profile\Profiles;
use Fasti\Register\Joins;
use Fasti\Register\JoinView;
use Fasti\Source\SourceStore;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

/** The keys of each entry, where its fields lead, and what kind it is. */
final class KeyController extends AbstractController
{
    private const PAGE = 200;

    public function __construct(
        private readonly SourceGraph $graph,
        private readonly SourceStore $sources,
        private readonly EntryRoles $roles,
        private readonly Joins $joins,
        private readonly Profiles $profiles,
    ) {
    }

    #[Route('/register/keys', name: 'keys', methods: ['GET'])]
    public function list(Request $request): Response
    {
        $sources = $this->sources->all();
        $source = $request->query->getInt('source') ?: (array_key_first($sources) ?? 0);
        $kind = EntryKind::tryFrom($request->query->getString('kind'));
        $page = max(1, $request->query->getInt('page', 1));
        [$catalog, $ids] = 0 === $source ? [null, []] : $this->graph->catalog($source);
        $roles = $this->roles->of(array_values($ids));
        $counts = array_count_values(array_map(static fn (Role $role): string => $role->kind(), $roles));
        $shown = [];
        foreach ($catalog->tables ?? [] as $i => $table) {
            $role = $roles[$ids[$i]] ?? null;
            if (!$table->kind->isView() && (null === $kind || $kind->value === $role?->kind())) {
                $shown[$ids[$i]] = $table;
            }
        }
        $more = \count($shown) > self::PAGE * $page;
        $shown = \array_slice($shown, self::PAGE * ($page - 1), self::PAGE, true);
        $entries = array_keys($shown);

        return $this->render('join/keys.html.twig', [
            'sources' => $sources, 'source' => $source, 'kind' => $kind, 'kinds' => EntryKind::cases(), 'counts' => $counts, 'tables' => $shown,
            'roles' => $roles,
            'others' => array_map(self::others(...), $shown), 'joins' => $this->leading($entries), 'profiles' => $this->profiles->all($entries),
            'page' => $page, 'more' => $more,
        ]);
    }

    /**
     * @return list<list<string>> the unique keys besides the primary one
     */
    private static function others(\Fasti\Core\Catalog\Table $table): array
    {
        return array_map(static fn (Key $key): array => $key->columns, $table->uniqueKeys);
    }

    /**
     * @param list<int> $entries
     *
     * @return array<int, list<JoinView>>
     */
    private function leading(array $entries): array
    {
        return array_map(
            static fn (array $joins): array => array_values(array_filter($joins, static fn (JoinView $join): bool => $join->out)),
            $this->joins->of($entries),
        );
    }
}
