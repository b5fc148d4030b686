<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Register\Entries;
use Fasti\Source\SourceStore;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

final class FindingController extends AbstractController
{
    private const PAGE = 200;

    public function __construct(
        private readonly Findings $findings,
        private readonly SourceStore $sources,
        private readonly Checks $checks,
        private readonly Entries $entries,
    ) {
    }

    /** All findings by what was noticed; of one check, exactly its places. */
    #[Route('/register/findings', name: 'findings', methods: ['GET'])]
    public function list(Request $request): Response
    {
        $query = $request->query;
        $source = max(0, $query->getInt('source'));
        $check = $this->checks->of($query->getString('check'));
        $group = $query->has('group') ? $query->getString('group') : null;
        $page = max(1, $query->getInt('page', 1));
        $places = null === $check ? [] : $this->findings->places($check->name(), $group, $source, self::PAGE + 1, self::PAGE * ($page - 1));
        $shown = \array_slice($places, 0, self::PAGE);
        $entries = [];
        foreach ($this->entries->load(array_values(array_unique(array_column($shown, 'entry'))), false) as $entry) {
            $entries[$entry->id] = $entry;
        }

        return $this->render('finding/list.html.twig', [
            'sources' => $this->sources->all(), 'source' => $source, 'groups' => null === $check ? $this->findings->groups($source) : [],
            'check' => $check, 'group' => $group, 'places' => $shown, 'entries' => $entries, 'page' => $page, 'more' => \count($places) > self::PAGE,
        ]);
    }

    /** It was looked at and is as it should be; or, after all, it is not. */
    #[Route('/register/findings/{id<\d+>}/{what<aside|back>}', name: 'finding_aside', methods: ['POST'])]
    #[IsGranted(Act::DECIDE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function aside(int $id, string $what, #[CurrentUser] Account $account): Response
    {
        $this->findings->setAside($id, 'aside' === $what, $account);

        return $this->json(['aside' => 'aside' === $what]);
    }
}
