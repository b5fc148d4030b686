<?php

declare(strict_types=1);

namespace Fasti\Join;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Register\JoinCounts;
use Fasti\Register\Topic\JoinTopic;
use Fasti\Source\Source;
use Fasti\Source\SourceStore;
use Fasti\Text\BadText;
use Fasti\Text\Vocabulary;
use Fasti\Work\Jobs;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** The joins of the register: those that wait for a decision, and the page of each. */
final class JoinController extends AbstractController
{
    /** @param iterable<JoinUse> $uses */
    public function __construct(
        private readonly JoinCounts $joins,
        private readonly JoinPages $pages,
        private readonly SourceStore $sources,
        private readonly Deciding $deciding,
        private readonly Jobs $jobs,
        private readonly JoinsJob $kind,
        private readonly EntityManagerInterface $orm,
        private readonly Vocabulary $vocabulary,
        #[AutowireIterator(JoinUse::class)] private readonly iterable $uses,
    ) {
    }

    #[Route('/register/joins', name: 'joins', methods: ['GET'])]
    public function list(Request $request): Response
    {
        $source = max(0, $request->query->getInt('source'));
        $state = $request->query->getString('state', 'proposed');
        $state = \in_array($state, ['proposed', 'declared', 'documented', 'dismissed'], true) ? $state : 'proposed';
        $job = $this->jobs->find($request->query->getInt('job'));

        return $this->render('join/list.html.twig', [
            'source' => $source, 'state' => $state, 'sources' => $this->sources->all(), 'tally' => $this->joins->tally($source),
            'job' => null !== $job && JoinsJob::NAME === $job->kind ? $job : null,
        ] + $this->pages->list($source, $state, max(1, $request->query->getInt('page', 1))));
    }

    #[Route('/register/joins/{id<\d+>}', name: 'join', methods: ['GET'])]
    public function show(int $id): Response
    {
        $page = $this->pages->one($id) ?? throw $this->createNotFoundException('There is no such join in the register.');
        $used = [];
        foreach ($this->uses as $use) {
            array_push($used, ...$use->of($page['join']));
        }

        return $this->render('join/show.html.twig', $page + ['used' => $used]);
    }

    /** Looks for joins, gathers examples and counts. */
    #[Route('/register/joins/look', name: 'joins_look', methods: ['POST'])]
    #[IsGranted(Act::ASK)]
    #[IsCsrfTokenValid('joins')]
    public function look(Request $request, #[CurrentUser] Account $account): Response
    {
        $source = $this->orm->find(Source::class, $request->request->getInt('source')) ?? throw $this->createNotFoundException('There is no such source.');
        $job = $this->jobs->start($this->kind, 'joins '.$source->id(), ['source' => $source->id()], $account);

        return $this->redirectToRoute('joins', ['source' => $source->id(), 'job' => $job->id()], 303);
    }

    /** Takes, dismisses, or leaves open again. */
    #[Route('/register/joins/{id<\d+>}/decide', name: 'join_decide', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function decide(Request $request, int $id, #[CurrentUser] Account $account): JsonResponse
    {
        $given = $request->getPayload();
        try {
            $done = $this->deciding->decide($account, $id, $given->getString('base'), $given->getString('decision'));
        } catch (BadText $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }
        if (!$done->saved) {
            $what = $this->vocabulary->property(JoinTopic::NAME, JoinProperties::DECISION)->choices()[$done->now] ?? $done->now;

            $words = \sprintf('%s was faster: this is %s now. Load the page to go on from there.', $done->by ?? 'Somebody', $what);

            return $this->json(get_object_vars($done) + ['error' => $words], 409);
        }

        return $this->json($done);
    }

    /** What would be taken, before it is: a part of the page. */
    #[Route('/register/joins/take-all', name: 'joins_take_look', methods: ['GET'])]
    #[IsGranted(Act::DESCRIBE)]
    public function lookAtAll(Request $request, Bulk $bulk, #[CurrentUser] Account $account): Response
    {
        $least = (float) str_replace(',', '.', $request->query->getString('least'));
        if ($least <= 0.0 || $least > 1.0) {
            return new Response('The confidence is a number above 0, up to 1.', 422, ['Content-Type' => 'text/plain; charset=UTF-8']);
        }
        $source = max(0, $request->query->getInt('source'));
        $joins = $bulk->of($source, $least);

        return $this->render('join/_take.html.twig', [
            'groups' => array_filter(array_map(static fn (string $group): array => array_values(array_filter(
                $joins,
                static fn (BulkJoin $one): bool => $one->group === $group,
            )), array_combine(array_keys(Bulk::GROUPS), array_keys(Bulk::GROUPS)))),
            'words' => Bulk::GROUPS, 'least' => $least, 'record' => $bulk->record($account, $source), 'most' => Bulk::MOST, 'count' => \count($joins),
        ]);
    }

    #[Route('/register/joins/take-all', name: 'joins_take_all', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function takeAll(Request $request, #[CurrentUser] Account $account): JsonResponse
    {
        $some = array_values(array_map(intval(...), array_filter($request->getPayload()->all('joins'), is_numeric(...))));
        if ([] === $some) {
            return $this->json(['error' => 'None is ticked, so there is nothing to take.'], 422);
        }

        return $this->json($this->deciding->takeAll($account, \array_slice($some, 0, Bulk::MOST)));
    }

    /** One undo for all that one act changed. */
    #[Route('/register/joins/take-back', name: 'joins_take_back', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function takeBack(Request $request, #[CurrentUser] Account $account): JsonResponse
    {
        $changes = array_values(array_map(intval(...), array_filter($request->getPayload()->all('changes'), is_numeric(...))));
        try {
            $this->deciding->takeBack($account, $changes);
        } catch (BadText $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }

        return $this->json(['back' => \count($changes)]);
    }
}
