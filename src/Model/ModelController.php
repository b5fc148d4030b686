<?php

declare(strict_types=1);

namespace Fasti\Model;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Model\FieldOffers;
use Fasti\Core\Model\Matrix;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\ModelFile;
use Fasti\Core\Model\RoleKind;
use Fasti\Core\Model\Shared;
use Fasti\Diagram\Diagrams;
use Fasti\Diagram\Selection;
use Fasti\Join\EntryRoles;
use Fasti\Source\Source;
use Fasti\Source\SourceStore;
use Fasti\Text\BadText;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** Analytic models: their list, making one, and what one offers. */
final class ModelController extends AbstractController
{
    public function __construct(
        private readonly Models $models,
        private readonly ModelPages $pages,
        private readonly Grounds $grounds,
        private readonly Editing $editing,
        private readonly Beginning $beginning,
        private readonly EntryRoles $roles,
        private readonly Diagrams $diagrams,
        private readonly SourceStore $sources,
        private readonly EntityManagerInterface $orm,
    ) {
    }

    #[Route('/models', name: 'models', methods: ['GET'])]
    public function list(#[CurrentUser] Account $account): Response
    {
        $models = [];
        $tallies = $this->models->tallies();
        foreach ($this->models->listed($account) as $kept) {
            $models[] = $kept + ['tally' => $tallies[$kept['id']] ?? ['kept' => 0, 'answered' => 0, 'changed' => 0]];
        }

        return $this->render('model/list.html.twig', ['models' => $models]);
    }

    #[Route('/models/new', name: 'model_new', methods: ['GET'])]
    #[IsGranted(Act::DESCRIBE)]
    public function new(Request $request): Response
    {
        $asked = $this->beginning->asked($request);

        return $this->begun($request, $asked->entries, $asked->facts, $asked->name, '');
    }

    /**
     * @param list<int>          $entries
     * @param list<int>          $facts
     * @param array<int, string> $kinds
     */
    private function begun(Request $request, array $entries, array $facts, string $name, string $purpose, array $kinds = [], ?string $error = null): Response
    {
        $source = $this->beginning->sourceOf($entries);
        $others = \count($entries);
        $entries = $this->beginning->ofSource($entries, $source);
        $others -= \count($entries);
        $proposed = [] === $entries ? null : $this->beginning->proposed($source, $name, $entries, $facts, $kinds);
        $at = null === $proposed ? [] : $this->grounds->entriesOf($proposed->model, $source);

        return $this->render('model/new.html.twig', [
            'proposed' => $proposed, 'at' => $at, 'sources' => $this->sources->all(), 'entries' => $entries, 'facts' => $facts, 'name' => $name,
            'purpose' => $purpose, 'error' => $error,
            'source' => $this->sources->all()[$source]->name ?? '', 'others' => $others, 'starts' => [] === $entries ? $this->beginning->facts() : [],
            'areas' => [] === $entries ? array_keys($this->roles->areas()) : [], 'diagrams' => [] === $entries ? $this->diagrams->all() : [],
        ], new Response(status: null === $error ? 200 : 422));
    }

    #[Route('/models', name: 'model_make', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('models')]
    public function make(Request $request, #[CurrentUser] Account $account): Response
    {
        $given = $request->request;
        $entries = Selection::numbers($given->getString('entries'));
        $facts = Selection::numbers($given->getString('facts'));
        $kinds = [];
        $left = [];
        foreach ($given->all('kinds') as $entry => $kind) {
            if ('' === $kind) {
                $left[] = (int) $entry;
            } elseif (\is_string($kind) && null !== RoleKind::tryFrom($kind)) {
                $kinds[(int) $entry] = $kind;
            }
        }
        $entries = array_values(array_diff($entries, $left));
        $facts = array_values(array_unique([...array_filter($facts, static fn (int $fact): bool => !isset($kinds[$fact]) || 'fact' === $kinds[$fact]),
            ...array_keys(array_filter($kinds, static fn (string $kind): bool => 'fact' === $kind))]));
        $source = $this->orm->find(Source::class, $this->beginning->sourceOf($entries));
        $name = $given->getString('name');
        $purpose = $given->getString('purpose');
        if (null === $source || [] === $entries) {
            return $this->begun($request, $entries, $facts, $name, $purpose, $kinds, 'Choose the entries that the model is to stand on.');
        }
        try {
            $proposed = $this->beginning->proposed($source->id(), $name, $this->beginning->ofSource($entries, $source->id()), $facts, $kinds);
            $kept = $this->editing->begin($account, $name, $purpose, $source, $proposed->model);
        } catch (BadText|ModelError $e) {
            return $this->begun($request, $entries, $facts, $name, $purpose, $kinds, $e->getMessage());
        }

        return $this->redirectToRoute('model', ['id' => $kept->id()], 303);
    }

    #[Route('/models/{id<\d+>}', name: 'model', methods: ['GET'])]
    public function show(int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->seen($id, $account);
        $model = $kept->model();
        $ground = $this->grounds->of($kept);
        $head = $this->pages->head($kept, $account, 'model');
        $offers = [];
        $asks = new FieldOffers($ground, $this->grounds->names($model, $kept->source->id()), $this->grounds->empty($model, $kept->source->id()));
        foreach (true === $head['mayChange'] ? $model->roles : [] as $role) {
            $offers[$role->name] = $asks->of($role->name);
        }

        $shown = new Offered($ground, $this->grounds->meanings($model, $kept->source->id()));

        return $this->render('model/show.html.twig', $head + [
            'model' => $model, 'ground' => $ground, 'offers' => $offers, 'said_of' => $shown->meanings(), 'units' => $shown->units(),
            'index' => $shown->index(), 'sections' => $shown->sections(), 'ratios' => $shown->ratios(), 'shared' => Shared::cases(),
            'asked' => $kept->isOf($account) ? $this->models->timesAsked($kept) : [],
            'completions' => true === $head['mayChange'] ? $shown->completions() : [], 'pointed' => $kept->connection?->id() ?? 0,
            'at' => $this->grounds->entriesOf($model, $kept->source->id()),
        ]);
    }

    #[Route('/models/{id<\d+>}.json', name: 'model_json', methods: ['GET'])]
    public function json_(int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->seen($id, $account);
        $trials = array_map(static fn (KeptTrial $trial): array => TrialFile::of($trial), $this->models->trials($kept));

        return new Response(ModelFile::json($kept->model(), $kept->source->name, $trials), 200, [
            'Content-Type' => 'application/json',
            'Content-Disposition' => 'attachment; filename="'.preg_replace('/[^a-z0-9]+/', '-', mb_strtolower($kept->name)).'.json"',
        ]);
    }

    #[Route('/models/{id<\d+>}/matrix', name: 'model_matrix', methods: ['GET'])]
    public function matrix(int $id, #[CurrentUser] Account $account): Response
    {
        $kept = $this->pages->seen($id, $account);

        return $this->render('model/matrix.html.twig', $this->pages->head($kept, $account, 'model_matrix') + [
            'model' => $kept->model(), 'matrix' => new Matrix($this->grounds->of($kept)),
        ]);
    }
}
