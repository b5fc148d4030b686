<?php

declare(strict_types=1);

namespace Fasti\Register;

use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

final class SearchController extends AbstractController
{
    /** @param iterable<Understanding> $rooms */
    public function __construct(#[AutowireIterator(Understanding::class)] private readonly iterable $rooms)
    {
    }

    #[Route('/search', name: 'search', methods: ['GET'])]
    public function search(Request $request, Search $search): Response
    {
        $query = mb_substr(trim($request->query->getString('q')), 0, 100);
        $understood = [];
        foreach ($this->rooms as $room) {
            array_push($understood, ...$room->of($query));
        }
        $data = ['query' => $query, 'found' => $search->find($query), 'understood' => $understood];

        return $this->render('fetch' === $request->headers->get('X-Requested-With') ? 'search/_results.html.twig' : 'search/results.html.twig', $data);
    }
}
