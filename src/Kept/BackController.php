<?php

declare(strict_types=1);

namespace Fasti\Kept;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** What was thrown away is taken back. */
final class BackController extends AbstractController
{
    #[Route('/kept/{kind<[a-z]+>}/{id<\d+>}/back', name: 'kept_back', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('kept')]
    public function back(KeptStores $stores, string $kind, int $id, #[CurrentUser] Account $account): Response
    {
        $store = $stores->of($kind);
        $kept = $store->takeBack($id, $account);
        $this->addFlash('done', \sprintf('The %s “%s” is back.', $kind, $kept->name));

        return $this->redirectToRoute($store->route(), ['id' => $kept->id()], 303);
    }
}
