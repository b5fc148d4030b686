<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\TrialWords;
use Fasti\Model\Topic\TrialTopic;
use Fasti\Text\BadText;
use Fasti\Text\Texts;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\InputBag;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** Questions that are kept with a model. Whatever is changed of one is in the history of the model, with its way back. */
final class KeptTrialController extends AbstractController
{
    public function __construct(
        private readonly Models $models,
        private readonly ModelPages $pages,
        private readonly Grounds $grounds,
        private readonly Editing $editing,
        private readonly Texts $texts,
    ) {
    }

    #[Route('/models/{id<\d+>}/trials', name: 'model_trials', methods: ['GET'])]
    public function kept(int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->seen($id, $account);
        $trials = array_map(static fn (KeptTrial $one): array => [
            'kept' => $one, 'words' => TrialWords::of($one->trial()), 'written' => TrialRequest::written($one->trial()),
        ], $this->models->trials($kept));

        return $this->render('model/trials.html.twig', $this->pages->head($kept, $account, 'model_trials') + [
            'trials' => $trials, 'differences' => array_combine(
                array_map(static fn (array $one): int => $one['kept']->id(), $trials),
                array_map(static fn (array $one): array => Difference::of($one['kept']), $trials),
            ),
        ]);
    }

    #[Route('/models/{id<\d+>}/trials', name: 'model_trial_keep', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('models')]
    public function keep(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $given = $request->request;
        try {
            $trial = $this->asked($given, $kept);
            $change = $this->models->keptTrial($kept, $given->getInt('change'));
            if (null !== $change) {
                $this->write($account, $change, [ModelProperties::QUESTION => KeptTrial::questionOf($trial)], [ModelProperties::QUESTION => $change->question]);

                return $this->back($id, $change);
            }
            $name = trim($given->getString('name'));
            if (!('' !== $name && mb_strlen($name) <= 160)) {
                throw new ModelError('Say in up to 160 characters what is asked; the trial is found again by that.');
            }
        } catch (ModelError|BadText $e) {
            $this->addFlash('failed', $e->getMessage());

            return $this->redirectToRoute(
                'model_trial',
                ['id' => $id] + array_intersect_key($given->all(), ['m' => 1, 'b' => 1, 'w' => 1, 'o' => 1, 'n' => 1, 't' => 1, 'of' => 1]),
                303,
            );
        }
        $one = $this->models->keepTrial($kept, $name, $trial, $account);
        $one->neededBy = mb_substr(trim($given->getString('neededBy')), 0, 200);
        $one->expected = trim($given->getString('expected'));
        $this->models->save();
        $this->editing->follow($kept);

        return $this->back($id, $one);
    }

    /**
     * @param InputBag<string> $given
     *
     * @throws ModelError
     */
    private function asked(InputBag $given, KeptModel $kept): Trial
    {
        $trial = TrialRequest::read($given, $this->grounds->of($kept)->names());

        return [] === $trial->shown() ? throw new ModelError('Nothing is asked for yet. Choose a measure first.') : $trial;
    }

    /** What is said of a kept trial; whether its rows are published; that a change has been seen; or that it is not kept any more. */
    #[Route('/models/{id<\d+>}/trials/{trial<\d+>}', name: 'model_trial_say', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('models')]
    public function say(Request $request, int $id, int $trial, #[CurrentUser] Account $account): Response
    {
        $one = $this->models->keptTrial($this->pages->changed($id, $account), $trial)
            ?? throw $this->createNotFoundException('There is no such trial.');
        $given = $request->request;
        if ($given->has('seen')) {
            $one->changed = null;
            $this->models->save();

            return $this->back($id, $one);
        }
        try {
            if ($given->has('remove')) {
                $this->write($account, $one, ['removed' => '1'], ['removed' => '0']);
                $this->addFlash('done', \sprintf('“%s” is kept no more. The history of the model has its way back.', $one->name));

                return $this->redirectToRoute('model_trials', ['id' => $id], 303);
            }
            $this->write($account, $one, [
                'name' => trim($given->getString('name')), 'neededBy' => mb_substr(trim($given->getString('neededBy')), 0, 200),
                'expected' => trim($given->getString('expected')), 'rowsPublished' => $given->getBoolean('rowsPublished') ? '1' : '0',
            ], array_filter($given->all('before'), is_string(...)) + [
                'name' => $one->name, 'neededBy' => $one->neededBy, 'expected' => $one->expected, 'rowsPublished' => $one->rowsPublished ? '1' : '0',
            ]);
        } catch (BadText $e) {
            $this->addFlash('failed', $e->getMessage());
        }

        return $this->back($id, $one);
    }

    /**
     * @param array<string, string> $texts  by property
     * @param array<string>         $before as whoever changes them saw them
     *
     * @throws BadText
     */
    private function write(Account $account, KeptTrial $one, array $texts, array $before): void
    {
        $sitting = 'trial-'.bin2hex(random_bytes(6));
        foreach ($texts as $property => $text) {
            $saved = $this->texts->save($account, TrialTopic::NAME, $one->id(), $property, $before[$property] ?? '', $text, $sitting);
            if (!$saved->saved) {
                throw new BadText(\sprintf(
                    '%s has changed the kept trial meanwhile. Look at it as it is now, and make your change again.',
                    $saved->by ?? 'Somebody',
                ));
            }
        }
    }

    private function back(int $model, KeptTrial $one): Response
    {
        return $this->redirect($this->generateUrl('model_trials', ['id' => $model]).'#t-'.$one->id(), 303);
    }
}
