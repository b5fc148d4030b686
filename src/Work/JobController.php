<?php

declare(strict_types=1);

namespace Fasti\Work;

use Fasti\Core\Wording\Amount;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;

/** How far any job is, and what may be asked of it. */
final class JobController extends AbstractController
{
    public function __construct(private readonly Jobs $jobs, private readonly JobKinds $kinds)
    {
    }

    #[Route('/jobs/{id<\d+>}', name: 'job', methods: ['GET'])]
    public function show(int $id): Response
    {
        return $this->toPage($this->job($id));
    }

    #[Route('/jobs/{id<\d+>}/state', name: 'job_state', methods: ['GET'])]
    public function state(int $id): JsonResponse
    {
        $job = $this->job($id);
        $waited = Amount::of(max(0, time() - $job->askedAt->getTimestamp()), 'second');
        $counted = $job->total > 0 ? \sprintf(' (%s of %s)', Amount::count($job->done), Amount::count($job->total)) : '';

        return $this->json([
            'state' => $job->state->value,
            'over' => $job->state->over() || State::Paused === $job->state,
            'words' => State::Waiting === $job->state ? ('' === $job->doing ? 'Waiting for a worker' : $job->doing).', '.$waited : $job->doing.$counted,
            'done' => $job->done,
            'total' => $job->total,
            'silent' => $job->silent(),
        ]);
    }

    #[Route('/jobs/{id<\d+>}/{what<pause|resume|cancel>}', name: 'job_ask', methods: ['POST'])]
    #[IsCsrfTokenValid('job')]
    public function ask(int $id, string $what): Response
    {
        $job = $this->job($id);
        $this->denyAccessUnlessGranted($this->kinds->of($job->kind)->act());
        $this->jobs->ask($job, $what);

        return $this->toPage($job);
    }

    private function toPage(Job $job): Response
    {
        [$route, $parameters] = $this->kinds->of($job->kind)->page($job);

        return $this->redirectToRoute($route, $parameters, 303);
    }

    private function job(int $id): Job
    {
        return $this->jobs->find($id) ?? throw $this->createNotFoundException('There is no such job.');
    }
}
