<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Model\Additivity;
use Fasti\Core\Model\Aggregate\Aggregate;
use Fasti\Core\Model\Aggregate\Ratio;
use Fasti\Core\Model\Attribute;
use Fasti\Core\Model\Choice;
use Fasti\Core\Model\Edits;
use Fasti\Core\Model\FieldOffers;
use Fasti\Core\Model\FormulaReader;
use Fasti\Core\Model\Grain;
use Fasti\Core\Model\Hierarchies;
use Fasti\Core\Model\Hierarchy;
use Fasti\Core\Model\Instead;
use Fasti\Core\Model\Level;
use Fasti\Core\Model\Measure;
use Fasti\Core\Model\Model;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\Renamed;
use Fasti\Core\Model\Role;
use Fasti\Core\Model\RoleKind;
use Fasti\Core\Model\Shared;
use Fasti\Core\Model\Sharing;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Sources;
use Fasti\Text\BadText;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\InputBag;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** Changes of a model, a part at a time. */
#[IsGranted(Act::DESCRIBE)]
final class ModelEditController extends AbstractController
{
    public function __construct(
        private readonly Models $models,
        private readonly ModelPages $pages,
        private readonly Grounds $grounds,
        private readonly Editing $editing,
        private readonly Sources $sources,
    ) {
    }

    /** @param callable(Model): Model $change */
    private function done(Account $account, KeptModel $kept, callable $change, string $anchor, ?Renamed $renamed = null): Response
    {
        try {
            $this->editing->change($account, $kept, $change, $renamed);
        } catch (BadText|ModelError $e) {
            $this->addFlash('failed', $e->getMessage());
        }

        return $this->redirect($this->generateUrl('model', ['id' => $kept->id()]).$anchor, 303);
    }

    /** What tells whether somebody else has changed a part since its form was shown. */
    public static function stamp(?object $part): string
    {
        return null === $part ? '' : substr(hash('xxh128', serialize($part)), 0, 16);
    }

    private static function unchanged(Request $request, ?object $now): void
    {
        $stamp = $request->request->getString('stamp');
        if ('' !== $stamp && self::stamp($now) !== $stamp) {
            throw new ModelError(
                'Somebody has changed this meanwhile. It is shown as it is now; what you had written is in the history of your browser (go back).',
            );
        }
    }

    /** The form of a part; of a new one without a name. */
    #[Route('/models/{id<\d+>}/form', name: 'model_form', methods: ['GET'])]
    public function form(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $model = $kept->model();
        $part = $request->query->getString('part');
        $name = $request->query->getString('name');
        $role = $model->role($request->query->getString('role'));
        $shared = ['kept' => $kept, 'model' => $model, 'role' => $role];
        if ('measure' === $part) {
            $measure = '' === $name ? null : $model->measure($name);

            return $this->render('model/_measure.html.twig', $shared + [
                'measure' => $measure, 'stamp' => self::stamp($measure), 'fact' => $measure?->fact ?: ($role->name ?? ($model->facts()[0]->name ?? '')),
                'aggregates' => Aggregate::known(), 'insteads' => Instead::cases(),
            ]);
        }
        if (null === $role) {
            throw $this->createNotFoundException('The model has no such role.');
        }
        $attribute = '' === $name ? null : $role->attribute($name);

        return 'attribute' === $part ? $this->render('model/_attribute.html.twig', $shared + ['attribute' => $attribute, 'stamp' => self::stamp($attribute)])
            : $this->render('model/_role.html.twig', $shared + ['stamp' => self::stamp($role)]);
    }

    #[Route('/models/{id<\d+>}/measures', name: 'model_measure', methods: ['POST'])]
    #[IsCsrfTokenValid('models')]
    public function measure(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $given = $request->request;
        $was = $given->getString('was');
        if ($given->has('remove')) {
            return $this->done($account, $kept, static fn (Model $model): Model => Edits::withoutMeasure($model, $was), '#measures');
        }
        $name = trim($given->getString('name'));

        return $this->done($account, $kept, function (Model $model) use ($request, $given, $was, $name): Model {
            self::unchanged($request, $model->measure($was));
            if ('' === $name || mb_strlen($name) > 160) {
                throw new ModelError('A measure needs a name of 160 characters at most.');
            }
            if ($was !== $name && null !== $model->measure($name)) {
                throw new ModelError(\sprintf('There is a measure “%s” already. Choose another name.', $name));
            }

            $model = Edits::measure($model, $was, $this->measureOf($given, $name));
            $after = self::after($given, array_map(static fn (Measure $one): string => $one->name, $model->measures), $name);

            return null === $after ? $model : Edits::measureAfter($model, $name, $after);
        }, '#m-'.Anchors::of($name), '' === $was || $was === $name ? null : new Renamed([$was => $name]));
    }

    /** @param InputBag<string> $given */
    private function measureOf(InputBag $given, string $name): Measure
    {
        $text = static fn (string $field): string => trim($given->getString($field));
        $aggregation = Aggregate::named($text('aggregation')) ?? throw new ModelError('Choose how the values of many rows become one figure.');
        $rows = !$aggregation->isOfMeasures();
        $ratio = $aggregation instanceof Ratio;
        $expression = $text($rows ? 'expression' : 'computed');
        $expression = $ratio ? '' : $expression;
        $instant = explode("\n", str_replace("\r", '', $given->getString('instant')), 2);
        $adds = Additivity::tryFrom($text('adds')) ?? Additivity::Additive;

        return new Measure(
            $name, $aggregation, $rows ? $text('fact') : '', $expression,
            $rows ? $text('filter') : '', $ratio ? $text('of') : '', $ratio ? $text('by') : '', $text('meaning'), $text('unit'), $text('format'), $adds,
            Additivity::SemiAdditive === $adds ? array_values(array_filter($given->all('notOver'), is_string(...))) : [],
            Additivity::SemiAdditive === $adds && 2 === \count($instant) ? new Level($instant[0], $instant[1]) : null,
            Additivity::SemiAdditive === $adds ? (Instead::tryFrom($text('instead')) ?? Instead::Nothing) : Instead::Nothing,
            Additivity::Additive === $adds ? '' : $text('reason'),
            mb_substr($text('folder'), 0, 80), $given->getBoolean('hidden'), self::words($text('also')), mb_substr($text('owner'), 0, 160),
        );
    }

    /**
     * @param InputBag<string> $given
     * @param list<string>     $there
     *
     * @return ?string what it is to stand after, '' for the first place; null where it stays
     */
    private static function after(InputBag $given, array $there, string $name): ?string
    {
        $place = $given->getString('place');

        return match (true) {
            'first' === $place => '',
            str_starts_with($place, 'after ') && $place !== "after $name" && \in_array(substr($place, 6), $there, true) => substr($place, 6),
            default => null,
        };
    }

    /** @return list<string> what stands between commas */
    private static function words(string $text): array
    {
        return array_values(array_filter(array_map(trim(...), explode(',', mb_substr($text, 0, 400))), static fn (string $word): bool => '' !== $word));
    }

    #[Route('/models/{id<\d+>}/attributes', name: 'model_attribute', methods: ['POST'])]
    #[IsCsrfTokenValid('models')]
    public function attribute(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $text = static fn (string $field): string => trim($request->request->getString($field));
        $role = $text('role');
        $was = $request->request->getString('was');
        $name = $text('name');
        if ($request->request->has('remove')) {
            return $this->done($account, $kept, static fn (Model $model): Model => Edits::withoutAttribute($model, $role, $was), '#r-'.Anchors::of($role));
        }

        return $this->done($account, $kept, static function (Model $model) use ($request, $text, $role, $was, $name): Model {
            $of = $model->role($role) ?? throw new ModelError(\sprintf('The model has no role “%s”.', $role));
            self::unchanged($request, $of->attribute($was));
            if ('' === $name || mb_strlen($name) > 160) {
                throw new ModelError('An attribute needs a name of 160 characters at most.');
            }
            if ($was !== $name && null !== $of->attribute($name)) {
                throw new ModelError(\sprintf('“%s” has an attribute “%s” already. Choose another name.', $role, $name));
            }

            $model = Edits::attribute($model, $role, $was, new Attribute(
                $name, $text('expression'), $text('meaning'), $text('unit'), $text('sorted'), mb_substr($text('folder'), 0, 80),
                $request->request->getBoolean('hidden'), self::words($text('also')), mb_substr($text('owner'), 0, 160),
            ));
            $there = array_map(static fn (Attribute $one): string => $one->name, $model->role($role)->attributes ?? []);
            $after = self::after($request->request, $there, $name);

            return null === $after ? $model : Edits::attributeAfter($model, $role, $name, $after);
        }, '#r-'.Anchors::of($role), '' === $was || $was === $name ? null : new Renamed(attributes: ["$role\0$was" => $name]));
    }

    #[Route('/models/{id<\d+>}/roles', name: 'model_role', methods: ['POST'])]
    #[IsCsrfTokenValid('models')]
    public function role(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $text = static fn (string $field): string => trim($request->request->getString($field));
        $was = $request->request->getString('was');
        $name = $text('name');
        if ($request->request->has('remove')) {
            return $this->done($account, $kept, static fn (Model $model): Model => Edits::withoutRole($model, $was), '');
        }

        return $this->done($account, $kept, static function (Model $model) use ($request, $text, $was, $name): Model {
            $old = $model->role($was) ?? throw new ModelError(\sprintf('The model has no role “%s”.', $was));
            self::unchanged($request, $old);
            if ('' === $name || mb_strlen($name) > 120 || ($was !== $name && null !== $model->role($name))) {
                throw new ModelError(
                    '' === $name || mb_strlen($name) > 120 ? 'A role needs a name of 120 characters at most.' : \sprintf(
                        'There is a role “%s” already. Choose another name.',
                        $name,
                    ),
                );
            }
            $key = array_values(array_filter(array_map(trim(...), explode(',', $text('key'))), static fn (string $field): bool => '' !== $field));

            return Edits::replaceRole($model, $was, new Role(
                $name, RoleKind::tryFrom($text('kind')) ?? $old->kind, $old->entry, $old->like, $text('meaning'), $text('grain'), $key, $text('label'),
                $old->attributes,
            ));
        }, '#r-'.Anchors::of($name), $was === $name ? null : new Renamed(roles: [$was => $name]));
    }

    /** Several fields at once become what they are offered as. */
    #[Route('/models/{id<\d+>}/take', name: 'model_take', methods: ['POST'])]
    #[IsCsrfTokenValid('models')]
    public function take(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $role = $request->request->getString('role');
        $fields = $request->request->all('take');

        return $this->done($account, $kept, function (Model $model) use ($kept, $role, $fields): Model {
            $names = $this->grounds->names($model, $kept->source->id());
            $empty = $this->grounds->empty($model, $kept->source->id());
            foreach ($fields as $field) {
                foreach ((new FieldOffers($this->grounds->ofModel($model, $kept->source->id()), $names, $empty))->of($role) as $offer) {
                    if ($offer->field === $field) {
                        $model = $offer->as instanceof Measure ? Edits::measure($model, '', $offer->as) : Edits::attribute($model, $role, '', $offer->as);
                        break;
                    }
                }
            }

            return $model;
        }, '#r-'.Anchors::of($role));
    }

    #[Route('/models/{id<\d+>}/joins', name: 'model_join', methods: ['POST'])]
    #[IsCsrfTokenValid('models')]
    public function join(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $key = $request->request->getString('key');
        $name = trim($request->request->getString('name'));

        return $this->done($account, $kept, static function (Model $model) use ($request, $key, $name): Model {
            if ($request->request->has('remove')) {
                return Edits::withoutJoin($model, $key);
            }
            if ('' === $name) {
                throw new ModelError('A role of its own needs a name, such as “day confirmed”.');
            }

            return Edits::ownRole($model, $key, $name);
        }, '#joins');
    }

    #[Route('/models/{id<\d+>}/routes', name: 'model_route', methods: ['POST'])]
    #[IsCsrfTokenValid('models')]
    public function route(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $given = $request->request;
        $by = array_values(array_filter(explode("\n", str_replace("\r", '', $given->getString('by'))), static fn (string $key): bool => '' !== $key));

        return $this->done(
            $account,
            $kept,
            static fn (Model $model): Model => Edits::choose($model, new Choice($given->getString('from'), $given->getString('to'), $by)),
            '#joins',
        );
    }

    /** What in the data determines what. */
    #[Route('/models/{id<\d+>}/hierarchies', name: 'model_hierarchies', methods: ['GET'])]
    #[IsGranted(Act::ASK)]
    public function found(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $role = $request->query->getString('role');
        $ground = $this->grounds->of($kept);
        try {
            $rows = $this->sources->rows(
                $this->sources->targetOf($kept->connection()),
                Asker::SECONDS,
                Sources::AT_ONCE,
            ) ?? throw new ModelError('Files cannot be asked questions, only read.');
            $found = (new Hierarchies($ground, $rows))->of($ground->roleNamed($role) ?? throw new ModelError(\sprintf('The model has no role “%s”.', $role)));
        } catch (SourceError $e) {
            return $this->render('model/_hierarchies.html.twig', ['kept' => $kept, 'found' => [], 'error' => $e->inWords()]);
        } catch (ModelError $e) {
            return $this->render('model/_hierarchies.html.twig', ['kept' => $kept, 'found' => [], 'error' => $e->getMessage()]);
        }
        $known = array_map(static fn (Hierarchy $one): array => $one->levels, $ground->model->hierarchies);

        return $this->render('model/_hierarchies.html.twig', [
            'kept' => $kept, 'error' => null, 'found' => array_values(
                array_filter($found, static fn (Hierarchy $one): bool => !\in_array($one->levels, $known, false)),
            ),
        ]);
    }

    /** How what belongs to several, by a link, counts among them. */
    #[Route('/models/{id<\d+>}/sharings', name: 'model_sharing', methods: ['POST'])]
    #[IsCsrfTokenValid('models')]
    public function sharing(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $given = $request->request;
        [$link, $of] = explode("\n", str_replace("\r", '', $given->getString('join')), 2) + [1 => ''];
        $how = Shared::tryFrom($given->getString('how')) ?? Shared::Equally;
        $weight = trim($given->getString('weight'));

        return $this->done($account, $kept, static function (Model $model) use ($link, $of, $how, $weight, $given): Model {
            if (null === $model->role($link) || null === $model->role($of)) {
                throw new ModelError('Choose which link says what belongs to what.');
            }
            if (Shared::ByWeight === $how && '' === $weight) {
                throw new ModelError('Say by which field of the link it is shared, or share it in equal parts.');
            }

            return Edits::sharing($model, new Sharing($link, $of, $how, Shared::ByWeight === $how ? $weight : ''), $given->has('remove'));
        }, '#sharings');
    }

    #[Route('/models/{id<\d+>}/hierarchies', name: 'model_hierarchy', methods: ['POST'])]
    #[IsCsrfTokenValid('models')]
    public function hierarchy(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $given = $request->request;
        $name = trim($given->getString('name'));
        if ($given->has('remove')) {
            return $this->done($account, $kept, static fn (Model $model): Model => Edits::withoutHierarchy($model, $name), '#hierarchies');
        }
        $levels = [];
        foreach (explode("\n", str_replace("\r", '', $given->getString('levels'))) as $line) {
            [$role, $attribute] = explode("\t", $line, 2) + [1 => ''];
            if ('' !== $attribute) {
                $levels[] = new Level($role, $attribute);
            }
        }
        $parent = array_values(array_filter(array_map(trim(...), explode(',', $given->getString('parent'))), static fn (string $field): bool => '' !== $field));

        return $this->done($account, $kept, static function (Model $model) use ($name, $levels, $parent, $given): Model {
            if (!([] !== $levels && ([] !== $parent || \count($levels) > 1))) {
                throw new ModelError(
                    'A hierarchy has two levels at least, or fields that lead to the row above.',
                );
            }
            if ('' === $name) {
                throw new ModelError('A hierarchy needs a name.');
            }

            return Edits::hierarchy($model, new Hierarchy($name, $levels, $given->getBoolean('ragged'), $parent));
        }, '#hierarchies');
    }

    /** What an expression gives as it is typed: what is wrong with it, where, and what could stand there. */
    #[Route('/models/{id<\d+>}/formula', name: 'model_formula', methods: ['GET'])]
    public function formula(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $ground = $this->grounds->of($kept);
        $ofMeasures = '' === $request->query->getString('role', '-');
        $role = $ground->roleNamed($request->query->getString('role'));
        $text = $request->query->getString('text');
        if (null === $role && !$ofMeasures || '' === trim($text)) {
            return new JsonResponse(['words' => '', 'faults' => []]);
        }
        $formula = null === $role ? $ground->formulaOfMeasures($text) : $ground->formula($role, $text);
        $faults = array_map(static fn ($fault): array => ['at' => $fault->at, 'words' => $fault->inWords($text)], [...$formula->faults, ...$formula->doubts]);
        $aggregate = Aggregate::named($request->query->getString('aggregation'));
        $grain = null === $aggregate || null === $role ? new Grain() : $ground->grains()->of(new Measure('x', $aggregate, $role, $text));
        $wrong = [] !== $grain->elsewhere || null !== $grain->mixed;
        if ($wrong) {
            $faults[] = ['at' => 0, 'words' => $grain->inWords((string) $role)];
        }
        $gives = 'gives a '.FormulaReader::word($formula->family).('' === $formula->unit ? '' : ', in '.$formula->unit);

        return new JsonResponse([
            'words' => [] !== $formula->faults || $wrong ? '' : trim($gives.'. '.$grain->inWords((string) $role), '. '),
            'faults' => $faults, 'wrong' => [] !== $formula->faults || $wrong,
        ]);
    }

    /** Whose it is, and who may ask it. */
    #[Route('/models/{id<\d+>}/settings', name: 'model_settings', methods: ['POST'])]
    #[IsCsrfTokenValid('models')]
    public function settings(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->changed($id, $account);
        $given = $request->request;
        if ($given->has('remove')) {
            $this->models->throwAway($kept, $account);
            $this->addFlash('done', \sprintf('The model “%s” is thrown away. Below the list it can be taken back.', $kept->name));

            return $this->redirectToRoute('models', [], 303);
        }
        if ($given->has('shared')) {
            $shared = $given->getBoolean('shared');
            $why = mb_substr(trim($given->getString('why')), 0, 400);
            $faults = $shared ? $this->pages->openFaults($kept) : 0;
            if ($faults > 0 && '' === $why) {
                $this->addFlash('failed', \sprintf(
                    '%s against the model. Mend or accept %s under Checks, or say why it is shared all the same.',
                    1 === $faults ? 'A fault speaks' : "$faults faults speak",
                    1 === $faults ? 'it' : 'them',
                ));

                return $this->redirectToRoute('model', ['id' => $kept->id()], 303);
            }
            $kept->shared = $shared;
            $kept->sharedDespite = $faults > 0 ? $why : '';
            $this->models->save();
        }
        if ($given->has('withheld')) {
            $kept->withheld = $given->getBoolean('withheld');
            $this->models->save();
        }

        return $this->redirectToRoute('model', ['id' => $kept->id()], 303);
    }
}
