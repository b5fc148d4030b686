<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Design\Changes;
use Fasti\Core\Design\ChangeStep;
use Fasti\Core\Design\RowQuestion;
use Fasti\Core\Survey\SourceError;
use Fasti\Design\Scratch\ScratchServers;
use Fasti\Work\Jobs;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** The planned change of a design that began with a source: what would have to change there, and what comes of it on a copy. */
final class ChangesController extends AbstractController
{
    public function __construct(
        private readonly Designs $designs,
        private readonly Planning $planning,
        private readonly ScratchServers $servers,
        private readonly Jobs $jobs,
        private readonly DesignJob $job,
        private readonly CountRowsJob $counting,
    ) {
    }

    #[Route('/designs/{id<\d+>}/changes', name: 'design_changes', methods: ['GET'])]
    public function changes(int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->designs->seen($id, $account);
        $error = null;
        $changes = $before = null;
        try {
            [$changes, $before] = $this->planning->of($kept);
        } catch (SourceError $e) {
            $error = $e->inWords();
        }
        $ran = $kept->rehearsed;
        $planned = \is_array($ran['steps'] ?? null) && ($ran['of'] ?? '') === hash('xxh128', $kept->readable) ? array_filter($ran['steps'], is_string(...))
            : [];
        $open = array_map(static fn (ChangeStep $step): string => $step->words, $changes->steps ?? []);

        return $this->render('design/changes.html.twig', [
            'kept' => $kept, 'changes' => $changes, 'error' => $error, 'done' => array_values(array_diff($planned, $open)), 'ran' => $ran,
            'stale' => null !== $ran && ($ran['of'] ?? '') !== hash('xxh128', $kept->readable),
            'runs' => null !== $before && \in_array($before->engine, $this->servers->engines(), true), 'job' => $this->jobs->newest('change '.$id),
            'counting' => $this->jobs->newest(CountRowsJob::lane($id)),
            'questions' => null === $changes ? [] : self::questions($kept, $changes), 'stopped' => null === $changes ? '' : self::stopped($ran, $changes),
            'countedAt' => null !== $changes && ($kept->counted['of'] ?? '') === $changes->fingerprint() ? ($kept->counted['at'] ?? null) : null,
            'mayChange' => $kept->isChangedBy($account), 'broken' => $kept->outline !== $kept->readable,
            'touched' => null === $changes || null === $before ? [
                'diagrams' => [],
                'models' => [],
                'texts' => [],
            ] : $this->planning->touched($kept, $changes, $before),
        ]);
    }

    /**
     * For which rows it stopped on the copy; '' where it did not.
     *
     * @param array<string, mixed>|null $ran
     */
    private static function stopped(?array $ran, Changes $changes): string
    {
        $sql = \is_array($ran['failed'] ?? null) && \is_string($ran['failed']['sql'] ?? null) ? rtrim($ran['failed']['sql'], "; \n") : '';
        foreach ('' === $sql ? [] : $changes->questions as $question) {
            if (RowQuestion::STOP === $question->fate && \in_array($sql, $changes->stopping($question), true)) {
                return \sprintf('%s %s', $question->table->name, $question->words);
            }
        }

        return '';
    }

    /** @return list<array{key: string, question: RowQuestion, sql: string, found: ?int, why: string}> */
    private static function questions(KeptDesign $kept, Changes $changes): array
    {
        $counted = ($kept->counted['of'] ?? '') === $changes->fingerprint() && \is_array($kept->counted['rows'] ?? null) ? $kept->counted['rows'] : [];

        return array_values(array_map(static function (RowQuestion $question) use ($changes, $counted): array {
            $found = $counted[$question->key] ?? null;

            return [
                'key' => md5($question->key), 'question' => $question, 'sql' => $changes->finding($question), 'found' => \is_int($found) ? $found : null,
                'why' => \is_string($found) ? $found : '',
            ];
        }, $changes->questions));
    }

    #[Route('/designs/{id<\d+>}/changes.sql', name: 'design_changes_sql', methods: ['GET'])]
    public function sql(int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->designs->seen($id, $account);
        try {
            [$changes] = $this->planning->of($kept);
        } catch (SourceError $e) {
            throw $this->createNotFoundException($e->inWords(), $e);
        }

        return DesignController::download($changes->script(), $kept, 'changes.sql', 'application/sql; charset=UTF-8');
    }

    #[Route('/designs/{id<\d+>}/changes', name: 'design_rehearse', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('designs')]
    public function rehearse(int $id, #[CurrentUser] Account $account): Response
    {
        $this->designs->changed($id, $account);
        $this->jobs->start($this->job, 'change '.$id, ['design' => $id, 'what' => 'change'], $account);

        return $this->redirectToRoute('design_changes', ['id' => $id], 303);
    }

    /** What is to happen to rows that cannot stay as they are. */
    #[Route('/designs/{id<\d+>}/changes/fates', name: 'design_fates', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('designs')]
    public function fates(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->designs->changed($id, $account);
        try {
            [$changes] = $this->planning->of($kept);
        } catch (SourceError $e) {
            throw $this->createNotFoundException($e->inWords(), $e);
        }
        $chosen = array_filter($request->request->all('fates'), is_string(...));
        foreach ($changes->questions as $key => $question) {
            if (\in_array($chosen[md5($key)] ?? '', $question->fates, true)) {
                $kept->fates[$key] = $chosen[md5($key)];
            }
        }
        $this->designs->save();

        return $this->redirect($this->generateUrl('design_changes', ['id' => $id]).'#rows', 303);
    }

    #[Route('/designs/{id<\d+>}/changes/count', name: 'design_count', methods: ['POST'])]
    #[IsGranted(Act::ASK)]
    #[IsCsrfTokenValid('designs')]
    public function count(int $id, #[CurrentUser] Account $account): Response
    {
        $this->designs->seen($id, $account);
        $this->jobs->start($this->counting, CountRowsJob::lane($id), ['design' => $id], $account);

        return $this->redirect($this->generateUrl('design_changes', ['id' => $id]).'#rows', 303);
    }
}
