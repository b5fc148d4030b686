<?php

declare(strict_types=1);

namespace Fasti\Join;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Loop;
use Fasti\Core\Join\Loops;
use Fasti\Core\Join\LoopSql;
use Fasti\Register\EntryStore;
use Fasti\Source\Source;
use Fasti\Source\SourceStore;
use Fasti\Work\Jobs;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** Joins that lead to the same place in two ways. */
final class LoopController extends AbstractController
{
    /** Loops of which the agreement is asked in one go. */
    private const ASKED = 60;

    public function __construct(
        private readonly SourceGraph $graph,
        private readonly EntryStore $entries,
        private readonly SourceStore $sources,
        private readonly Jobs $jobs,
        private readonly CountJob $kind,
        private readonly EntityManagerInterface $orm,
    ) {
    }

    #[Route('/register/loops', name: 'loops', methods: ['GET'])]
    public function list(Request $request): Response
    {
        $sources = $this->sources->all();
        $source = $request->query->getInt('source') ?: (array_key_first($sources) ?? 0);
        $loops = 0 === $source ? [] : Loops::of($this->graph->links($source));
        $job = CountJob::ofSource($this->jobs->find($request->query->getInt('job')), $source);
        $asked = self::asked($loops);
        $answers = CountJob::answers($job);

        return $this->render('join/loops.html.twig', [
            'sources' => $sources, 'source' => $source, 'loops' => $loops, 'placed' => $this->entries->placed(self::nodes($loops)),
            'job' => $job, 'asked' => array_keys($asked),
            'answers' => [] === $answers ? [] : array_map(static fn (string $one): ?array => $answers[$one] ?? null, $this->questions($asked, $source)),
        ]);
    }

    #[Route('/register/loops/count', name: 'loops_count', methods: ['POST'])]
    #[IsGranted(Act::ASK)]
    #[IsCsrfTokenValid('joins')]
    public function count(Request $request, #[CurrentUser] Account $account): Response
    {
        $source = $this->orm->find(Source::class, $request->request->getInt('source')) ?? throw $this->createNotFoundException('There is no such source.');
        $questions = $this->questions(self::asked(Loops::of($this->graph->links($source->id()))), $source->id());
        $job = $this->jobs->start(
            $this->kind,
            'count '.$source->id(),
            CountJob::payload($source->id(), $questions, 'loops', ['source' => $source->id()]),
            $account,
        );

        return $this->redirectToRoute('loops', ['source' => $source->id(), 'job' => $job->id()], 303);
    }

    /**
     * @param array<int, Loop> $loops
     *
     * @return list<string>
     */
    private function questions(array $loops, int $source): array
    {
        $sql = new LoopSql(Dialects::of($this->sources->engine($source)), $this->graph->places(self::nodes($loops)));

        return array_map($sql->count(...), array_values($loops));
    }

    /**
     * @param array<int, Loop> $loops
     *
     * @return list<int>
     */
    private static function nodes(array $loops): array
    {
        return array_values(array_unique(array_merge(...array_map(static fn (Loop $loop): array => $loop->nodes(), array_values($loops)))));
    }

    /**
     * @param list<Loop> $loops
     *
     * @return array<int, Loop>
     */
    private static function asked(array $loops): array
    {
        return \array_slice(array_filter($loops, static fn (Loop $loop): bool => [] !== $loop->one), 0, self::ASKED, true);
    }
}
