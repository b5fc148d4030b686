<?php

declare(strict_types=1);

namespace Fasti\Account;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Act\Act;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\Form\FormError;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\PasswordHasher\Hasher\UserPasswordHasherInterface;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\IsGranted;

#[IsGranted(Act::ADMINISTER)]
final class AccountController extends AbstractController
{
    public function __construct(
        private readonly EntityManagerInterface $entities,
        private readonly UserPasswordHasherInterface $hasher,
        private readonly Roles $roles,
    ) {
    }

    #[Route('/accounts', name: 'accounts', methods: ['GET'])]
    public function list(): Response
    {
        return $this->render('account/list.html.twig', [
            'accounts' => $this->entities->getRepository(Account::class)->findBy([], ['name' => 'ASC']),
            'roles' => $this->roles->all(), 'counts' => $this->roles->counts(), 'acts' => Act::WORDS,
        ]);
    }

    #[Route('/accounts/new', name: 'account_new', methods: ['GET', 'POST'])]
    public function add(Request $request): Response
    {
        return $this->edited($request, new Account(), true);
    }

    #[Route('/accounts/{id<\d+>}', name: 'account_edit', methods: ['GET', 'POST'])]
    public function edit(Request $request, int $id): Response
    {
        return $this->edited($request, $this->entities->find(Account::class, $id) ?? throw $this->createNotFoundException('There is no such account.'), false);
    }

    private function edited(Request $request, Account $account, bool $new): Response
    {
        $form = $this->createForm(AccountForm::class, $account, ['new' => $new])->handleRequest($request);
        if ($form->isSubmitted() && $account === $this->getUser() && !$account->may(Act::ADMINISTER)) {
            $form->addError(
                new FormError(
                    'You cannot close your own account or take your own rights away: somebody has to be able to give them back. Ask another administrator.',
                ),
            );
        }
        if ($form->isSubmitted() && $form->isValid()) {
            $password = $form->get('password')->getData();
            if (\is_string($password) && '' !== $password) {
                $account->setPassword($this->hasher->hashPassword($account, $password));
            }
            $this->entities->persist($account);
            $this->entities->flush();
            $this->addFlash('done', \sprintf('The account of %s is saved.', $account->name));

            return $this->redirectToRoute('accounts');
        }

        return $this->render(
            'account/edit.html.twig',
            ['form' => $form, 'account' => $account, 'new' => $new],
            new Response(status: $form->isSubmitted() ? 422 : 200),
        );
    }
}
