<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\BesideOffers;
use Fasti\Core\Model\Coding;
use Fasti\Core\Model\Condition;
use Fasti\Core\Model\ConditionText;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Level;
use Fasti\Core\Model\Matrix;
use Fasti\Core\Model\MatrixCell;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\Parameters;
use Fasti\Core\Model\Plan;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Question;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\TrialWords;
use Fasti\Core\Model\Unanswerable;
use Fasti\Core\Privacy\Privacy;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Wording\Enumeration;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\InputBag;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;

/** Questions put to a model: the sentence, the SQL, and the answer. */
final class TrialController extends AbstractController
{
    /** Labels of codes that are offered to whoever writes a condition. */
    private const MOST_CODES = 200;

    public function __construct(
        private readonly Models $models,
        private readonly ModelPages $pages,
        private readonly Grounds $grounds,
        private readonly Asker $asker,
        private readonly AskingNow $now,
    ) {
    }

    #[Route('/models/{id<\d+>}/trial', name: 'model_trial', methods: ['GET'])]
    public function show(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->seen($id, $account);
        $ground = $this->grounds->of($kept);

        return $this->render('model/trial.html.twig', $this->pages->head($kept, $account, 'model_trial') + $this->asked($request->query, $kept, $ground) + [
            'help' => ConditionText::HELP, 'mayAsk' => $this->mayAsk($kept),
            'folders' => self::folders($choices = $this->choices($ground)),
            'begin' => array_map(static fn (KeptTrial $one): array => [
                'kept' => $one, 'words' => TrialWords::of($one->trial()), 'written' => TrialRequest::written($one->trial()),
            ], $this->models->trials($kept)),
            'choices' => $choices, 'from' => $this->models->keptTrial($kept, $request->query->getInt('of')),
        ]);
    }

    /** The sentence and its SQL alone, when a part was chosen. */
    #[Route('/models/{id<\d+>}/trial/plan', name: 'model_plan', methods: ['GET'])]
    public function plan(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->seen($id, $account);

        $asked = $this->asked($request->query, $kept, $this->grounds->of($kept));

        return $this->render('model/_plan.html.twig', ['kept' => $kept, 'mayAsk' => $this->mayAsk($kept)] + $asked);
    }

    /**
     * @param InputBag<string> $given
     *
     * @return array<string, mixed> the trial, its plan or why there is none
     */
    private function asked(InputBag $given, KeptModel $kept, Ground $ground): array
    {
        $all = [
            'trial' => new Trial([]),
            'plan' => null,
            'reasons' => [],
            'offers' => [],
            'error' => null,
            'words' => '',
            'cost' => '',
            'written' => [],
            'beside' => [],
            'rows' => '',
            'parameters' => [],
            'filled' => [],
            'label' => $ground->dialect->label(),
            'through' => $kept->connection()->label,
        ];
        try {
            $all['trial'] = $trial = TrialRequest::read($given, $ground->names());
            $all['written'] = TrialRequest::written($trial);
            $all['parameters'] = Parameters::of($trial);
            $all['filled'] = array_map(
                static fn (Condition $one): string => ConditionText::of((new Coding($ground))->shown($one)),
                Parameters::shown($trial)->where,
            );
            $all['beside'] = (new BesideOffers($ground))->of($trial);
            if ([] === $trial->shown()) {
                return $all;
            }
            $all['words'] = TrialWords::of($trial);
            $all['rows'] = null === $trial->limit ? '' : TrialWords::rows($trial);
            $all['plan'] = $plan = (new Planner($ground, new \DateTimeImmutable('today')))->plan($trial);
            $all['cost'] = self::cost($plan, $ground);
        } catch (Unanswerable $e) {
            $all['reasons'] = $e->reasons;
            foreach ($e->offers as $offer) {
                $all['offers'][$offer->words] = null === $offer->trial ? null : TrialRequest::written($offer->trial);
            }
        } catch (ModelError $e) {
            $all['error'] = $e->getMessage();
        }

        return $all;
    }

    /** What it costs the source, before it starts. */
    private static function cost(Plan $plan, Ground $ground): string
    {
        $about = static function (string $role) use ($ground): string {
            $rows = $ground->table($role)?->rowEstimate;

            return null === $rows ? "all rows of $role" : 'about '.number_format($rows).' rows of '.$role;
        };

        return 'Reads '.implode(' and ', array_map($about, $plan->facts)).([] === $plan->reads ? '' : ', and looks up '.implode(', ', $plan->reads))
            .', then as much again to hold the totals against the facts alone; '.Asker::SECONDS.' seconds at the most.';
    }

    /**
     * What can be asked, as people find it who know no tables.
     *
     * @param array{measures: list<array<string, mixed>>, attributes: list<array<string, mixed>>, tests: list<array<string, mixed>>} $choices
     *
     * @return array<string, array{measures: list<array<string, mixed>>, attributes: list<array<string, mixed>>}> by folder
     */
    private static function folders(array $choices): array
    {
        $folders = [];
        foreach (['measures', 'attributes'] as $kind) {
            foreach ($choices[$kind] as $one) {
                $folder = \is_string($one['folder'] ?? null) && '' !== $one['folder'] ? $one['folder'] : 'computed';
                $folders[$folder] ??= ['measures' => [], 'attributes' => []];
                $folders[$folder][$kind][] = $one;
            }
        }

        return $folders;
    }

    /**
     * @template T of Measure|Attribute
     *
     * @param list<T> $all
     *
     * @return list<T> those that are not hidden
     */
    private static function offered(array $all): array
    {
        return array_values(array_filter($all, static fn (Measure|Attribute $one): bool => !$one->hidden));
    }

    /** @return array{measures: list<array<string, mixed>>, attributes: list<array<string, mixed>>, tests: list<array<string, mixed>>} what may be chosen */
    private function choices(Ground $ground): array
    {
        $matrix = new Matrix($ground);
        $measures = array_map(static function (Measure $measure) use ($matrix): array {
            $can = [];
            foreach ($matrix->columns() as $role) {
                $cell = $matrix->cell($measure, $role);
                if (\in_array($cell->can, [MatrixCell::NO, MatrixCell::OPEN], true)) {
                    $can[$role] = $cell->why;
                }
            }

            return [
                'name' => $measure->name,
                'of' => $measure->aggregation->isOfMeasures() ? 'other measures' : $measure->fact,
                'words' => $measure->meaning,
                'also' => $measure->also,
                'folder' => $measure->folder ?: $measure->fact,
                'can' => $can,
            ];
        }, self::offered($ground->model->measures));
        $attributes = [];
        foreach ($ground->model->roles as $role) {
            foreach (self::offered($ground->model->attributesOf($role)) as $attribute) {
                $attributes[] = [
                    'name' => $ground->names()->of(new Level($role->name, $attribute->name)),
                    'of' => $role->name,
                    'words' => $attribute->meaning,
                    'also' => $attribute->also,
                    'folder' => $attribute->folder ?: $role->name,
                    'can' => [],
                    'codes' => $ground->labels(new Level($role->name, $attribute->name))?->offered(self::MOST_CODES) ?? [],
                ];
            }
        }

        return ['measures' => $measures, 'attributes' => $attributes, 'tests' => ConditionText::offered()];
    }

    /** Whoever may ask the data of sources, and readers where a model is shared and not withheld. */
    private function mayAsk(KeptModel $kept): bool
    {
        return $this->isGranted(Act::ASK) || $kept->shared && !$kept->withheld && $this->isGranted(Act::ASK_MODELS);
    }

    private function askedBy(int $id, Account $account): KeptModel
    {
        // Whoever may ask none is told nothing of which there are.
        $any = $this->isGranted(Act::ASK) || $this->isGranted(Act::ASK_MODELS);
        $kept = $any ? $this->pages->seen($id, $account) : throw $this->createAccessDeniedException();

        return $this->mayAsk($kept) ? $kept : throw $this->createAccessDeniedException();
    }

    #[Route('/models/{id<\d+>}/trial/answer', name: 'model_answer', methods: ['POST'])]
    #[IsCsrfTokenValid('models')]
    public function answer(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->askedBy($id, $account);
        $ground = $this->grounds->of($kept);
        $shared = ['kept' => $kept, 'through' => $kept->connection()->label, 'asOf' => new \DateTimeImmutable(), 'answer' => null, 'error' => null];
        try {
            $trial = TrialRequest::read($request->request, $ground->names());
            $plan = (new Planner($ground, new \DateTimeImmutable('today')))->plan($trial);
            [$hidden, $fields] = $this->hidden($kept, $ground, $plan);
            $told = Grounds::toldBeside($ground, $trial, $this->closedTo($kept));
            if ([] !== $told) {
                throw new ModelError(\sprintf(
                    '%s personal: whoever may not see personal values can neither ask under a condition on them nor in order of them.',
                    Enumeration::of($told).(1 === \count($told) ? ' is' : ' are'),
                ));
            }
            // A question may take long; whoever else wants the session shall not wait for it.
            $request->getSession()->save();
            $place = $this->now->place($account);
            $answer = $this->asker->ask($ground, $kept->connection(), $trial, 'today', $request->request->getString('token'), $hidden, $fields);
            array_map(fclose(...), $place);
            $this->models->asked($kept, array_map(static fn (Measure $one): string => $one->name, (new Question($ground, $trial))->needed()));
            $format = $request->request->getString('format');
            if (isset(AnswerFile::FORMATS[$format])) {
                return AnswerFile::of($format, $kept, $trial, $plan, $answer);
            }
        } catch (SourceError $e) {
            return $this->render('model/_answer.html.twig', ['error' => $e->inWords()] + $shared, new Response(status: 422));
        } catch (ModelError|Unanswerable $e) {
            return $this->render('model/_answer.html.twig', ['error' => $e->getMessage()] + $shared, new Response(status: 422));
        }

        return $this->render('model/_answer.html.twig', ['answer' => $answer, 'plan' => $plan, 'written' => TrialRequest::written($trial)] + $shared);
    }

    /** @return array<string, string> by FieldPlace::key(), why whoever asks may not see what stands there */
    private function closedTo(KeptModel $kept): array
    {
        $reasons = $this->grounds->known($kept)->personal;

        // What is secret is closed for everybody; no plan has it as a column, but the rows that explain one may.
        return $this->isGranted(Act::SEE_PERSONAL) ? array_filter($reasons, Privacy::isSecret(...)) : $reasons;
    }

    /**
     * What of an answer is personal, for those who may not see it.
     *
     * @return array{array<int, bool>, array<string, bool>} columns, and fields as "role\0field"
     */
    private function hidden(KeptModel $kept, Ground $ground, Plan $plan): array
    {
        $reasons = $this->closedTo($kept);
        $columns = [];
        foreach ($plan->columns as $i => $column) {
            if (Grounds::isPersonal($ground, $column, $reasons)) {
                $columns[$i] = true;
            }
        }

        return [$columns, Grounds::hiddenFields($ground, $reasons)];
    }

    #[Route('/models/{id<\d+>}/trial/cancel', name: 'model_cancel', methods: ['POST'])]
    #[IsCsrfTokenValid('models')]
    public function cancel(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $this->askedBy($id, $account);
        $this->asker->cancel($request->request->getString('token'));

        return new Response(status: 204);
    }
}
