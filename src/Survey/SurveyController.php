<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Drift\Compare;
use Fasti\Core\Wording\Amount;
use Fasti\Drift\DriftItems;
use Fasti\Source\Source;
use Fasti\Support\Row;
use Fasti\Support\State;
use Fasti\Survey\Message\RunSurvey;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Messenger\MessageBusInterface;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

final class SurveyController extends AbstractController
{
    public function __construct(private readonly EntityManagerInterface $entities, private readonly Connection $db)
    {
    }

    #[Route('/sources/{id<\d+>}', name: 'source', methods: ['GET'])]
    public function source(int $id): Response
    {
        $source = $this->entities->find(Source::class, $id) ?? throw $this->createNotFoundException('There is no such source.');
        $surveys = $this->db->fetchAllAssociative('SELECT v.id, v.state, v.asked_at, v.started_at, v.ended_at, v.heard_at, v.error, v.summary, v.drift, v.decided_at, a.name AS by_name FROM survey v LEFT JOIN account a ON a.id = v.account_id WHERE v.source_id = ? ORDER BY v.id DESC LIMIT 50', [$id]);
        $counts = $this->db->fetchAllAssociative('SELECT schema_name, SUM(kind = \'table\') AS tables, SUM(kind IN (\'view\', \'materialized view\')) AS views, SUM(kind = \'collection\') AS collections, SUM(field_count) AS fields, SUM(described_count) AS described FROM entry WHERE source_id = ? AND gone_at IS NULL GROUP BY schema_name ORDER BY schema_name', [$id]);

        return $this->render('survey/source.html.twig', ['source' => $source, 'surveys' => $surveys, 'schemas' => $counts]);
    }

    /** Starts a survey; one that is on its way already is shown instead. */
    #[Route('/sources/{id<\d+>}/survey', name: 'survey_start', methods: ['POST'])]
    #[IsGranted('ROLE_STEWARD')]
    #[IsCsrfTokenValid('survey')]
    public function start(int $id, #[CurrentUser] Account $account, MessageBusInterface $bus): Response
    {
        return $this->started($id, $account, $bus);
    }

    /** The same, straight from the choice of objects, whose own token has been checked. */
    #[Route('/sources/{id<\d+>}/choice/survey', name: 'survey_start_now', methods: ['POST'])]
    #[IsGranted('ROLE_STEWARD')]
    #[IsCsrfTokenValid('source_choice')]
    public function startNow(int $id, #[CurrentUser] Account $account, MessageBusInterface $bus): Response
    {
        return $this->started($id, $account, $bus);
    }

    /** For other controllers, which have checked their own token. */
    public function startFor(int $id, #[CurrentUser] Account $account, MessageBusInterface $bus): Response
    {
        return $this->started($id, $account, $bus);
    }

    #[Route('/surveys/{id<\d+>}', name: 'survey', methods: ['GET'])]
    public function show(int $id): Response
    {
        $survey = $this->survey($id);
        $links = [];
        if (State::Done === $survey->state) {
            foreach ($this->db->iterateAssociative('SELECT id, schema_name, name FROM entry WHERE source_id = ?', [$survey->source->id()]) as $row) {
                $links[Row::text($row, 'schema_name').'.'.Row::text($row, 'name')] = Row::int($row, 'id');
            }
        }

        return $this->render('survey/show.html.twig', ['survey' => $survey, 'links' => $links, 'silent' => self::silent($survey), 'latest' => $this->latest($survey)]);
    }

    #[Route('/surveys/{id<\d+>}/state', name: 'survey_state', methods: ['GET'])]
    public function state(int $id): JsonResponse
    {
        $survey = $this->survey($id);

        return $this->json([
            'state' => $survey->state->value,
            'over' => $survey->state->over(),
            'doing' => $survey->doing,
            'done' => $survey->done,
            'total' => $survey->total,
            'silent' => self::silent($survey),
            'waited' => Amount::of(max(0, time() - $survey->askedAt->getTimestamp()), 'second'),
        ]);
    }

    #[Route('/surveys/{id<\d+>}/cancel', name: 'survey_cancel', methods: ['POST'])]
    #[IsGranted('ROLE_STEWARD')]
    #[IsCsrfTokenValid('survey')]
    public function cancel(int $id): Response
    {
        $this->db->executeStatement('UPDATE survey SET cancel_asked = 1 WHERE id = ?', [$id]);
        $this->db->executeStatement("UPDATE survey SET state = 'cancelled', ended_at = UTC_TIMESTAMP() WHERE id = ? AND (state = 'waiting' OR (state = 'running' AND heard_at < UTC_TIMESTAMP() - INTERVAL ? SECOND))", [$id, Survey::SILENCE]);

        return $this->redirectToRoute('survey', ['id' => $id]);
    }

    /** Follows the source, as far as the steward wants to. */
    #[Route('/surveys/{id<\d+>}/decide', name: 'survey_decide', methods: ['POST'])]
    #[IsGranted('ROLE_STEWARD')]
    #[IsCsrfTokenValid('survey')]
    public function decide(Request $request, int $id, #[CurrentUser] Account $account, Decision $decision): Response
    {
        $survey = $this->survey($id);
        if (null !== $survey->decidedAt || !$this->latest($survey)) {
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
        $source = $this->entities->find(Source::class, $id) ?? throw $this->createNotFoundException('There is no such source.');
        $surveys = $this->db->fetchAllAssociative("SELECT id, ended_at, asked_at FROM survey WHERE source_id = ? AND state = 'done' AND catalog IS NOT NULL ORDER BY id DESC LIMIT 200", [$id]);
        $ids = array_map(static fn (array $row): int => Row::int($row, 'id'), $surveys);
        [$a, $b] = [$request->query->getInt('a', $ids[1] ?? 0), $request->query->getInt('b', $ids[0] ?? 0)];
        $items = null;
        if (\in_array($a, $ids, true) && \in_array($b, $ids, true)) {
            $items = DriftItems::of(Compare::catalogs(self::kept($this->survey(min($a, $b))), self::kept($this->survey(max($a, $b)))));
        }

        return $this->render('survey/compare.html.twig', ['source' => $source, 'surveys' => $surveys, 'a' => min($a, $b), 'b' => max($a, $b), 'items' => $items]);
    }

    private static function kept(Survey $survey): Catalog
    {
        $data = json_decode($survey->catalogJson() ?? '[]', true);

        return OpenForm::read(Catalog::class, \is_array($data) ? $data : []);
    }

    private function latest(Survey $survey): bool
    {
        return false === $this->db->fetchOne("SELECT id FROM survey WHERE source_id = ? AND id > ? AND state = 'done' LIMIT 1", [$survey->source->id(), $survey->id()]);
    }

    #[Route('/surveys/{id<\d+>}/catalog.json', name: 'survey_catalog', methods: ['GET'])]
    public function catalog(int $id): Response
    {
        $json = $this->survey($id)->catalogJson() ?? throw $this->createNotFoundException('This survey did not read a whole catalog.');

        return new Response($json, 200, ['Content-Type' => 'application/json', 'Content-Disposition' => 'attachment; filename="catalog-'.$id.'.json"']);
    }

    private function started(int $id, Account $account, MessageBusInterface $bus): Response
    {
        $source = $this->entities->find(Source::class, $id) ?? throw $this->createNotFoundException('There is no such source.');
        $this->db->executeStatement("UPDATE survey SET state = 'failed', ended_at = UTC_TIMESTAMP(), error = ? WHERE source_id = ? AND state = 'running' AND heard_at < UTC_TIMESTAMP() - INTERVAL ? SECOND", [Interrupted::WORDS, $id, Survey::SILENCE]);
        $open = $this->db->fetchOne("SELECT id FROM survey WHERE source_id = ? AND state IN ('waiting', 'running')", [$id]);
        if (is_numeric($open)) {
            return $this->redirectToRoute('survey', ['id' => $open]);
        }
        $survey = new Survey($source, $account);
        $this->entities->persist($survey);
        $this->entities->flush();
        $bus->dispatch(new RunSurvey($survey->id()));

        return $this->redirectToRoute('survey', ['id' => $survey->id()], 303);
    }

    private function survey(int $id): Survey
    {
        return $this->entities->find(Survey::class, $id) ?? throw $this->createNotFoundException('There is no such survey.');
    }

    private static function silent(Survey $survey): bool
    {
        return State::Running === $survey->state && null !== $survey->heardAt && time() - $survey->heardAt->getTimestamp() > Survey::SILENCE;
    }
}
