<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Sql\Parser;
use Fasti\Core\Sql\SqlFault;
use Fasti\Core\Sql\Tokens;
use Fasti\Core\Sql\Tree\Node;
use Fasti\Core\Sql\Tree\Ref;

/** The names that an expression holds, for those who rename what they name. */
final class FormulaNames
{
    /**
     * The expression with other names in it, everything else as it stands.
     *
     * @param callable(?string, string): ?array{?string, string} $renamed role (null where none is said) and field → both anew; null where they stay
     */
    public static function replaced(string $text, callable $renamed): string
    {
        $refs = self::refs($text);
        usort($refs, static fn (Ref $a, Ref $b): int => $b->at <=> $a->at);
        foreach ($refs as $ref) {
            $names = $ref->names;
            $field = array_pop($names);
            $role = [] === $names ? null : implode('.', $names);
            $new = $renamed($role, $field);
            if (null !== $new) {
                $written = (null === $new[0] ? '' : FieldOffers::written($new[0]).'.').FieldOffers::written($new[1]);
                $text = substr($text, 0, $ref->at).$written.substr($text, $ref->end);
            }
        }

        return $text;
    }

    /** @return list<string> names of measures that an expression over measures holds, each once */
    public static function measures(string $text): array
    {
        return array_values(array_unique(array_map(static fn (Ref $ref): string => implode('.', $ref->names), self::refs($text))));
    }

    /** @return list<Ref> none where it is not understood */
    private static function refs(string $text): array
    {
        try {
            $t = new Tokens($text, FormulaReader::grammar());

            return $t->over() ? [] : self::within((new Parser($t))->expressions->expression());
        } catch (SqlFault) {
            return [];
        }
    }

    /** @return list<Ref> */
    private static function within(mixed $node): array
    {
        if ($node instanceof Ref) {
            return [$node];
        }
        $found = [];
        foreach (match (true) {
            $node instanceof Node => get_object_vars($node),
            \is_array($node) => $node,
            default => [],
        } as $part) {
            $found = [...$found, ...self::within($part)];
        }

        return $found;
    }
}
