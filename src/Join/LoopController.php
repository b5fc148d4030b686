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
        $job = $this->jobs->find($request->query->getInt('job'));
        $nodes = [];
        foreach ($loops as $loop) {
            array_push($nodes, $loop->from, $loop->to);
            foreach ([...$loop->one, ...$loop->other] as $step) {
                $nodes[] = $step->to();
            }
        }

        return $this->render('join/loops.html.twig', [
            'sources' => $sources, 'source' => $source, 'loops' => $loops, 'placed' => $this->entries->placed(array_values(array_unique($nodes))),
            'job' => null !== $job && CountJob::NAME === $job->kind ? $job : null, 'asked' => array_keys(self::asked($loops)),
            'answers' => CountJob::answers($job),
        ]);
    }

    #[Route('/register/loops/count', name: 'loops_count', methods: ['POST'])]
    #[IsGranted(Act::ASK)]
    #[IsCsrfTokenValid('joins')]
    public function count(Request $request, #[CurrentUser] Account $account): Response
    {
        $source = $this->orm->find(Source::class, $request->request->getInt('source')) ?? throw $this->createNotFoundException('There is no such source.');
        $loops = self::asked(Loops::of($this->graph->links($source->id())));
        $nodes = [];
        foreach ($loops as $loop) {
            foreach ([...$loop->one, ...$loop->other] as $step) {
                array_push($nodes, $step->from(), $step->to());
            }
        }
        $places = array_map(static fn (array $one): Place => $one['place'], $this->entries->placed(array_values(array_unique($nodes))));
        $sql = new LoopSql(Dialects::of($this->sources->all()[$source->id()]['engine'] ?? ''), $places);
        $questions = array_map($sql->count(...), array_values($loops));
        $job = $this->jobs->start(
            $this->kind,
            'count '.$source->id(),
            CountJob::payload($source->id(), $questions, 'loops', ['source' => $source->id()]),
            $account,
        );

        return $this->redirectToRoute('loops', ['source' => $source->id(), 'job' => $job->id()], 303);
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
