<?php

declare(strict_types=1);

namespace Fasti\Register;

use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

final class SearchController extends AbstractController
{
    #[Route('/search', name: 'search', methods: ['GET'])]
    public function search(Request $request, Search $search): Response
    {
        $query = mb_substr(trim($request->query->getString('q')), 0, 100);
        $data = ['query' => $query, 'found' => $search->find($query)];

        return $this->render('fetch' === $request->headers->get('X-Requested-With') ? 'search/_results.html.twig' : 'search/results.html.twig', $data);
    }
}
