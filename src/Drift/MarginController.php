<?php

declare(strict_types=1);

namespace Fasti\Drift;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

final class MarginController extends AbstractController
{
    public function __construct(private readonly Connection $db)
    {
    }

    /** The text was looked at and stands, as it is or as it reads now. */
    #[Route('/register/notes/{id<\d+>}/settle', name: 'margin_settle', methods: ['POST'])]
    #[IsGranted('ROLE_STEWARD')]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function settle(int $id, #[CurrentUser] Account $account): JsonResponse
    {
        $this->db->executeStatement('UPDATE margin_note SET settled_at = UTC_TIMESTAMP(), settled_by_id = ? WHERE id = ? AND settled_at IS NULL', [$account->id(), $id]);

        return $this->json(['settled' => true]);
    }
}
