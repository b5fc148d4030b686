<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\MemberPath;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Wording\Amount;

/**
 * Finds members whose values name documents of another collection. Each identifier-like member has kept the least hashes
 * of its values (a KMV sketch, Bar-Yossef et al., RANDOM 2002): of equal values both sides keep the same ones, so that the
 * share of one set within the other is estimated from the two sketches alone.
 */
final class References
{
    private const LEAST_VALUES = 5;
    private const LEAST_SHARE = 0.9;

    /**
     * @param list<Collection> $collections
     *
     * @return array<string, list<ForeignKey>> by name of the collection
     */
    public static function among(array $collections): array
    {
        $found = [];
        foreach ($collections as $from) {
            foreach ($from->members as $path => $member) {
                $best = null;
                foreach ($collections as $to) {
                    if ($to === $from) {
                        continue;
                    }
                    foreach ($to->members as $farPath => $far) {
                        $score = self::isKey($to, $far) && \count($member->sketch) >= self::LEAST_VALUES ? self::within($member, $far) : 0.0;
                        $named = self::speaksOf((string) $path, $to->name, (string) $farPath);
                        if ($score >= self::LEAST_SHARE && $named && (null === $best || $score > $best[0])) {
                            $best = [$score, $to, (string) $farPath];
                        }
                    }
                }
                if (null !== $best) {
                    [$score, $to, $farPath] = $best;
                    $found[$from->name][] = new ForeignKey(
                        null,
                        [(string) $path],
                        new Reference($to->schema, $to->name, [$farPath]),
                        reason: \sprintf(
                            '%s %% of its values stand in %s.%s, which is different in every document of %s.',
                            Amount::percent((int) round(1000 * $score), 1000),
                            $to->name,
                            $farPath,
                            $to->name,
                        ),
                    );
                }
            }
        }

        return $found;
    }

    /** A member at the top whose value differs from document to document. */
    private static function isKey(Collection $collection, Member $member): bool
    {
        $documents = $collection->structure->documents;
        if (!$member->sketched || $documents < self::LEAST_VALUES || $member->present < $documents || 1 !== \count(MemberPath::of($member->path)->steps)) {
            return false;
        }

        return self::distinct($member) >= 0.85 * $documents;
    }

    /** The estimate (k − 1) / h, where h is the greatest of the k least hashes as a share of all there are. */
    private static function distinct(Member $member): float
    {
        $k = \count($member->sketch);
        if (\PHP_INT_MAX === $member->limit) {
            return $k;
        }

        return ($k - 1) / (max([1, ...array_keys($member->sketch)]) / 4294967296);
    }

    /** The share of one member's values that the other has, below the hash that both sketches reach. */
    private static function within(Member $member, Member $far): float
    {
        $reach = min($member->limit, $far->limit);
        $own = array_filter(array_keys($member->sketch), static fn (int $hash): bool => $hash <= $reach);

        return [] === $own ? 0.0 : \count(array_filter($own, static fn (int $hash): bool => isset($far->sketch[$hash]))) / \count($own);
    }

    private static function speaksOf(string $path, string $collection, string $farPath): bool
    {
        $fold = static fn (string $text): string => rtrim((string) preg_replace('/[^a-z0-9]/', '', strtolower($text)), 's');
        $name = $fold(MemberPath::of($path)->name());
        // A word that any key may be called by speaks of nothing.
        $stem = (string) preg_replace('/(?:id|code|ref|no|key)$/', '', $name);

        return str_contains($name, $fold($collection))
            || ('' !== $stem && str_contains($fold($collection), $stem) && \strlen($name) > 2)
            || ($name === $fold($farPath) && !\in_array($name, ['id', 'code', 'key', 'no'], true));
    }
}
