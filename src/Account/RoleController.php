<?php

declare(strict_types=1);

namespace Fasti\Account;

use Fasti\Account\Act\Act;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\Form\FormError;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** What each role may. */
#[IsGranted(Act::ADMINISTER)]
final class RoleController extends AbstractController
{
    public function __construct(private readonly Roles $roles)
    {
    }

    #[Route('/accounts/roles', name: 'role_new', methods: ['GET', 'POST'])]
    public function add(Request $request, #[CurrentUser] Account $account): Response
    {
        return $this->edited($request, null, $account);
    }

    #[Route('/accounts/roles/{id<\d+>}', name: 'role_edit', methods: ['GET', 'POST'])]
    public function edit(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        return $this->edited($request, $this->role($id), $account);
    }

    #[Route('/accounts/roles/{id<\d+>}/away', name: 'role_away', methods: ['POST'])]
    #[IsCsrfTokenValid('roles')]
    public function away(int $id): Response
    {
        $role = $this->role($id);
        $this->addFlash('done', $this->roles->remove($role)
            ? \sprintf('The role “%s” is gone.', $role->name)
            : \sprintf('Somebody has the role “%s”, so it stays. Give those accounts another role first.', $role->name));

        return $this->redirectToRoute('accounts');
    }

    private function role(int $id): Role
    {
        return $this->roles->one($id) ?? throw $this->createNotFoundException('There is no such role.');
    }

    private function edited(Request $request, ?Role $role, Account $account): Response
    {
        $form = $this->createForm(RoleForm::class, ['name' => $role->name ?? '', 'acts' => $role?->acts() ?? []])->handleRequest($request);
        if ($form->isSubmitted()) {
            /** @var array{name: string, acts: list<string>} $given */
            $given = $form->getData();
            $named = $this->roles->named($given['name']);
            if (null !== $named && $named !== $role) {
                $form->get('name')->addError(new FormError('There is a role of this name already.'));
            }
            if (null !== $role && $account->role === $role && !\in_array(Act::ADMINISTER, $given['acts'], true)) {
                $form->addError(new FormError('It is your own role, and somebody has to be able to give rights back. Ask another administrator.'));
            }
            if ($form->isValid()) {
                $role ??= new Role($given['name']);
                $role->name = $given['name'];
                $role->allow($given['acts']);
                $this->roles->save($role);
                $this->addFlash('done', \sprintf('The role “%s” is saved.', $role->name));

                return $this->redirectToRoute('accounts');
            }
        }

        return $this->render(
            'account/role.html.twig',
            ['form' => $form, 'role' => $role, 'count' => null === $role ? 0 : $this->roles->counts()[$role->id()] ?? 0],
            new Response(status: $form->isSubmitted() ? 422 : 200),
        );
    }
}
