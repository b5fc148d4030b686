<?php

declare(strict_types=1);

namespace Fasti\Source;

use Doctrine\DBAL\Exception\UniqueConstraintViolationException;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Act\Act;
use Fasti\Core\Dialect\Dialects;
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
    public function __construct(
        private readonly EntityManagerInterface $entities,
        private readonly Vault $vault,
        private readonly Sources $sources,
        private readonly Deliveries $deliveries,
    ) {
    }

    #[Route('/sources/new', name: 'source_new', methods: ['GET', 'POST'])]
    #[IsGranted(Act::SURVEY)]
    public function add(Request $request): Response
    {
        $source = new Source();

        return $this->edited($request, $source, $source->connection());
    }

    /** The connection that is in use. */
    #[Route('/sources/{id<\d+>}/connection', name: 'source_edit', methods: ['GET', 'POST'])]
    #[IsGranted(Act::SURVEY)]
    public function edit(Request $request, int $id): Response
    {
        $source = $this->source($id);

        return $this->edited($request, $source, $source->connection());
    }

    /** Another way in which the source can be reached: its test server beside the live one, a script beside the server. */
    #[Route('/sources/{id<\d+>}/connections/new', name: 'connection_new', methods: ['GET', 'POST'])]
    #[IsGranted(Act::SURVEY)]
    public function addConnection(Request $request, int $id): Response
    {
        $source = $this->source($id);
        $connection = new Connection($source);
        $connection->engine = $source->connection()->engine;
        $connection->label = '';

        return $this->edited($request, $source, $connection);
    }

    #[Route('/sources/{id<\d+>}/connections/{connection<\d+>}', name: 'connection_edit', methods: ['GET', 'POST'])]
    #[IsGranted(Act::SURVEY)]
    public function editConnection(Request $request, int $id, int $connection): Response
    {
        $source = $this->source($id);

        return $this->edited($request, $source, $this->connection($source, $connection));
    }

    #[Route('/sources/{id<\d+>}/connections/{connection<\d+>}/{what<use|remove>}', name: 'connection_ask', methods: ['POST'])]
    #[IsGranted(Act::SURVEY)]
    #[IsCsrfTokenValid('connection')]
    public function askConnection(int $id, int $connection, string $what): Response
    {
        $source = $this->source($id);
        $chosen = $this->connection($source, $connection);
        if ('use' === $what) {
            $source->use($chosen);
            $this->addFlash('done', \sprintf('%s is reached through “%s” from now on. The next survey compares.', $source->name, $chosen->label));
        } elseif ($chosen->inUse) {
            $this->addFlash('notice', 'The connection that is in use cannot be removed. Put another into use first.');
        } else {
            $source->connections->removeElement($chosen);
            $this->addFlash('done', \sprintf('The connection “%s” is removed. What was read through it stays.', $chosen->label));
        }
        $this->entities->flush();

        return $this->redirectToRoute('source', ['id' => $id], 303);
    }

    /** Tries a connection before anything is saved. */
    #[Route('/sources/test', name: 'source_test', methods: ['POST'])]
    #[IsGranted(Act::SURVEY)]
    #[IsCsrfTokenValid('source_test')]
    public function test(Request $request): JsonResponse
    {
        $given = $request->request;
        // Empty for a connection that is not saved yet.
        $kept = $this->entities->find(Connection::class, (int) $given->getString('connection'));
        $input = null === $kept ? new SourceInput() : SourceInput::of($kept->source, $kept);
        $input->url = $given->getString('url');
        $input->host = $given->getString('host');
        $input->database = $given->getString('database');
        $input->account = $given->getString('account');
        $input->secret = $given->getString('secret');
        $input->engine = $given->getString('engine', $input->engine);
        $input->port = (int) $given->getString('port') ?: null;
        try {
            if (!$input->isServer()) {
                throw new SourceError('Files are looked at when they are handed in.', 'Save to see what they hold.');
            }
            $target = $input->target('', $this->deliveries);
            if (null !== $kept && '' === $target->secret && $input->opensWithKeptSecret($target)) {
                $target = $input->target($this->vault->open($kept->sealedSecret), $this->deliveries);
            }
            $inventory = $this->sources->reader($target, Sources::AT_ONCE, 10)->inventory();
        } catch (SourceError $e) {
            return $this->json(['ok' => false, 'message' => $e->getMessage(), 'advice' => $e->advice]);
        } catch (\RuntimeException $e) {
            return $this->json(['ok' => false, 'message' => $e->getMessage(), 'advice' => '']);
        }
        $schemas = array_map(strval(...), array_keys($inventory->schemas));
        $named = [] !== $schemas && \count($schemas) <= 6 ? ' ('.implode(', ', $schemas).')' : '';

        return $this->json([
            'ok' => true,
            'message' => \sprintf('Connected to %s.', $inventory->server),
            'advice' => \sprintf(
                'The account may read %s and %s in %s%s.',
                Amount::of($inventory->tables(), 'table'),
                Amount::of($inventory->views(), 'view'),
                Amount::of(\count($schemas), 'schema'),
                $named,
            ),
        ]);
    }

    #[Route('/sources/{id<\d+>}/choice', name: 'source_choice', methods: ['GET'])]
    #[IsGranted(Act::SURVEY)]
    public function choice(int $id): Response
    {
        return $this->chosen($this->source($id), null);
    }

    /** Looks at what there is to choose from: that needs a connection, so it is never done by merely opening a page. */
    #[Route('/sources/{id<\d+>}/look', name: 'source_look', methods: ['POST'])]
    #[IsGranted(Act::SURVEY)]
    #[IsCsrfTokenValid('source_choice')]
    public function look(int $id): Response
    {
        $source = $this->source($id);
        try {
            $this->sources->look($source->connection());
            $this->entities->flush();
        } catch (SourceError $e) {
            return $this->chosen($source, $e);
        }

        return $this->redirectToRoute('source_choice', ['id' => $id], 303);
    }

    #[Route('/sources/{id<\d+>}/choice', name: 'source_choose', methods: ['POST'])]
    #[IsGranted(Act::SURVEY)]
    #[IsCsrfTokenValid('source_choice')]
    public function choose(Request $request, int $id): Response
    {
        $source = $this->source($id);
        $schemas = array_values(array_filter($request->request->all('schemas'), is_string(...)));
        $all = $request->request->getBoolean('all_schemas');
        if (!$all && [] === $schemas) {
            return $this->chosen($source, new SourceError('No schema is chosen, so there would be nothing to read.', 'Tick at least one.'));
        }
        $source->choose(new Choice(
            $all ? [] : $schemas,
            self::patterns($request->request->getString('include')),
            self::patterns($request->request->getString('exclude')),
        ));
        $this->entities->flush();

        return $this->redirectToRoute('survey_start_now', ['id' => $id], 307);
    }

    /** The queries for catalog sheets, to be run where a source can be reached. */
    #[Route('/sources/sheets/{engine<\w+>}/{sheet<\w+>}.sql', name: 'source_sheet', methods: ['GET'])]
    public function sheet(string $engine, string $sheet): Response
    {
        $query = Dialects::named($engine)?->sheetQueries()[$sheet] ?? throw $this->createNotFoundException('There is no such query.');

        return new Response(
            $query,
            200,
            ['Content-Type' => 'application/sql; charset=utf-8', 'Content-Disposition' => 'attachment; filename="'.$engine.'-'.$sheet.'.sql"'],
        );
    }

    private function chosen(Source $source, ?SourceError $error): Response
    {
        return $this->render('source/choice.html.twig', [
            'source' => $source,
            'inventory' => Sources::seen($source->connection()),
            'choice' => $source->choice(),
            'error' => $error,
        ], new Response(status: null === $error ? 200 : 422));
    }

    /** @return list<string> */
    private static function patterns(string $text): array
    {
        preg_match_all('/(?:"(?:[^"]|"")*"|[^\s,;"])+/u', $text, $m);

        return $m[0];
    }

    private function edited(Request $request, Source $source, Connection $connection): Response
    {
        $new = 0 === $source->id();
        $input = $new ? new SourceInput() : SourceInput::of($source, $connection);
        $form = $this->createForm(SourceForm::class, $input, ['kept' => '' !== $connection->sealedSecret])->handleRequest($request);
        if ($form->isSubmitted() && $form->isValid()) {
            try {
                $input->fill($source, $connection, $this->vault, $this->deliveries);
                if (!$source->connections->contains($connection)) {
                    $source->add($connection);
                }
                $this->entities->persist($source);
                $this->entities->flush();

                return $connection->inUse ? $this->lookedAt($source) : $this->redirectToRoute('source', ['id' => $source->id()]);
            } catch (SourceError $e) {
                $form->get($input->isServer() ? 'url' : 'files')->addError(new FormError($e->inWords()));
            } catch (UniqueConstraintViolationException $e) {
                if (str_contains($e->getMessage(), 'connection_label')) {
                    $form->get('label')->addError(new FormError('The source has a connection of this name already.'));
                } else {
                    $form->get('name')->addError(new FormError('Another source has this name already. Choose one that tells them apart.'));
                }
            }
        }

        return $this->render('source/edit.html.twig', [
            'form' => $form, 'source' => $source, 'connection' => $connection, 'new' => $new, 'queries' => Sheets::queries(),
        ], new Response(status: $form->isSubmitted() ? 422 : 200));
    }

    private function lookedAt(Source $source): Response
    {
        try {
            $this->sources->look($source->connection());
            $this->entities->flush();
        } catch (SourceError $e) {
            $this->addFlash('notice', 'Saved. But: '.$e->inWords());
        }

        return $this->redirectToRoute('source_choice', ['id' => $source->id()]);
    }

    private function source(int $id): Source
    {
        return $this->entities->find(Source::class, $id) ?? throw $this->createNotFoundException('There is no such source.');
    }

    private function connection(Source $source, int $id): Connection
    {
        foreach ($source->connections as $connection) {
            if ($connection->id() === $id) {
                return $connection;
            }
        }
        throw $this->createNotFoundException('The source has no such connection.');
    }
}
