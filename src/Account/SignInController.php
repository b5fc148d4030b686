<?php

declare(strict_types=1);

namespace Fasti\Account;

use Fasti\Account\Act\Act;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Authentication\AuthenticationUtils;

final class SignInController extends AbstractController
{
    #[Route('/', name: 'home', methods: ['GET'])]
    public function home(): Response
    {
        return $this->redirectToRoute($this->isGranted(Act::DESCRIBE) ? 'desk' : 'register');
    }

    #[Route('/sign-in', name: 'sign_in', methods: ['GET', 'POST'])]
    public function signIn(AuthenticationUtils $utils, AccountStore $accounts): Response
    {
        if ($accounts->isEmpty()) {
            return $this->redirectToRoute('first_account');
        }
        if (null !== $this->getUser()) {
            return $this->redirectToRoute('home');
        }
        $error = $utils->getLastAuthenticationError();

        return $this->render(
            'account/sign_in.html.twig',
            ['error' => $error, 'email' => $utils->getLastUsername()],
            new Response(status: null === $error ? 200 : 422),
        );
    }

    #[Route('/sign-out', name: 'sign_out', methods: ['POST'])]
    public function signOut(): never
    {
        throw new \LogicException('The firewall answers this.');
    }
}
