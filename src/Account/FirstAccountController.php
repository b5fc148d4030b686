<?php

declare(strict_types=1);

namespace Fasti\Account;

use Doctrine\ORM\EntityManagerInterface;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\Form\Extension\Core\Type\TextType;
use Symfony\Component\Form\FormError;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\PasswordHasher\Hasher\UserPasswordHasherInterface;
use Symfony\Component\Routing\Attribute\Route;

/** Where nobody has an account yet: makes the first administrator. */
final class FirstAccountController extends AbstractController
{
    #[Route('/first-account', name: 'first_account', methods: ['GET', 'POST'])]
    public function make(
        Request $request,
        AccountStore $accounts,
        FirstCode $code,
        EntityManagerInterface $entities,
        UserPasswordHasherInterface $hasher,
        Roles $roles,
    ): Response {
        if (!$accounts->isEmpty()) {
            return $this->redirectToRoute('sign_in');
        }
        $account = new Account();
        $account->role = $roles->administering();
        $form = $this->createForm(AccountForm::class, $account, ['new' => true])
            ->remove('role')->remove('active')
            ->add(
                'code',
                TextType::class,
                ['mapped' => false, 'help' => 'bin/start has printed it.', 'attr' => ['autocomplete' => 'off', 'spellcheck' => 'false']],
            )
            ->handleRequest($request);
        $typed = $form->isSubmitted() ? $form->get('code')->getData() : null;
        if ($form->isSubmitted() && !(\is_string($typed) && $code->fits($typed))) {
            $form->get('code')->addError(
                new FormError('This is not the code. It stands where Fasti was started; bin/console fasti:first-code prints it again.'),
            );
        }
        if ($form->isSubmitted() && $form->isValid()) {
            $password = $form->get('password')->getData();
            $account->setPassword($hasher->hashPassword($account, \is_string($password) ? $password : ''));
            $entities->persist($account);
            $entities->flush();
            $this->addFlash('done', \sprintf('The account of %s is made. Sign in with it.', $account->name));

            return $this->redirectToRoute('sign_in');
        }

        return $this->render('account/first.html.twig', ['form' => $form], new Response(status: $form->isSubmitted() ? 422 : 200));
    }
}
