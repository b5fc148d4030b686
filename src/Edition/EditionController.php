<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Source\SourceStore;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

final class EditionController extends AbstractController
{
    private const TYPES = [
        'html' => 'text/html; charset=UTF-8', 'css' => 'text/css; charset=UTF-8', 'js' => 'text/javascript; charset=UTF-8', 'json' => 'application/json',
        'woff2' => 'font/woff2', 'svg' => 'image/svg+xml',
    ];

    public function __construct(private readonly Editions $editions, private readonly SourceStore $sources)
    {
    }

    #[Route('/editions', name: 'editions', methods: ['GET'])]
    public function list(): Response
    {
        return $this->render('edition/list.html.twig', [
            'editions' => $this->editions->list(),
            'sources' => $this->sources->all(),
        ]);
    }

    #[Route('/editions', name: 'edition_make', methods: ['POST'])]
    #[IsGranted(Act::PUBLISH)]
    #[IsCsrfTokenValid('edition')]
    public function make(Request $request, #[CurrentUser] Account $account): Response
    {
        $scope = array_values(array_map(intval(...), array_filter($request->request->all('sources'), is_numeric(...))));
        $this->editions->start(
            mb_substr($request->request->getString('title'), 0, 190),
            mb_substr($request->request->getString('note'), 0, 5000),
            $account,
            $scope,
        );

        return $this->redirectToRoute('editions', [], 303);
    }

    #[Route('/editions/{number<\d+>}.zip', name: 'edition_zip', methods: ['GET'])]
    public function zip(int $number): Response
    {
        $file = $this->editions->zip($this->edition($number)->number);

        return is_file($file)
            ? (new BinaryFileResponse($file, 200, ['Content-Type' => 'application/zip']))->setContentDisposition('attachment')
            : throw $this->createNotFoundException('This edition has no zip.');
    }

    /** Serves the folder of an edition as it was written. */
    #[Route('/editions/{number<\d+>}/{path}', name: 'edition', requirements: ['path' => '.*'], defaults: ['path' => ''], methods: ['GET'], priority: -1)]
    public function serve(Request $request, int $number, string $path): Response
    {
        if ('' === $path && !str_ends_with($request->getPathInfo(), '/')) {
            // Its links are relative, so the address has to end like a folder.
            return $this->redirect($request->getBaseUrl().$request->getPathInfo().'/');
        }
        $folder = realpath($this->editions->folder($number));
        $file = false === $folder ? false : realpath($folder.'/'.('' === $path || str_ends_with($path, '/') ? $path.'index.html' : $path));
        $type = false === $file ? null : self::TYPES[pathinfo($file, \PATHINFO_EXTENSION)] ?? null;
        if (false === $folder || false === $file || null === $type || !str_starts_with($file, $folder.\DIRECTORY_SEPARATOR) || !is_file($file)) {
            throw $this->createNotFoundException('This edition has no such page.');
        }

        return new BinaryFileResponse($file, 200, ['Content-Type' => $type, 'Cache-Control' => 'private, max-age=3600']);
    }

    private function edition(int $number): Edition
    {
        return $this->editions->numbered($number) ?? throw $this->createNotFoundException('There is no such edition.');
    }
}
