<?php

declare(strict_types=1);

namespace Fasti\Desk;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Wording\Amount;
use Fasti\Draft\DraftStore;
use Fasti\Join\EntryRoles;
use Fasti\Register\Claim;
use Fasti\Register\Claims;
use Fasti\Register\Dossiers;
use Fasti\Register\FieldAt;
use Fasti\Register\Fields;
use Fasti\Register\FieldView;
use Fasti\Register\LiveLinks;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Source\SourceStore;
use Fasti\Text\History;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/**
 * What has the greatest claim on a person now, and the queue of what nobody has described.
 *
 * @phpstan-import-type Item from Queue
 */
final class DeskController extends AbstractController
{
    private const ALIKE_SHOWN = 8;

    /** @param iterable<Claims> $rooms */
    public function __construct(
        private readonly Queue $queue,
        private readonly Coverage $coverage,
        private readonly Dossiers $dossiers,
        private readonly Fields $fields,
        private readonly SourceStore $sources,
        private readonly EntryRoles $roles,
        private readonly History $history,
        private readonly DraftStore $drafts,
        private readonly LiveLinks $links,
        #[AutowireIterator(Claims::class)] private readonly iterable $rooms,
    ) {
    }

    #[Route('/desk', name: 'desk', methods: ['GET'])]
    #[IsGranted(Act::DESCRIBE)]
    public function desk(Request $request, #[CurrentUser] Account $account): Response
    {
        $claims = [];
        foreach ($this->rooms as $room) {
            array_push($claims, ...$room->of($account));
        }
        $all = $this->queue->count($account);
        $waiting = $all['entries'] + $all['fields'];
        if ($waiting > 0) {
            $what = array_filter([
                $all['fields'] > 0 ? Amount::of($all['fields'], 'field') : '', $all['entries'] > 0 ? Amount::of($all['entries'], 'entry') : '',
            ]);
            $claims[] = new Claim(implode(' and ', $what).' to describe', 'by worth; '.Amount::decimal((string) $all['drafts']).' have a draft', 'desk', [],
                Claim::QUEUE);
        }
        usort($claims, static fn (Claim $a, Claim $b): int => $b->press <=> $a->press);
        $by = \in_array($request->query->getString('by'), Coverage::KINDS, true) ? $request->query->getString('by') : 'source';

        return $this->render('desk/desk.html.twig', [
            'claims' => $claims, 'coverage' => $this->coverage->now($by), 'by' => $by,
            'days' => $this->coverage->days(), 'sources' => $this->sources->all(), 'areas' => array_keys($this->roles->areas()),
        ] + $this->asked($request, $account, $all));
    }

    /** The next thing of the queue, or one that is named, as a part of the desk. */
    #[Route('/desk/next', name: 'desk_next', methods: ['GET'])]
    #[IsGranted(Act::DESCRIBE)]
    public function next(Request $request, #[CurrentUser] Account $account): Response
    {
        return $this->render('desk/_item.html.twig', $this->asked($request, $account));
    }

    #[Route('/desk/later', name: 'desk_later', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function later(Request $request, #[CurrentUser] Account $account): JsonResponse
    {
        $given = $request->getPayload();
        $this->queue->later($account, $given->getString('topic'), $given->getInt('id'), !$given->getBoolean('back'));

        return $this->json(['later' => !$given->getBoolean('back')]);
    }

    /**
     * @param array{entries: int, fields: int, drafts: int}|null $all what waits of everything, where that is known
     *
     * @return array<string, mixed>
     */
    private function asked(Request $request, Account $account, ?array $all = null): array
    {
        $query = $request->query;
        $source = max(0, $query->getInt('source'));
        $area = $query->getString('area');
        $entries = '' === $area ? null : $this->roles->areas()[$area] ?? [];
        $named = '' !== $query->getString('topic') ? $this->named($query->getString('topic'), $query->getInt('id'), $source) : null;
        $after = '' !== $query->getString('after') ? [
            'worth' => (float) $query->getString('after'), 'entry' => $query->getInt('entry'), 'topic' => $query->getString('behind'),
            'id' => $query->getInt('number'),
        ] : null;
        $item = $named ?? $this->queue->next($account, $source, $entries, $after);
        $counts = 0 === $source && null === $entries ? $all ?? $this->queue->count($account) : $this->queue->count($account, $source, $entries);

        return [
            'source' => $source, 'area' => $area, 'left' => $counts['entries'] + $counts['fields'], 'item' => $item, 'links' => $this->links,
            'written' => $this->history->countSince(gmdate('Y-m-d 00:00:00'), $account), 'taken' => $this->drafts->takenSince($account,
                gmdate('Y-m-d 00:00:00')),
        ] + (null === $item ? ['dossier' => null, 'field' => null, 'alike' => []] : $this->evidence($item));
    }

    /**
     * Something that is looked at again, whether it still waits or not.
     *
     * @return Item|null
     */
    private function named(string $topic, int $id, int $source): ?array
    {
        $waits = $this->queue->one($topic, $id);
        if (null !== $waits) {
            return $waits;
        }
        $entry = FieldTopic::NAME === $topic ? ($this->fields->placed([$id])[$id]->entry ?? 0) : $id;

        return 0 === $entry ? null : ['topic' => $topic, 'id' => $id, 'entry' => $entry, 'source' => $source, 'worth' => \INF, 'why' => [], 'drafted' => false];
    }

    /**
     * @param Item $item
     *
     * @return array<string, mixed>
     */
    private function evidence(array $item): array
    {
        $dossier = $this->dossiers->one($item['entry']);
        $field = null;
        foreach ($dossier->entry->fields ?? [] as $one) {
            $field = FieldTopic::NAME === $item['topic'] && $one->id === $item['id'] ? $one : $field;
        }

        return ['dossier' => $dossier, 'field' => $field, 'alike' => null === $field ? [] : $this->alike($field)];
    }

    /** @return array{shown: list<FieldAt>, all: int} other fields of the same name, those that are described first */
    private function alike(FieldView $field): array
    {
        $ids = [];
        foreach ($this->fields->alike([$field->id]) as $alike) {
            $ids = array_values(array_diff(array_column($alike, 'field'), [$field->id]));
        }
        $shown = \array_slice($ids, 0, self::ALIKE_SHOWN);
        $placed = $this->fields->placed($shown);

        return ['shown' => array_values(array_filter(array_map(static fn (int $id): ?FieldAt => $placed[$id] ?? null, $shown))), 'all' => \count($ids)];
    }
}
