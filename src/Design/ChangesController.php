<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Design\ChangeStep;
use Fasti\Core\Survey\SourceError;
use Fasti\Design\Scratch\ScratchServers;
use Fasti\Work\Jobs;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** The planned change of a design that began with a source: what would have to change there, and what comes of it on a copy. */
final class ChangesController extends AbstractController
{
    public function __construct(
        private readonly Designs $designs,
        private readonly Planning $planning,
        private readonly ScratchServers $servers,
        private readonly Jobs $jobs,
        private readonly DesignJob $job,
    ) {
    }

    #[Route('/designs/{id<\d+>}/changes', name: 'design_changes', methods: ['GET'])]
    public function changes(int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->designs->seen($id, $account);
        $error = null;
        $changes = $before = null;
        try {
            [$changes, $before] = $this->planning->of($kept);
        } catch (SourceError $e) {
            $error = $e->inWords();
        }
        $ran = $kept->rehearsed;
        $planned = \is_array($ran['steps'] ?? null) && ($ran['of'] ?? '') === hash('xxh128', $kept->readable) ? array_filter($ran['steps'], is_string(...))
            : [];
        $open = array_map(static fn (ChangeStep $step): string => $step->words, $changes->steps ?? []);

        return $this->render('design/changes.html.twig', [
            'kept' => $kept, 'changes' => $changes, 'error' => $error, 'done' => array_values(array_diff($planned, $open)), 'ran' => $ran,
            'stale' => null !== $ran && ($ran['of'] ?? '') !== hash('xxh128', $kept->readable),
            'runs' => null !== $before && \in_array($before->engine, $this->servers->engines(), true), 'job' => $this->jobs->newest('change '.$id),
            'mayChange' => $kept->isChangedBy($account), 'broken' => $kept->outline !== $kept->readable,
            'touched' => null === $changes || null === $before ? [
                'diagrams' => [],
                'models' => [],
                'texts' => [],
            ] : $this->planning->touched($kept, $changes, $before),
        ]);
    }

    #[Route('/designs/{id<\d+>}/changes.sql', name: 'design_changes_sql', methods: ['GET'])]
    public function sql(int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->designs->seen($id, $account);
        try {
            [$changes] = $this->planning->of($kept);
        } catch (SourceError $e) {
            throw $this->createNotFoundException($e->inWords(), $e);
        }

        return DesignController::download($changes->script(), $kept, 'changes.sql', 'application/sql; charset=UTF-8');
    }

    #[Route('/designs/{id<\d+>}/changes', name: 'design_rehearse', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('designs')]
    public function rehearse(int $id, #[CurrentUser] Account $account): Response
    {
        $this->designs->changed($id, $account);
        $this->jobs->start($this->job, 'change '.$id, ['design' => $id, 'what' => 'change'], $account);

        return $this->redirectToRoute('design_changes', ['id' => $id], 303);
    }
}
