<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Work\Jobs;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** Points a model to the data of another connection, after everybody could see what that says. */
final class RepointController extends AbstractController
{
    public function __construct(
        private readonly Models $models,
        private readonly ModelPages $pages,
        private readonly Editing $editing,
        private readonly Jobs $jobs,
        private readonly RepointJob $job,
    ) {
    }

    #[Route('/models/{id<\d+>}/repoint', name: 'model_repoint', methods: ['GET'])]
    #[IsGranted(Act::ASK)]
    #[IsGranted(Act::DESCRIBE)]
    public function show(int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);

        return $this->render('model/repoint.html.twig', $this->pages->head($kept, $account, 'model') + [
            'job' => $this->jobs->newest(RepointJob::lane($id)), 'compared' => Repointing::read($kept, $this->models->trials($kept)),
            'many' => AskedTrial::KEPT_ROWS,
        ]);
    }

    #[Route('/models/{id<\d+>}/repoint', name: 'model_repoint_compare', methods: ['POST'])]
    #[IsGranted(Act::ASK)]
    #[IsCsrfTokenValid('models')]
    public function compare(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $number = $request->request->getInt('connection');
        if (0 !== $number && null === $kept->connectionNumbered($number)) {
            throw $this->createNotFoundException('The source has no such connection.');
        }
        if (($kept->connection?->id() ?? 0) === $number) {
            $this->addFlash('failed', 'The model is pointed there already. Choose another connection.');

            return $this->redirectToRoute('model', ['id' => $id], 303);
        }
        $this->jobs->start($this->job, RepointJob::lane($id), ['model' => $id, 'connection' => $number], $account);

        return $this->redirectToRoute('model_repoint', ['id' => $id], 303);
    }

    #[Route('/models/{id<\d+>}/repoint/switch', name: 'model_repoint_switch', methods: ['POST'])]
    #[IsGranted(Act::ASK)]
    #[IsCsrfTokenValid('models')]
    public function switch(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $compared = Repointing::read($kept, $this->models->trials($kept));
        $number = $request->request->getInt('connection');
        if (null === $compared || !$compared->current || $compared->connection !== $number) {
            $this->addFlash('failed', 'What was compared is not what would be switched any more. Compare again first.');

            return $this->redirectToRoute('model_repoint', ['id' => $id], 303);
        }
        $kept->connection = $kept->connectionNumbered($number);
        $kept->repointing = null;
        $this->models->save();
        $this->editing->lookAgain($kept, $account);

        return $this->redirectToRoute('model_checks', ['id' => $id], 303);
    }
}
