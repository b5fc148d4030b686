<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Finding\Check;
use Fasti\Core\Finding\Severity;
use Fasti\Register\Entries;
use Fasti\Register\EntryAt;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Source\SourceStore;
use Fasti\Text\BadText;
use Fasti\Text\Texts;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;
use Symfony\Contracts\EventDispatcher\EventDispatcherInterface;

final class FindingController extends AbstractController
{
    private const PAGE = 200;

    /** @param iterable<Mending> $mendings */
    public function __construct(
        private readonly Findings $findings,
        private readonly SourceStore $sources,
        private readonly Checks $checks,
        private readonly CheckSettings $settings,
        private readonly Entries $entries,
        private readonly Texts $texts,
        private readonly EntryStore $store,
        private readonly Fields $fields,
        private readonly Watching $watching,
        private readonly EventDispatcherInterface $events,
        #[AutowireIterator(Mending::class)] private readonly iterable $mendings,
    ) {
    }

    /** All findings by what was noticed; of one check, exactly its places. */
    #[Route('/register/findings', name: 'findings', methods: ['GET'])]
    public function list(Request $request): Response
    {
        $query = $request->query;
        $source = max(0, $query->getInt('source'));
        $severity = Severity::tryFrom($query->getString('severity'));
        $check = $this->checks->of($query->getString('check'));
        $group = $query->has('group') ? $query->getString('group') : null;
        $page = max(1, $query->getInt('page', 1));
        $places = null === $check ? [] : $this->findings->places($check->name(), $group, $source, self::PAGE + 1, self::PAGE * ($page - 1));
        $shown = \array_slice($places, 0, self::PAGE);
        $entries = [];
        foreach ($this->entries->load(array_values(array_unique(array_column($shown, 'entry'))), false) as $entry) {
            $entries[$entry->id] = $entry;
        }

        $groups = null === $check ? $this->findings->groups($source, $severity->value ?? '') : [];
        // One that stands in one place only says where.
        $single = array_filter($groups, static fn (FoundGroup $one): bool => 1 === $one->count);
        $fields = $this->fields->called(array_values(array_filter(array_column($single, 'field'))));
        $at = $this->store->placed(array_values(array_unique(array_column($single, 'entry'))));

        return $this->render('finding/list.html.twig', [
            'at' => array_map(static fn (EntryAt $one): Place => $one->place, $at), 'called' => $fields,
            'sources' => $this->sources->all(), 'source' => $source, 'severity' => $severity->value ?? '', 'severities' => Severity::cases(),
            'groups' => $groups,
            'check' => $check, 'group' => $group, 'places' => $shown, 'entries' => $entries, 'page' => $page, 'more' => \count($places) > self::PAGE,
            'mending' => null === $check ? null : $this->mending($check->name()), 'weight' => null === $check ? null : $this->settings->severity($check),
        ]);
    }

    /** Looks at the register as a whole once more. */
    #[Route('/register/findings/again', name: 'findings_again', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('findings')]
    public function again(): Response
    {
        $this->watching->again();

        return $this->redirectToRoute('findings', [], 303);
    }

    /** One key that mends it: a text is written. */
    #[Route('/register/findings/{id<\d+>}/mend', name: 'finding_mend', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function mend(int $id, #[CurrentUser] Account $account): Response
    {
        $place = $this->findings->one($id) ?? throw $this->createNotFoundException('There is no such finding.');
        $text = $this->mending($place->check)?->text($place);
        if (null === $text) {
            return $this->json(['error' => 'Nothing is known that would mend this one. Open it and see what to say.'], 422);
        }
        try {
            $done = $this->texts->save($account, $text->topic, $text->id, $text->property, $text->base, $text->value, 'mend-'.$id);
        } catch (BadText $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }

        return $this->json($done, $done->saved ? 200 : 409);
    }

    #[Route('/register/findings/checks', name: 'checks', methods: ['GET'])]
    public function checks(): Response
    {
        $counts = [];
        foreach ($this->findings->groups(0) as $group) {
            $counts[$group->check] = ($counts[$group->check] ?? 0) + $group->count;
        }

        return $this->render('finding/checks.html.twig', [
            'checks' => array_map(fn (Check $check): array => [
                'check' => $check, 'runs' => $this->settings->runs($check), 'severity' => $this->settings->severity($check),
                'count' => $counts[$check->name()] ?? 0,
            ], $this->checks->all()),
            'severities' => Severity::cases(),
        ]);
    }

    #[Route('/register/findings/checks/{name}', name: 'check_set', methods: ['POST'])]
    #[IsGranted(Act::DECIDE)]
    #[IsCsrfTokenValid('findings')]
    public function set(Request $request, string $name): Response
    {
        $check = $this->checks->of($name) ?? throw $this->createNotFoundException('There is no such check.');
        $ran = $this->settings->runs($check);
        $runs = $request->request->getBoolean('runs');
        $severity = Severity::tryFrom($request->request->getString('severity'));
        $this->settings->set($check, $runs, $severity === $check->severity() ? null : $severity);
        $this->findings->weigh($name, $this->settings->severity($check));
        if ($ran && !$runs) {
            $this->findings->endAll($name);
        } elseif (!$ran && $runs) {
            $this->events->dispatch(new CheckSwitched($name));
        }

        return $this->redirectToRoute('checks', ['_fragment' => $name], 303);
    }

    private function mending(string $check): ?Mending
    {
        foreach ($this->mendings as $mending) {
            if ($mending->check() === $check) {
                return $mending;
            }
        }

        return null;
    }

    /** @throws BadText */
    private static function day(string $until): ?string
    {
        if ('' === $until) {
            return null;
        }
        $day = \DateTimeImmutable::createFromFormat('!Y-m-d', $until);
        if (false === $day || $day->format('Y-m-d') !== $until) {
            throw new BadText(\sprintf('“%s” is no day. Write it as 2026-11-30, or leave it empty to set it aside for good.', mb_strimwidth($until, 0, 30,
                '…')));
        }

        return $day < new \DateTimeImmutable('today') ? throw new BadText('That day is over. Name one that comes.') : $until;
    }

    /** All places of a line at once. */
    #[Route('/register/findings/aside', name: 'findings_aside', methods: ['POST'])]
    #[IsGranted(Act::DECIDE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function asideAll(Request $request, #[CurrentUser] Account $account): Response
    {
        $given = $request->getPayload();
        $why = trim($given->getString('why'));
        try {
            $until = self::day($given->getString('until'));
        } catch (BadText $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }
        if ('' === $why) {
            return $this->json(['error' => 'Say why it is as it should be: whoever comes after you will ask.'], 422);
        }

        return $this->json(['aside' => $this->findings->setAsideAll($given->getString('check'), $given->getString('group'), $given->getInt('source'),
            $account, $why, $until)]);
    }

    /** It was looked at and is as it should be; or, after all, it is not. */
    #[Route('/register/findings/{id<\d+>}/{what<aside|back>}', name: 'finding_aside', methods: ['POST'])]
    #[IsGranted(Act::DECIDE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function aside(Request $request, int $id, string $what, #[CurrentUser] Account $account): Response
    {
        $given = $request->getPayload();
        try {
            $until = self::day($given->getString('until'));
        } catch (BadText $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }
        $this->findings->setAside($id, 'aside' === $what, $account, trim($given->getString('why')), $until);

        return $this->json(['aside' => 'aside' === $what]);
    }
}
