<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Drift\Compare;
use Fasti\Drift\DoubtfulText;
use Fasti\Drift\DriftItems;
use Fasti\Finding\Findings;
use Fasti\Finding\FoundAt;
use Fasti\Lineage\Dependants;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Source\Connector\Connectors;
use Fasti\Source\Source;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

final class SurveyController extends AbstractController
{
    /** How many places of a finding the summary names; the rest is one link away. */
    public const PLACES = 12;

    public function __construct(
        private readonly EntityManagerInterface $entities,
        private readonly Surveys $surveys,
        private readonly EntryStore $entries,
        private readonly Findings $findings,
        private readonly Fields $fields,
        private readonly Dependants $dependants,
        private readonly Connectors $connectors,
    ) {
    }

    #[Route('/sources', name: 'sources', methods: ['GET'])]
    public function sources(): Response
    {
        return $this->render('survey/sources.html.twig', [
            'sources' => $this->entities->getRepository(Source::class)->findBy([], ['name' => 'ASC']),
            'coverage' => $this->entries->coverageBySource(),
        ]);
    }

    #[Route('/sources/{id<\d+>}', name: 'source', methods: ['GET'])]
    public function source(int $id): Response
    {
        $source = $this->sourceOr404($id);

        return $this->render('survey/source.html.twig', [
            'source' => $source,
            'surveys' => $this->surveys->list($source),
            'schemas' => $this->entries->coverageBySchema($id),
            'documents' => \in_array('files', $this->connectors->of($source->connection()->engine)->fields(), true),
            'doubtful' => $this->findings->countOf(DoubtfulText::NAME, $id),
        ]);
    }

    /** Starts a survey; one that is on its way already is shown instead. */
    #[Route('/sources/{id<\d+>}/survey', name: 'survey_start', methods: ['POST'])]
    #[IsGranted(Act::SURVEY)]
    #[IsCsrfTokenValid('survey')]
    public function start(int $id, #[CurrentUser] Account $account): Response
    {
        return $this->startFor($id, $account);
    }

    /** The same, straight from the choice of objects, whose own token has been checked. */
    #[Route('/sources/{id<\d+>}/choice/survey', name: 'survey_start_now', methods: ['POST'])]
    #[IsGranted(Act::SURVEY)]
    #[IsCsrfTokenValid('source_choice')]
    public function startNow(int $id, #[CurrentUser] Account $account): Response
    {
        return $this->startFor($id, $account);
    }

    /** For other controllers, which have checked their own token. */
    public function startFor(int $id, #[CurrentUser] Account $account): Response
    {
        return $this->redirectToRoute('survey', ['id' => $this->surveys->start($this->sourceOr404($id), $account)->id()], 303);
    }

    #[Route('/surveys/{id<\d+>}', name: 'survey', methods: ['GET'])]
    public function show(int $id): Response
    {
        $survey = $this->survey($id);
        $source = $survey->source->id();
        $latest = $this->surveys->isLatest($survey);
        $items = DriftItems::read($survey->drift ?? []);

        return $this->render('survey/show.html.twig', [
            'survey' => $survey, 'items' => $items,
            'places' => $places = $survey->isDone() ? $this->entries->places($source) : [],
            'latest' => $latest,
            'dependants' => $latest && null === $survey->decidedAt ? $this->dependants->ofDrift($source, $items) : [],
            'further' => $latest && null === $survey->decidedAt ? $this->dependants->furtherOfDrift($source, $items) : [],
            'standouts' => $survey->isDone() && $latest ? $this->standouts($source, $places) : [],
        ]);
    }

    /**
     * @param array<string, int> $places key → entry
     *
     * @return list<array<mixed>> groups of findings, each with its first places and how they are called
     */
    private function standouts(int $source, array $places): array
    {
        $keys = array_flip($places);
        $standouts = [];
        foreach ($this->findings->groups($source) as $group) {
            $found = array_values(array_filter(
                $this->findings->places($group->check, $group->group, $source, self::PLACES),
                static fn (FoundAt $place): bool => !$place->aside,
            ));
            $fields = $this->fields->called(array_values(array_filter(array_column($found, 'field'))));
            $standouts[] = get_object_vars($group) + ['places' => array_map(static fn (FoundAt $place): array => get_object_vars($place) + [
                'where' => Place::ofKey($keys[$place->entry] ?? '').(isset($fields[$place->field]) ? '.'.$fields[$place->field] : ''),
            ], $found)];
        }

        return $standouts;
    }

    /** Follows the source, as far as the steward wants to. */
    #[Route('/surveys/{id<\d+>}/decide', name: 'survey_decide', methods: ['POST'])]
    #[IsGranted(Act::DECIDE)]
    #[IsCsrfTokenValid('survey')]
    public function decide(Request $request, int $id, #[CurrentUser] Account $account, Decision $decision): Response
    {
        $survey = $this->survey($id);
        if (null !== $survey->decidedAt || !$survey->isDone() || !$this->surveys->isLatest($survey)) {
            $this->addFlash('notice', 'This was decided already, or a later survey has taken its place.');

            return $this->redirectToRoute('survey', ['id' => $id], 303);
        }
        $answers = $apart = [];
        foreach ($request->request->all('item') as $number => $answer) {
            if (\is_string($answer)) {
                $answers[(int) $number] = $answer;
            }
        }
        foreach ($request->request->all('apart') as $number => $columns) {
            $apart[(int) $number] = array_values(array_filter((array) $columns, is_string(...)));
        }
        try {
            $decision->take($survey, $answers, $apart, $account);
        } catch (\UnexpectedValueException $e) {
            $this->addFlash('notice', $e->getMessage());
        }

        return $this->redirectToRoute('survey', ['id' => $id], 303);
    }

    /** What changed between any two surveys of a source. */
    #[Route('/sources/{id<\d+>}/compare', name: 'survey_compare', methods: ['GET'])]
    public function compare(Request $request, int $id): Response
    {
        $source = $this->sourceOr404($id);
        $surveys = [];
        foreach ($this->surveys->list($source) as $survey) {
            if ($survey->isDone()) {
                $surveys[$survey->id()] = $survey;
            }
        }
        $ids = array_keys($surveys);
        $asked = [$request->query->getInt('a', $ids[1] ?? 0), $request->query->getInt('b', $ids[0] ?? 0)];
        $a = min($asked);
        $b = max($asked);
        $items = isset($surveys[$a], $surveys[$b]) ? DriftItems::of(Compare::catalogs($surveys[$a]->catalog(), $surveys[$b]->catalog())) : null;

        return $this->render('survey/compare.html.twig', ['source' => $source, 'surveys' => $surveys, 'a' => $a, 'b' => $b, 'items' => $items]);
    }

    #[Route('/surveys/{id<\d+>}/catalog.json', name: 'survey_catalog', methods: ['GET'])]
    public function catalog(int $id): Response
    {
        $json = $this->survey($id)->catalogJson() ?? throw $this->createNotFoundException('This survey did not read a whole catalog.');

        return new Response($json, 200, ['Content-Type' => 'application/json', 'Content-Disposition' => 'attachment; filename="catalog-'.$id.'.json"']);
    }

    /** What of a script was not understood, to hand on where it was misread. */
    #[Route('/surveys/{id<\d+>}/report.txt', name: 'survey_report', methods: ['GET'])]
    public function report(int $id): Response
    {
        $survey = $this->survey($id);
        $statements = $survey->statements();
        $server = $survey->summary['server'] ?? '';
        $text = null === $statements ? "This survey read no script.\n" : $statements->report(\is_string($server) ? $server : '');

        return new Response(
            $text,
            200,
            ['Content-Type' => 'text/plain; charset=UTF-8', 'Content-Disposition' => 'attachment; filename="survey-'.$id.'-report.txt"'],
        );
    }

    private function sourceOr404(int $id): Source
    {
        return $this->entities->find(Source::class, $id) ?? throw $this->createNotFoundException('There is no such source.');
    }

    private function survey(int $id): Survey
    {
        return $this->surveys->find($id) ?? throw $this->createNotFoundException('There is no such survey.');
    }
}
