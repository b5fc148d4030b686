<?php

declare(strict_types=1);

namespace Fasti\Core\Edition;

/** Names as parts of addresses: the same name always gives the same part, and two names never share one. */
final class Slug
{
    private const MOST = 60;

    /**
     * Small letters, digits, `_` and `-` stay as they are. Any other name gets its readable part and eight hex digits of
     * its hash, since file systems may fold case and web servers may trip over signs.
     */
    public static function of(string $name): string
    {
        if (1 === preg_match('/^[a-z0-9_][a-z0-9_-]*$/', $name)
            && \strlen($name) <= self::MOST
            && !\in_array($name, ['index', 'con', 'prn', 'aux', 'nul', 'diagram'], true)
            && 1 !== preg_match('/-[0-9a-f]{8}$/', $name)) {
            return $name;
        }
        $readable = trim(preg_replace('/[^a-z0-9_]+/', '-', strtolower($name)) ?? '', '-');

        return ltrim(substr($readable, 0, self::MOST).'-', '-').substr(hash('sha256', $name), 0, 8);
    }
}
