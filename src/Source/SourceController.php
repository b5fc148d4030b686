<?php

declare(strict_types=1);

namespace Fasti\Source;

use Doctrine\DBAL\Exception\UniqueConstraintViolationException;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Core\Sheet\Sheets;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Wording\Amount;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\Form\FormError;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

final class SourceController extends AbstractController
{
    public function __construct(private readonly EntityManagerInterface $entities, private readonly Vault $vault, private readonly Sources $sources, private readonly Deliveries $deliveries)
    {
    }

    #[Route('/sources', name: 'sources', methods: ['GET'])]
    public function list(): Response
    {
        return $this->render('source/list.html.twig', ['sources' => $this->entities->getConnection()->fetchAllAssociative(
            'SELECT s.id, s.name, s.purpose, s.owner, s.surveyed_at, c.engine, c.host, c.port, c.database_name, c.path, COUNT(e.id) AS entries, COALESCE(SUM(e.field_count), 0) AS fields, COALESCE(SUM(e.described_count), 0) AS described
             FROM source s JOIN connection c ON c.id = s.connection_id LEFT JOIN entry e ON e.source_id = s.id AND e.gone_at IS NULL
             GROUP BY s.id, c.id ORDER BY s.name')]);
    }

    #[Route('/sources/new', name: 'source_new', methods: ['GET', 'POST'])]
    #[IsGranted('ROLE_STEWARD')]
    public function add(Request $request): Response
    {
        return $this->edited($request, new Source(), new SourceInput());
    }

    #[Route('/sources/{id<\d+>}/connection', name: 'source_edit', methods: ['GET', 'POST'])]
    #[IsGranted('ROLE_STEWARD')]
    public function edit(Request $request, int $id): Response
    {
        $source = $this->source($id);

        return $this->edited($request, $source, SourceInput::of($source));
    }

    /** Tries a connection before anything is saved. */
    #[Route('/sources/test', name: 'source_test', methods: ['POST'])]
    #[IsGranted('ROLE_STEWARD')]
    #[IsCsrfTokenValid('source_test')]
    public function test(Request $request): JsonResponse
    {
        $input = new SourceInput();
        $given = $request->request;
        [$input->url, $input->host, $input->database, $input->account, $input->secret] = [$given->getString('url'), $given->getString('host'), $given->getString('database'), $given->getString('account'), $given->getString('secret')];
        $input->engine = $given->getString('engine', 'mariadb');
        $input->port = $given->getInt('port') ?: null;
        try {
            $kept = '';
            if ('' === $input->secret && $given->getInt('source') > 0) {
                $source = $this->source($given->getInt('source'));
                // A kept secret goes only where it was meant for: never to another host that somebody has typed.
                $same = [$input->host, $input->port, $input->account] === [$source->connection->host, $source->connection->port, $source->connection->account];
                $kept = $same && '' === trim($input->url) ? $this->vault->open($source->connection->sealedSecret) : '';
            }
            if (!$input->isServer()) {
                throw new SourceError('Files are looked at when they are handed in.', 'Save to see what they hold.');
            }
            $target = $input->target($kept, $this->deliveries);
            $inventory = $this->sources->reader($target)->inventory();
        } catch (SourceError $e) {
            return $this->json(['ok' => false, 'message' => $e->getMessage(), 'advice' => $e->advice]);
        } catch (\RuntimeException $e) {
            return $this->json(['ok' => false, 'message' => $e->getMessage(), 'advice' => '']);
        }

        return $this->json([
            'ok' => true,
            'message' => \sprintf('Connected to %s.', $inventory->server),
            'advice' => \sprintf('The account may read %s and %s in %s%s.', Amount::of($inventory->tables(), 'table'), Amount::of($inventory->views(), 'view'), Amount::of(\count($inventory->schemas), 'schema'),
                \count($inventory->schemas) > 0 && \count($inventory->schemas) <= 6 ? ' ('.implode(', ', array_keys($inventory->schemas)).')' : ''),
        ]);
    }

    #[Route('/sources/{id<\d+>}/choice', name: 'source_choice', methods: ['GET', 'POST'])]
    #[IsGranted('ROLE_STEWARD')]
    public function choose(Request $request, int $id): Response
    {
        $source = $this->source($id);
        $inventory = null;
        $error = null;
        try {
            $inventory = $this->sources->reader($this->sources->target($source))->inventory();
        } catch (SourceError $e) {
            $error = $e;
        }
        if ($request->isMethod('POST')) {
            if (!$this->isCsrfTokenValid('source_choice', $request->request->getString('_token'))) {
                throw $this->createAccessDeniedException('The form had expired.');
            }
            /** @var list<string> $schemas */
            $schemas = array_values(array_filter($request->request->all('schemas'), is_string(...)));
            $all = $request->request->getBoolean('all_schemas');
            if (!$all && [] === $schemas) {
                $error = new SourceError('No schema is chosen, so there would be nothing to read.', 'Tick at least one.');
            } else {
                $source->choose(new Choice($all ? [] : $schemas, self::patterns($request->request->getString('include')), self::patterns($request->request->getString('exclude'))));
                $this->entities->flush();

                return $this->redirectToRoute('survey_start_now', ['id' => $id], 307);
            }
        }

        return $this->render('source/choice.html.twig', ['source' => $source, 'inventory' => $inventory, 'choice' => $source->choice(), 'error' => $error], new Response(status: null === $error ? 200 : 422));
    }

    /** The queries for catalog sheets, to be run where a source can be reached. */
    #[Route('/sources/sheets/{engine<\w+>}/{sheet<\w+>}.sql', name: 'source_sheet', methods: ['GET'])]
    public function sheet(string $engine, string $sheet): Response
    {
        $query = Sheets::queries()[$engine]['queries'][$sheet] ?? throw $this->createNotFoundException('There is no such query.');

        return new Response($query, 200, ['Content-Type' => 'application/sql; charset=utf-8', 'Content-Disposition' => 'attachment; filename="'.$engine.'-'.$sheet.'.sql"']);
    }

    /** @return list<string> */
    private static function patterns(string $text): array
    {
        $parts = preg_split('/[\s,;]+/', $text, -1, \PREG_SPLIT_NO_EMPTY);

        return false === $parts ? [] : $parts;
    }

    private function edited(Request $request, Source $source, SourceInput $input): Response
    {
        $form = $this->createForm(SourceForm::class, $input, ['kept' => '' !== $source->connection->sealedSecret])->handleRequest($request);
        if ($form->isSubmitted() && $form->isValid()) {
            try {
                $input->fill($source, $this->vault, $this->deliveries);
                $this->entities->persist($source);
                $this->entities->flush();

                return $this->redirectToRoute('source_choice', ['id' => $source->id()]);
            } catch (SourceError $e) {
                $form->get($input->isServer() ? 'url' : 'files')->addError(new FormError($e->inWords()));
            } catch (UniqueConstraintViolationException) {
                $form->get('name')->addError(new FormError('Another source has this name already. Choose one that tells them apart.'));
            }
        }

        return $this->render('source/edit.html.twig', ['form' => $form, 'source' => $source, 'queries' => Sheets::queries()], new Response(status: $form->isSubmitted() ? 422 : 200));
    }

    private function source(int $id): Source
    {
        return $this->entities->find(Source::class, $id) ?? throw $this->createNotFoundException('There is no such source.');
    }
}
