<?php

declare(strict_types=1);

namespace Fasti\Register;

use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Contracts\EventDispatcher\EventDispatcherInterface;

final class SearchController extends AbstractController
{
    /** @param iterable<Understanding> $rooms */
    public function __construct(
        #[AutowireIterator(Understanding::class)] private readonly iterable $rooms,
        private readonly EventDispatcherInterface $events,
    ) {
    }

    /** A list that follows each letter asks often; only what somebody asked in the end is looked for in vain. */
    #[Route('/search', name: 'search', methods: ['GET'])]
    public function search(Request $request, Search $search): Response
    {
        $query = mb_substr(trim($request->query->getString('q')), 0, 100);
        $understood = [];
        foreach ($this->rooms as $room) {
            array_push($understood, ...$room->of($query));
        }
        $found = $search->find($query);
        $data = ['query' => $query, 'found' => $found, 'understood' => $understood];
        $typing = 'fetch' === $request->headers->get('X-Requested-With');
        if (mb_strlen($query) > 2
            && [] === $understood
            && [] === $found['entries']
            && [] === $found['fields']
            && [] === $found['texts']
            && (!$typing || $request->query->has('in-the-end'))) {
            $this->events->dispatch(new SoughtInVain($query));
        }

        return $this->render($typing ? 'search/_results.html.twig' : 'search/results.html.twig', $data);
    }
}
