<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Profile\Message\RunProfile;
use Fasti\Source\Source;
use Fasti\Support\Row;
use Fasti\Support\State;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Messenger\MessageBusInterface;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

final class ProfileController extends AbstractController
{
    public function __construct(private readonly EntityManagerInterface $entities, private readonly Connection $db, private readonly MessageBusInterface $bus)
    {
    }

    /** Profiles one entry, or all of the source: those that were never profiled first, then the oldest. */
    #[Route('/sources/{id<\d+>}/profile', name: 'profile_start', methods: ['POST'])]
    #[IsGranted('ROLE_STEWARD')]
    #[IsCsrfTokenValid('profile')]
    public function start(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $source = $this->entities->find(Source::class, $id) ?? throw $this->createNotFoundException('There is no such source.');
        $open = $this->db->fetchOne("SELECT id FROM profile_run WHERE source_id = ? AND (state = 'waiting' OR state = 'running' AND heard_at > UTC_TIMESTAMP() - INTERVAL ? SECOND)", [$id, ProfileRun::SILENCE]);
        if (is_numeric($open)) {
            $this->addFlash('notice', 'This source is being profiled already: one run at a time, so that it is not burdened.');

            return $this->redirectToRoute('profile_run', ['id' => $open], 303);
        }
        $entry = $request->request->getInt('entry');
        $rows = $this->db->fetchFirstColumn("SELECT e.id FROM entry e LEFT JOIN profile p ON p.entry_id = e.id WHERE e.source_id = ? AND e.gone_at IS NULL AND ? IN (0, e.id) ORDER BY p.taken_at IS NOT NULL, p.taken_at, e.kind = 'table' DESC, e.schema_name, e.name", [$id, $entry]);
        $run = new ProfileRun($source, $account);
        $run->waiting = array_values(array_map(static fn (mixed $value): int => is_numeric($value) ? (int) $value : 0, $rows));
        $run->total = \count($run->waiting);
        $this->entities->persist($run);
        $this->entities->flush();
        $this->bus->dispatch(new RunProfile($run->id()));

        return $this->redirectToRoute('profile_run', ['id' => $run->id()] + ($entry > 0 ? ['entry' => $entry] : []), 303);
    }

    #[Route('/profiles/{id<\d+>}', name: 'profile_run', methods: ['GET'])]
    public function show(Request $request, int $id): Response
    {
        $run = $this->run($id);
        $entry = $request->query->getInt('entry');
        if ($entry > 0 && State::Done === $run->state && [] === $run->notes) {
            return $this->redirectToRoute('entry', ['id' => $entry]);
        }

        return $this->render('profile/run.html.twig', ['run' => $run, 'standing' => $this->standing($run->source->id()), 'entry' => $entry]);
    }

    #[Route('/profiles/{id<\d+>}/state', name: 'profile_state', methods: ['GET'])]
    public function state(int $id): JsonResponse
    {
        $run = $this->run($id);

        return $this->json([
            'state' => $run->state->value,
            'over' => $run->state->over() || State::Paused === $run->state,
            'doing' => $run->doing,
            'done' => $run->total - \count($run->waiting),
            'total' => $run->total,
            'silent' => State::Running === $run->state && null !== $run->heardAt && time() - $run->heardAt->getTimestamp() > ProfileRun::SILENCE,
            'waited' => '',
        ]);
    }

    /** Pause, go on, or cancel. */
    #[Route('/profiles/{id<\d+>}/{what<pause|resume|cancel>}', name: 'profile_ask', methods: ['POST'])]
    #[IsGranted('ROLE_STEWARD')]
    #[IsCsrfTokenValid('profile')]
    public function ask(int $id, string $what): Response
    {
        if ('resume' === $what) {
            $asked = $this->db->executeStatement("UPDATE profile_run SET state = 'waiting', asked = '', error = '' WHERE id = ? AND state IN ('paused', 'failed', 'cancelled')", [$id]);
            if (1 === (int) $asked) {
                $this->bus->dispatch(new RunProfile($id));
            }
        } else {
            $this->db->executeStatement("UPDATE profile_run SET asked = ? WHERE id = ? AND state IN ('waiting', 'running')", [$what, $id]);
            $dead = "state = 'waiting' OR state = 'paused' OR (state = 'running' AND heard_at < UTC_TIMESTAMP() - INTERVAL ? SECOND)";
            $this->db->executeStatement("UPDATE profile_run SET state = ?, ended_at = UTC_TIMESTAMP() WHERE id = ? AND ($dead)", ['pause' === $what ? 'paused' : 'cancelled', $id, ProfileRun::SILENCE]);
        }

        return $this->redirectToRoute('profile_run', ['id' => $id], 303);
    }

    private function run(int $id): ProfileRun
    {
        return $this->entities->find(ProfileRun::class, $id) ?? throw $this->createNotFoundException('There is no such run.');
    }

    /** @return array{entries: int, profiled: int} */
    private function standing(int $source): array
    {
        $row = $this->db->fetchAssociative('SELECT COUNT(*) AS entries, COUNT(p.id) AS profiled FROM entry e LEFT JOIN profile p ON p.entry_id = e.id WHERE e.source_id = ? AND e.gone_at IS NULL', [$source]) ?: [];

        return ['entries' => Row::int($row, 'entries'), 'profiled' => Row::int($row, 'profiled')];
    }
}
