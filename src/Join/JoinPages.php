<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\End;
use Fasti\Core\Join\Verbs;
use Fasti\Register\EntryStore;
use Fasti\Register\JoinKind;
use Fasti\Register\Joins;
use Fasti\Register\JoinView;
use Fasti\Register\RegisterCatalog;
use Fasti\Text\SaidStore;

/** What the pages of joins show. */
final readonly class JoinPages
{
    private const PAGE = 100;

    public function __construct(
        private Joins $joins,
        private JoinEvidences $evidences,
        private EntryStore $entries,
        private SaidStore $said,
        private RegisterCatalog $catalogs,
    ) {
    }

    /** @return array<string, mixed> */
    public function list(int $source, string $state, int $page): array
    {
        $all = match (true) {
            'dismissed' === $state => $this->joins->dismissed($source),
            0 === $source => $this->joins->everywhere(),
            default => $this->joins->ofSource($source),
        };
        $wanted = 'dismissed' === $state ? $all : array_values(array_filter($all, static fn (JoinView $join): bool => $state === $join->kind->value));
        usort($wanted, static fn (JoinView $a, JoinView $b): int => 'proposed' === $state
            ? [$b->confidence ?? 0.9, $a->id] <=> [$a->confidence ?? 0.9, $b->id]
            : [$a->fromName, $a->id] <=> [$b->fromName, $b->id]);
        $shown = \array_slice($wanted, self::PAGE * ($page - 1), self::PAGE);
        $ids = array_map(static fn (JoinView $join): int => $join->id, $shown);
        $entries = array_values(array_unique(array_merge(...array_map(static fn (JoinView $join): array => [$join->fromId, $join->toId], $shown) ?: [[]])));

        return [
            'joins' => array_map(self::worded(...), $shown), 'known' => $this->evidences->of($ids), 'placed' => $this->entries->placed($entries),
            'page' => $page, 'total' => \count($wanted), 'more' => \count($wanted) > self::PAGE * $page,
        ];
    }

    /** @return (array{join: JoinView}&array<string, mixed>)|null */
    public function one(int $id): ?array
    {
        $join = $this->joins->one($id);
        if (null === $join) {
            return null;
        }
        $said = $this->said->of('join', [$id], [JoinProperties::PURPOSE, JoinProperties::FROM_END, JoinProperties::TO_END])[$id] ?? [];
        $from = $this->catalogs->entry($join->fromId);
        $to = $this->catalogs->entry($join->toId);
        $pairs = static fn (JoinView $one): array => array_map(static fn (array $pair): string => implode('>', $pair), $one->pairs);
        $between = array_values(array_filter(
            $this->joins->of([$join->fromId])[$join->fromId] ?? [],
            static fn (JoinView $one): bool => $one->id !== $id && $one->otherId() === $join->toId && $pairs($one) !== $pairs($join),
        ));
        $key = $from->primaryKey->columns ?? [];

        return [
            'join' => $join, 'worded' => self::worded($join), 'stated' => self::stated($join, $said), 'said' => $said,
            'known' => $this->evidences->of([$id])[$id] ?? new Known(), 'placed' => $this->entries->placed([$join->fromId, $join->toId]),
            'standing' => $this->joins->standings([$id])[$id] ?? null, 'from' => $from, 'to' => $to, 'between' => $between,
            'identifying' => [] !== $key && [] === array_diff(array_column($join->pairs, 0), $key), 'alone' => array_column($join->pairs, 0) === $key,
            'suggested' => Verbs::of($join->fromName, array_column($join->pairs, 0), $join->toName, $key),
        ];
    }

    /**
     * The rows at each end, as a steward says where one has.
     *
     * @param array<string, string> $said
     */
    public static function stated(JoinView $join, array $said): Cardinality
    {
        return new Cardinality(
            End::tryFrom($said[JoinProperties::FROM_END] ?? '') ?? $join->cardinality->from,
            End::tryFrom($said[JoinProperties::TO_END] ?? '') ?? $join->cardinality->to,
        );
    }

    /** With the verbs that names suggest where nobody has written any. */
    private static function worded(JoinView $join): JoinView
    {
        if ('' !== $join->verb || '' !== $join->verbBack || JoinKind::Proposed !== $join->kind) {
            return $join;
        }

        return $join->withVerbs(...Deciding::verbs($join));
    }
}
