<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Model\ModelFinding;
use Fasti\Core\Model\Ways;
use Fasti\Lineage\Lineages;
use Fasti\Model\Topic\ModelTopic;
use Fasti\Register\FieldAt;
use Fasti\Register\Fields;
use Fasti\Register\LiveLinks;
use Fasti\Text\History;
use Fasti\Work\Jobs;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** What speaks against a model, and what its parts come from. */
final class CheckPageController extends AbstractController
{
    public function __construct(
        private readonly Models $models,
        private readonly ModelPages $pages,
        private readonly Grounds $grounds,
        private readonly Editing $editing,
        private readonly Jobs $jobs,
        private readonly Fields $fields,
        private readonly LiveLinks $links,
        private readonly Lineages $lineages,
        private readonly History $history,
    ) {
    }

    #[Route('/models/{id<\d+>}/checks', name: 'model_checks', methods: ['GET'])]
    public function checks(int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->seen($id, $account);
        $ground = $this->grounds->of($kept);
        $choices = [];
        foreach ($ground->model->facts() as $fact) {
            foreach ($ground->ways()->reached($fact->name) as $role) {
                $routes = $ground->ways()->between($fact->name, $role);
                if (\count($routes) > 1) {
                    $choices[$fact->name.' → '.$role] = ['from' => $fact->name, 'to' => $role, 'routes' => array_map(
                        static fn (array $route): array => ['words' => Ways::inWords($route), 'keys' => implode("\n", Ways::keys($route))],
                        $routes,
                    )];
                }
            }
        }

        return $this->render('model/checks.html.twig', $this->pages->head($kept, $account, 'model_checks') + [
            'model' => $ground->model, 'choices' => $choices, 'job' => $this->jobs->newest('model '.$id), 'difference' => $kept->lookedDifference(),
        ]);
    }

    #[Route('/models/{id<\d+>}/look', name: 'model_look', methods: ['POST'])]
    #[IsGranted(Act::ASK)]
    #[IsCsrfTokenValid('models')]
    public function look(int $id, #[CurrentUser] Account $account): Response
    {
        $this->editing->lookAgain($this->pages->changed($id, $account), $account);

        return $this->redirectToRoute('model_checks', ['id' => $id], 303);
    }

    /** Somebody lives with what was found, and says why; or does so no more. */
    #[Route('/models/{id<\d+>}/accept', name: 'model_accept', methods: ['POST'])]
    #[IsGranted(Act::DECIDE)]
    #[IsCsrfTokenValid('models')]
    public function accept(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $given = $request->request;
        $key = $given->getString('finding');
        $why = mb_substr(trim($given->getString('why')), 0, 400);
        $until = trim($given->getString('until'));
        $known = array_map(static fn (ModelFinding $one): string => $one->key(), $this->pages->findings($kept));
        $date = \DateTimeImmutable::createFromFormat('!Y-m-d', $until);
        $bad = match (true) {
            $given->has('open') => '',
            !\in_array($key, $known, true) => 'That is found no more.',
            '' === $why => 'Say why it is accepted: whoever reads the figures will ask.',
            '' !== $until && (false === $date || $date->format('Y-m-d') !== $until) => \sprintf(
                '“%s” is no day; write it as 2027-01-31, or leave it empty.',
                $until,
            ),
            '' !== $until && $until < (new \DateTimeImmutable())->format('Y-m-d') => 'That day has passed: it would be open again at once.',
            default => '',
        };
        if ('' !== $bad) {
            $this->addFlash('failed', $bad);
        } elseif ($given->has('open')) {
            unset($kept->accepted[$key]);
            $this->models->save();
        } else {
            $kept->accepted[$key] = ['why' => $why, 'until' => $until, 'by' => $account->name, 'at' => (new \DateTimeImmutable())->format('Y-m-d')];
            $this->models->save();
        }

        return $this->redirectToRoute('model_checks', ['id' => $id], 303);
    }

    #[Route('/models/{id<\d+>}/history', name: 'model_history', methods: ['GET'])]
    public function history(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        return $this->render('kept/history.html.twig', ['kept' => $this->pages->seen($id, $account), 'store' => $this->models]
            + ['words' => 'What was changed in it, the latest first. Any of it can be taken back: the model is then as it was before.']
            + $this->history->of(ModelTopic::NAME, $id, $request->query->getInt('before', \PHP_INT_MAX)));
    }

    #[Route('/models/{id<\d+>}/lineage', name: 'model_lineage', methods: ['GET'])]
    public function lineage(int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->seen($id, $account);
        $parts = [];
        $all = [];
        foreach ($this->models->fieldsOf($id) as $key => $fields) {
            [$kind, $part] = explode("\0", $key, 2);
            $parts[$kind][$part] = $fields;
            $all = [...$all, ...$fields];
        }
        $placed = $this->fields->placed(array_values(array_unique($all)));
        [$behind, $placed] = $this->behind($placed);

        return $this->render('model/lineage.html.twig', $this->pages->head($kept, $account, 'model_lineage') + [
            'parts' => $parts, 'placed' => $placed, 'behind' => $behind, 'links' => $this->links,
            'gone' => array_filter($placed, static fn (FieldAt $at): bool => $at->gone),
        ]);
    }

    /**
     * The fields of tables behind fields of views.
     *
     * @param array<int, FieldAt> $placed
     *
     * @return array{array<int, list<int>>, array<int, FieldAt>} field of a view → fields, and where all stand
     */
    private function behind(array $placed): array
    {
        $behind = [];
        foreach ($placed as $id => $at) {
            foreach ($at->isOfView() ? array_keys($this->lineages->down([$id])->fields) : [] as $from) {
                if ($from > 0 && $from !== $id) {
                    $behind[$id][] = $from;
                }
            }
        }
        $more = $this->fields->placed(array_values(array_unique(array_merge([], ...array_values($behind)))));
        $behind = array_map(
            static fn (array $some): array => array_values(array_filter($some, static fn (int $id): bool => isset($more[$id]) && !$more[$id]->isOfView())),
            $behind,
        );

        return [$behind, $placed + $more];
    }
}
