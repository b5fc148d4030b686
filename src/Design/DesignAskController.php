<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Design\Completing;
use Fasti\Core\Design\Edit;
use Fasti\Core\Design\EditError;
use Fasti\Core\Design\Edits;
use Fasti\Core\Design\Formatting;
use Fasti\Core\Design\Merging;
use Fasti\Core\Design\Outline;
use Fasti\Core\Design\RulePreview;
use Fasti\Core\Diagram\Scene;
use Fasti\Design\Topic\DesignTopic;
use Fasti\Text\History;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** What is asked of an outline while it is written. Nothing here is kept but where tablets stand. */
final class DesignAskController extends AbstractController
{
    public function __construct(private readonly Designs $designs, private readonly Sight $sight, private readonly Abbreviations $short)
    {
    }

    #[Route('/designs/{id<\d+>}/check', name: 'design_check', methods: ['POST'])]
    public function check(Request $request, int $id, #[CurrentUser] Account $account): JsonResponse
    {
        $kept = $this->designs->seen($id, $account);
        $given = $request->getPayload();
        $depth = $given->getString('depth');
        $places = self::places($given->all('places'));

        return $this->json(
            $this->sight->of(
                $given->getString('text'),
                $depth,
                [] === $places ? $kept->places[$depth] ?? [] : $places,
                $given->getBoolean('ledger'),
                Scene::ways($given->all('ways')),
            ),
        );
    }

    #[Route('/designs/{id<\d+>}/about', name: 'design_about', methods: ['POST'])]
    public function about(Request $request, int $id, #[CurrentUser] Account $account): JsonResponse
    {
        $this->designs->seen($id, $account);
        $given = $request->getPayload();

        return $this->json(
            ['piece' => $this->sight->piece($given->getString('text'), $given->getString('depth'), $given->getInt('tablet'), $given->getInt('line'))],
        );
    }

    #[Route('/designs/{id<\d+>}/edit', name: 'design_edit', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function edit(Request $request, int $id, #[CurrentUser] Account $account): JsonResponse
    {
        $this->designs->changed($id, $account);
        $given = $request->getPayload();
        $text = $given->getString('text');
        try {
            foreach ($given->all('edits') as $edit) {
                $said = static fn (string $key): string => \is_array($edit) && \is_scalar($edit[$key] ?? null) ? (string) $edit[$key] : '';
                $meaning = \is_array($edit) && \is_string($edit['meaning'] ?? null) ? $edit['meaning'] : null;
                $text = Edits::of($text, new Edit($said('what'), $said('of'), $said('name'), $said('said'), $meaning));
            }
        } catch (EditError $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }

        return $this->json(['text' => $text]);
    }

    #[Route('/designs/{id<\d+>}/format', name: 'design_format', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function format(Request $request, int $id, #[CurrentUser] Account $account): JsonResponse
    {
        $this->designs->changed($id, $account);

        return $this->json(['text' => rtrim(Formatting::of($request->getPayload()->getString('text')))]);
    }

    #[Route('/designs/{id<\d+>}/complete', name: 'design_complete', methods: ['POST'])]
    public function complete(Request $request, int $id, #[CurrentUser] Account $account): JsonResponse
    {
        $this->designs->seen($id, $account);
        $given = $request->getPayload();

        return $this->json(Completing::at($given->getString('text'), $given->getInt('line'), $given->getInt('column')));
    }

    /** What another setting of a rule would change. */
    #[Route('/designs/{id<\d+>}/preview', name: 'design_preview', methods: ['POST'])]
    public function preview(Request $request, int $id, #[CurrentUser] Account $account): JsonResponse
    {
        $this->designs->seen($id, $account);
        $given = $request->getPayload();
        try {
            $text = Edits::of($given->getString('text'), new Edit('set rule', '', $given->getString('rule'), $given->getString('setting')));
        } catch (EditError $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }

        return $this->json(
            ['words' => RulePreview::between(Outline::read($given->getString('text'))->design, Outline::read($text)->design, $this->short->all())],
        );
    }

    /** What two people wrote, put together. */
    #[Route('/designs/{id<\d+>}/merge', name: 'design_merge', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function merge(Request $request, int $id, #[CurrentUser] Account $account, History $history): JsonResponse
    {
        $kept = $this->designs->changed($id, $account);
        $given = $request->getPayload();
        $merged = Merging::of(rtrim($given->getString('base')), rtrim($given->getString('mine')), $kept->outline);

        return $this->json([
            'text' => $merged->text, 'mine' => $merged->mine, 'theirs' => $kept->outline, 'clashes' => $merged->clashes,
            'by' => $history->last(DesignTopic::NAME, $id, DesignProperties::OUTLINE)?->by,
        ]);
    }

    #[Route('/designs/{id<\d+>}/places', name: 'design_places', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function keepPlaces(Request $request, int $id, #[CurrentUser] Account $account): JsonResponse
    {
        $kept = $this->designs->changed($id, $account);
        $given = $request->getPayload();
        $depth = $given->getString('depth');
        if (\in_array($depth, Sight::DEPTHS, true)) {
            $kept->places = [$depth => self::places($given->all('places'))] + $kept->places;
            $this->designs->save();
        }

        return $this->json(['saved' => true]);
    }

    /**
     * @param array<mixed> $given
     *
     * @return array<int, array{float, float}>
     */
    private static function places(array $given): array
    {
        $places = [];
        foreach ($given as $id => $at) {
            if (\is_array($at) && is_numeric($at[0] ?? null) && is_numeric($at[1] ?? null)) {
                $places[(int) $id] = [(float) $at[0], (float) $at[1]];
            }
        }

        return $places;
    }
}
