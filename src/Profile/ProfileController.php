<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Register\EntryStore;
use Fasti\Source\Source;
use Fasti\Work\Jobs;
use Fasti\Work\State;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

final class ProfileController extends AbstractController
{
    public function __construct(
        private readonly EntityManagerInterface $entities,
        private readonly Jobs $jobs,
        private readonly ProfileJob $kind,
        private readonly Profiles $profiles,
        private readonly EntryStore $entries,
        private readonly Breaking $breaking,
    ) {
    }

    /** Profiles one entry, or all of the source. */
    #[Route('/sources/{id<\d+>}/profile', name: 'profile_start', methods: ['POST'])]
    #[IsGranted(Act::ASK)]
    #[IsCsrfTokenValid('profile')]
    public function start(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $source = $this->entities->find(Source::class, $id) ?? throw $this->createNotFoundException('There is no such source.');
        $entry = $request->request->getInt('entry');
        $waiting = $entry > 0 ? [$entry] : $this->profiles->ordered($this->entries->idsWithData($id));
        $new = false;
        $job = $this->jobs->start($this->kind, 'source '.$source->id(), ProfileJob::payload($id, $waiting, $entry),
            $account, static function () use (&$new): void {
                $new = true;
            });
        if (!$new) {
            $this->addFlash('notice', 'This source is being profiled already: one run at a time, so that it is not burdened.');
        }

        return $this->redirectToRoute('job', ['id' => $job->id()], 303);
    }

    #[Route('/profiles/{id<\d+>}', name: 'profile_run', methods: ['GET'])]
    public function show(int $id): Response
    {
        $job = $this->jobs->find($id);
        $source = null === $job || ProfileJob::NAME !== $job->kind ? null : $this->entities->find(Source::class, $job->number('source'));
        if (null === $job || null === $source) {
            throw $this->createNotFoundException('There is no such run.');
        }
        if ($job->number('entry') > 0 && State::Done === $job->state && [] === $job->notes) {
            return $this->redirectToRoute('entry', ['id' => $job->number('entry')]);
        }

        return $this->render(
            'profile/run.html.twig',
            ['job' => $job, 'source' => $source, 'left' => \count(ProfileJob::waiting($job)), 'standing' => $this->standing($source)],
        );
    }

    /** The statement that finds the rows of a field with what is not allowed in it. */
    #[Route('/register/fields/{id<\d+>}/breaking.sql', name: 'breaking_sql', methods: ['GET'])]
    public function breaking(int $id): Response
    {
        $sql = $this->breaking->sql($id) ?? throw $this->createNotFoundException('Nothing is said of the values of this field, or its engine cannot be asked.');

        return new Response($sql."\n", 200, ['Content-Type' => 'text/plain; charset=utf-8']);
    }

    /** @return array{entries: int, profiled: int} */
    private function standing(Source $source): array
    {
        $ids = $this->entries->ids($source->id());

        return ['entries' => \count($ids), 'profiled' => $this->profiles->count($ids)];
    }
}
