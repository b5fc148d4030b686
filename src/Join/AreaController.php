<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Join\Area;
use Fasti\Core\Join\Areas;
use Fasti\Core\Wording\Naming;
use Fasti\Register\EntryStore;
use Fasti\Source\SourceStore;
use Fasti\Text\BadText;
use Fasti\Text\SaidStore;
use Fasti\Text\Texts;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** Subject areas: those that stewards made, and those that the joins suggest. */
final class AreaController extends AbstractController
{
    public function __construct(
        private readonly SourceGraph $graph,
        private readonly EntryStore $entries,
        private readonly SourceStore $sources,
        private readonly EntryRoles $roles,
        private readonly Texts $texts,
        private readonly SaidStore $said,
    ) {
    }

    #[Route('/register/areas', name: 'areas', methods: ['GET'])]
    public function list(Request $request): Response
    {
        $sources = $this->sources->all();
        $source = $request->query->getInt('source') ?: (array_key_first($sources) ?? 0);
        $areas = $this->roles->areas();
        $taken = array_fill_keys(array_merge(...array_values($areas) ?: [[]]), true);
        $proposed = [];
        foreach (0 === $source ? [] : Areas::of($this->entries->ids($source), $this->graph->links($source)) as $area) {
            $open = array_values(array_filter($area->nodes, static fn (int $entry): bool => !isset($taken[$entry])));
            if (\count($open) >= 2 && 2 * \count($open) >= \count($area->nodes)) {
                $proposed[] = new Area($area->middle, $open);
            }
        }
        $placed = $this->entries->placed(
            array_merge(array_keys($taken), ...array_map(static fn (Area $area): array => [$area->middle, ...$area->nodes], $proposed)),
        );

        return $this->render('join/areas.html.twig', [
            'sources' => $sources, 'source' => $source, 'areas' => $areas, 'placed' => $placed,
            'proposed' => array_map(
                static fn (Area $area): array => get_object_vars($area) + ['name' => Naming::asName($placed[$area->middle]->title ?? '')],
                $proposed,
            ),
        ]);
    }

    /** Puts entries into an area: one that is proposed, one that is renamed, or single entries that move. */
    #[Route('/register/areas', name: 'areas_put', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('areas')]
    public function put(Request $request, #[CurrentUser] Account $account): Response
    {
        $given = $request->request;
        $name = trim($given->getString('name'));
        $source = $given->getInt('source');
        $entries = array_values(array_map(intval(...), array_filter($given->all('entries'), is_numeric(...))));
        if ($given->has('area')) {
            $entries = $this->roles->areas()[$given->getString('area')] ?? [];
        }
        $sitting = 'area-'.bin2hex(random_bytes(8));
        try {
            if ('' === $name && !$given->has('leave')) {
                throw new BadText('An area needs a name.');
            }
            foreach ($entries as $entry) {
                $base = $this->said->one('entry', $entry, JoinProperties::AREA);
                $this->texts->save($account, 'entry', $entry, JoinProperties::AREA, $base, $given->has('leave') ? '' : $name, $sitting);
            }
        } catch (BadText $e) {
            $this->addFlash('notice', $e->getMessage());
        }

        return $this->redirectToRoute('areas', ['source' => $source], 303);
    }
}
