<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Fasti\Account\Account;
use Fasti\Account\AccountStore;
use Fasti\Account\Act\Act;
use Fasti\Core\Draft\Draft;
use Fasti\Register\Entries;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Register\FieldView;
use Fasti\Register\Joins;
use Fasti\Support\Markdown;
use Fasti\Text\BadText;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** Taking and dismissing drafts, wherever they are shown; short forms; what was taken in one go. */
final class DraftController extends AbstractController
{
    private const TAKINGS = 100;
    /** In more places than these nothing is written before somebody has looked at them. */
    private const AT_ONCE = 3;

    public function __construct(
        private readonly DraftStore $store,
        private readonly Taker $taker,
        private readonly Drafting $drafting,
        private readonly ShortForms $short,
        private readonly Entries $entries,
        private readonly EntryStore $places,
        private readonly Fields $fields,
        private readonly Joins $joins,
        private readonly AccountStore $accounts,
    ) {
    }

    #[Route('/drafts/take', name: 'draft_take', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function take(Request $request, #[CurrentUser] Account $account): JsonResponse
    {
        $given = $request->getPayload();
        $elsewhere = array_values(array_map(intval(...), array_filter($given->all('elsewhere'), is_numeric(...))));
        try {
            $draft = $this->asked($request);
            $done = $this->taker->take($account, $given->getString('topic'), $given->getInt('id'), $draft, $elsewhere);
        } catch (BadText $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }
        if (\in_array($given->getInt('id'), $done['left'], true)) {
            return $this->json(['error' => 'Somebody has written here meanwhile. Load the page to see what.'], 409);
        }

        return $this->json($done + ['value' => $draft->text, 'html' => Markdown::html($draft->text)]);
    }

    #[Route('/drafts/dismiss', name: 'draft_dismiss', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function dismiss(Request $request, #[CurrentUser] Account $account): JsonResponse
    {
        $given = $request->getPayload();
        if ($given->getBoolean('back')) {
            $this->store->undismiss($given->getString('topic'), $given->getInt('id'), $given->getString('property'));
        } else {
            try {
                $draft = $this->asked($request);
            } catch (BadText $e) {
                return $this->json(['error' => $e->getMessage()], 422);
            }
            $this->store->decided($given->getString('topic'), $given->getInt('id'), $draft->property, $draft, false, $account);
        }
        $id = $given->getInt('id');
        $entry = match ($given->getString('topic')) {
            'field' => $this->fields->placed([$id])[$id]->entry ?? 0,
            'join' => $this->joins->one($id)->fromId ?? 0,
            default => $id,
        };
        $this->store->stale([$entry]);

        return $this->json(['dismissed' => !$given->getBoolean('back')]);
    }

    /** Where else the same is true, as a part of a page. */
    #[Route('/drafts/elsewhere/{field<\d+>}', name: 'draft_elsewhere', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function elsewhere(Request $request, int $field): Response
    {
        $at = $this->fields->placed([$field])[$field] ?? throw $this->createNotFoundException('There is no such field.');
        $entry = $this->entries->one($at->entry) ?? throw $this->createNotFoundException('There is no such entry.');
        $view = array_values(array_filter($entry->fields, static fn (FieldView $one): bool => $one->id === $field))[0];
        $given = $request->getPayload();

        return $this->render('draft/_elsewhere.html.twig', [
            'places' => $this->drafting->elsewhere($entry, $view, $given->getString('property'), $given->getString('text')), 'most' => self::AT_ONCE,
        ]);
    }

    #[Route('/drafts/takings', name: 'takings', methods: ['GET'])]
    public function takings(): Response
    {
        $takings = $this->store->takings(self::TAKINGS);

        return $this->render('draft/takings.html.twig', ['takings' => $takings, 'names' => $this->accounts->names(array_column($takings, 'account'))]);
    }

    #[Route('/drafts/takings/{id<\d+>}/back', name: 'taking_back', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function takeBack(int $id, #[CurrentUser] Account $account): JsonResponse
    {
        try {
            return $this->json(['places' => $this->taker->back($account, $id)]);
        } catch (BadText $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }
    }

    #[Route('/register/short-forms', name: 'short_forms', methods: ['GET'])]
    public function shortForms(): Response
    {
        return $this->render('draft/short_forms.html.twig', ['forms' => $this->short->all()]);
    }

    #[Route('/register/short-forms', name: 'short_form_say', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('short_forms')]
    public function sayShortForm(Request $request): Response
    {
        $given = $request->request;
        $short = trim($given->getString('short'));
        $stands = trim($given->getString('stands'));
        $standing = $given->getString('standing');
        if (1 !== preg_match('/^[\p{L}\p{N}]{1,20}$/u', $short) || '' === $stands && ShortForms::DISMISSED !== $standing) {
            $this->addFlash('bad', 'A short form is one word of letters and digits, up to twenty; beside it stands what it is short for.');
        } else {
            $this->short->say($short, $stands, ShortForms::DISMISSED === $standing ? $standing : ShortForms::SAID);
            // What it stands for changes the drafts of all names in which it stands: they are made anew before they are shown.
            $this->store->stale($this->places->inNames($short));
        }

        return $this->redirectToRoute('short_forms', [], 303);
    }

    /** @throws BadText */
    private function asked(Request $request): Draft
    {
        $given = $request->getPayload();

        return $this->store->one($given->getString('topic'), $given->getInt('id'), $given->getString('property'), $given->getString('evidence'))
            ?? throw new BadText('This draft was made anew meanwhile, or somebody has decided about it. Load the page to see how it stands.');
    }
}
