<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Wording\Naming;
use Fasti\Core\Wording\Noun;

/** The words of identifiers, and what some of them say about references. */
final class NameWords
{
    /** Endings of fields that hold a key, from the sure ones to those that others share. */
    private const SURE = [
        'id',
        'ids',
        'key',
        'fk',
        'ref',
        'sk',
        'uuid',
        'guid',
        'oid',
        'pk',
        'rid',
        'sid',
        'uid',
        'ident',
        'identifier',
        'fid',
        'xid',
        'refs',
        'keys',
    ];
    private const OTHERS = ['code', 'cd', 'no', 'nr', 'num', 'number', 'codes', 'nos', 'nbr', 'cod', 'abbr', 'symbol', 'name', 'iso', 'slug'];
    /** Words before the thing referred to: `fk_customer`, `id_customer`. */
    private const BEFORE = ['fk', 'id', 'ref', 'cod', 'key', 'no', 'code'];
    /** What a name ends in when it is about a part of something else: of who or where. */
    private const PEOPLE = ['user', 'person', 'people', 'employee', 'staff', 'account', 'member', 'contact', 'party', 'worker', 'operator', 'agent',
        'profile', 'auth',
        'individual', 'colleague', 'volunteer', 'principal', 'login', 'usr', 'emp', 'personnel', 'steward', 'actor', 'authid', 'teacher', 'clerk',
        'officer', 'keeper'];
    private const DOERS = ['owner', 'author', 'creator', 'editor', 'assignee', 'approver', 'reviewer', 'manager', 'sender', 'recipient', 'reporter',
        'modifier', 'updater',
        'supervisor', 'leader', 'head', 'driver', 'inspector', 'buyer', 'seller', 'requester', 'requestor', 'responsible', 'signatory', 'lead', 'boss',
        'moderator',
        'writer', 'publisher', 'mentor', 'coach', 'tutor', 'grantor', 'grantee', 'borrower', 'lender', 'deputy', 'assistant', 'chair', 'captain', 'keeper',
        'curator',
        'reader', 'observer', 'recorder', 'checker', 'examiner', 'handler', 'invitee', 'inviter', 'referee', 'advisor', 'adviser', 'assigned', 'contact',
        'dba', 'doer', 'chief', 'planner', 'installer', 'holder', 'guardian', 'patron', 'nurse', 'doctor', 'surgeon', 'warden'];
    private const THINGS = ['number', 'order', 'letter', 'water', 'river', 'weather', 'meter', 'center', 'color', 'sensor', 'register', 'folder', 'header',
        'footer',
        'counter', 'filter', 'parameter', 'quarter', 'layer', 'buffer', 'server', 'offer', 'transfer', 'error', 'factor', 'sector', 'floor', 'door',
        'monitor', 'motor',
        'identifier', 'other', 'power', 'paper', 'container', 'chapter', 'indicator', 'operator', 'vector', 'master', 'cluster', 'poster', 'printer',
        'router', 'router',
        'handler', 'validator', 'barrier', 'carrier', 'tier', 'pier', 'frontier', 'trigger', 'divisor', 'successor', 'predecessor', 'separator', 'prior',
        'winter', 'summer', 'list', 'meridian', 'median', 'integer', 'corner', 'border'];
    /** Words that schemas use for one another. */
    private const SYNONYMS = [
        ['site', 'station', 'location', 'place', 'spot'], ['customer', 'client', 'buyer', 'consumer'], ['employee', 'staff', 'worker', 'colleague'],
        [
            'product',
            'item',
            'article',
            'good',
            'sku',
        ], ['vendor', 'supplier'], ['user', 'account', 'login'], ['country', 'nation', 'nationality'], ['person', 'people', 'individual'],
        ['invoice', 'bill'], ['department', 'division'], ['category', 'group', 'class', 'type', 'kind'], ['vehicle', 'car'], ['picture', 'image', 'photo'], [
            'company',
            'organisation',
            'organization',
            'firm',
            'business',
        ],
        ['document', 'file', 'attachment'], ['city', 'town'], ['language', 'lang', 'locale'], ['job', 'task'], ['parent', 'mother', 'father'], [
            'store',
            'shop',
            'branch',
            'outlet',
        ], ['teacher', 'instructor'],
        ['pupil', 'student', 'learner'], ['doctor', 'physician'], ['message', 'post', 'mail'], ['tag', 'label', 'keyword'], ['comment', 'remark', 'note'], [
            'device',
            'machine',
            'equipment',
        ], ['flat', 'apartment'], ['film', 'movie'],
        ['team', 'crew', 'squad'], [
            'state',
            'province',
            'region',
        ], ['payment', 'transaction'], ['course', 'class'], ['room', 'chamber'], ['unit', 'measure', 'uom'], ['currency', 'money'],
    ];
    /** Of people alone: who leads somebody is one of them. */
    private const SELF_OF_PEOPLE = ['manager', 'supervisor', 'boss', 'leader', 'mentor', 'superior', 'chief', 'spouse', 'partner'];
    private const SELF = ['parent', 'super', 'prev', 'previous', 'next', 'predecessor', 'successor', 'original', 'replaces', 'replaced', 'superseded',
        'root', 'duplicate',
        'duplicated', 'merged', 'reports', 'report', 'ancestor', 'upper', 'broader', 'base', 'copy', 'copied', 'reply', 'into', 'follows', 'mother',
        'father', 'dam', 'sire', 'higher', 'par', 'up', 'reversal', 'reversed', 'amends', 'sub', 'master', 'sibling', 'prerequisite', 'alias', 'clone',
        'cloned', 'obsolete', 'template', 'descendant', 'reverse', 'inherit',
        'inherits', 'origin', 'replacement', 'above', 'below', 'dependency'];
    private const SELF_DEEDS = ['blocked', 'replaced', 'superseded', 'obsoleted', 'obsolete', 'followed', 'preceded', 'caused', 'merged', 'succeeded',
        'derived'];
    /** Names that many tables have and that lead nowhere by themselves. */
    private const PLAIN = ['id', 'oid', 'rowid', 'pk', 'nr', 'name', 'type', 'status', 'state', 'kind', 'code', 'title', 'description', 'comment',
        'comments', 'note', 'notes', 'remark', 'remarks', 'value', 'version', 'revision',
        'active', 'enabled', 'deleted', 'flag', 'date', 'time', 'year', 'month', 'day', 'created', 'updated', 'modified', 'changed', 'position', 'rank',
        'sort', 'order', 'priority', 'level', 'amount',
        'quantity', 'qty', 'price', 'total', 'count', 'number', 'no', 'num', 'line', 'lineno', 'key', 'label', 'text', 'email', 'phone', 'url', 'path',
        'hash', 'size', 'length', 'width', 'height',
        'weight', 'color', 'colour', 'lang', 'language', 'currency', 'country', 'unit', 'uuid', 'guid', 'score', 'rate', 'rating', 'seq', 'sequence',
        'category', 'class', 'mode', 'source', 'reason',
        'severity', 'short_name', 'first_name', 'last_name', 'created_at', 'updated_at', 'deleted_at', 'created_on', 'updated_on', 'modified_at',
        'changed_at', 'modified_on', 'date_created', 'last_update', 'last_updated', 'sort_order', 'is_active', 'is_deleted', 'valid_from', 'valid_to',
        'start_date', 'end_date'];

    private const FLAGS = ['is', 'has', 'can', 'was', 'are', 'allow', 'allows', 'enable', 'enables', 'always', 'never', 'show', 'hide', 'use', 'uses',
        'needs',
        'should', 'must', 'may', 'will', 'did', 'does', 'multiple'];
    private const AMOUNTS = ['max', 'min', 'num', 'count', 'counts', 'total', 'sum', 'avg', 'nb', 'amount', 'quantity', 'qty', 'maximum', 'minimum', 'limit',
        'percent', 'pct', 'rate', 'ratio', 'price', 'cost', 'size', 'length', 'width', 'height', 'weight', 'depth', 'days', 'hours', 'minutes', 'seconds',
        'duration', 'timeout', 'date', 'time', 'since', 'until', 'at', 'version', 'score', 'level', 'balance', 'counter'];

    /** @var array<string, list<string>> */
    private static array $words = [];
    /** @var array<string, string> */
    private static array $singular = [];
    /** @var list<string> */
    private static array $endings = [];
    /** @var array<string, list<string>> */
    private static array $synonyms = [];

    /** @return list<string> in small letters; digits stand by themselves */
    public static function of(string $name): array
    {
        if (\count(self::$words) > 200000) {
            self::$words = [];
        }

        return self::$words[$name] ??= Naming::words(trim($name, "[]{}* \t"));
    }

    /**
     * @param list<string> $words
     *
     * @return list<string> the last word, and any other that is plural, as one
     */
    public static function singular(array $words): array
    {
        return array_map(static fn (string $word): string => self::$singular[$word] ??= self::one($word), $words);
    }

    private static function one(string $word): string
    {
        return \strlen($word) > 3 && !str_ends_with($word, 'ss') ? Noun::singular($word) : $word;
    }

    public static function isKeyEnding(string $word): bool
    {
        return \in_array($word, self::SURE, true) || \in_array($word, self::OTHERS, true);
    }

    public static function isSureEnding(string $word): bool
    {
        return \in_array($word, self::SURE, true);
    }

    /**
     * The words before the ending of a key, which may be run together with the last of them.
     *
     * @param list<string> $words
     *
     * @return list<string>
     */
    public static function head(array $words): array
    {
        while ([] !== $words && (self::isKeyEnding($words[\count($words) - 1]) || ctype_digit($words[\count($words) - 1]))) {
            array_pop($words);
        }
        if (1 === \count($words) && !self::isSelf($words) && !self::isDoer($words)) {
            foreach (['ident', 'code', 'key', 'oid', 'ref', 'id', 'no', 'nr'] as $ending) {
                $rest = str_ends_with($words[0], $ending) ? substr($words[0], 0, -\strlen($ending)) : '';
                if (\strlen($rest) >= 4 && (self::isSelf([$rest]) || self::isDoer([$rest]))) {
                    return [$rest];
                }
            }
        }

        return $words;
    }

    /** What a name ends in where that is like a key's name; '' where it is not. */
    public static function ending(string $name): string
    {
        $words = self::of($name);
        while (\count($words) > 1 && ctype_digit($words[\count($words) - 1])) {
            array_pop($words);
        }
        $last = $words[\count($words) - 1] ?? '';

        return self::isKeyEnding($last) ? $last : '';
    }

    public static function isBefore(string $word): bool
    {
        return \in_array($word, self::BEFORE, true);
    }

    /** @return list<string> endings that may be run together with the word before, the longest first */
    public static function endings(): array
    {
        if ([] === self::$endings) {
            self::$endings = [...self::SURE, ...self::OTHERS];
            usort(self::$endings, static fn (string $a, string $b): int => \strlen($b) <=> \strlen($a) ?: strcmp($a, $b));
        }

        return self::$endings;
    }

    /** @return list<string> other words for the same */
    public static function synonyms(string $word): array
    {
        if ([] === self::$synonyms) {
            foreach (self::SYNONYMS as $group) {
                foreach ($group as $one) {
                    self::$synonyms[$one] = [...self::$synonyms[$one] ?? [], ...array_values(array_diff($group, [$one]))];
                }
            }
        }

        return self::$synonyms[$word] ?? [];
    }

    public static function isPerson(string $word): bool
    {
        return \in_array($word, self::PEOPLE, true);
    }

    /** Whether it names nobody but people, whatever fields they have. */
    public static function isPeople(string $word): bool
    {
        return \in_array($word, ['user', 'person', 'people', 'employee', 'staff', 'worker', 'usr', 'emp', 'teacher', 'clerk'], true);
    }

    /** Whether it names somebody by the right to come in, or so much money. */
    public static function isAccount(string $word): bool
    {
        return \in_array($word, ['account', 'profile', 'auth', 'login', 'principal'], true);
    }

    /** Whether a name is a word by itself, and what it names has its number or its code: `currency`. */
    public static function isThing(string $name): bool
    {
        return \in_array(strtolower($name), ['currency', 'country', 'language', 'lang', 'unit', 'color', 'colour'], true);
    }

    /** Whether it names those who work with the database itself. */
    public static function isUser(string $word): bool
    {
        return \in_array($word, ['user', 'usr', 'account', 'login', 'auth', 'authid', 'employee', 'staff', 'emp'], true);
    }

    /** @param list<string> $words whether they name somebody who did something: `created_by`, `owner` */
    public static function isDoer(array $words): bool
    {
        $last = $words[\count($words) - 1] ?? '';

        return 'by' === $last && \count($words) > 1 || \in_array($last, self::DOERS, true) || \in_array('by', $words, true)
            || self::isPerson($last) || 1 === preg_match('/.{2}(?:ed|en|ne|de|wn|ld|ht|id|ad)by$/', $last)
            || \strlen($last) >= 5 && 1 === preg_match('/(?:[^aeo]er|or|yee|ist|ian)$/', $last) && !\in_array($last, self::THINGS, true);
    }

    /**
     * Whether they name another row of the same kind, `parent` or `reports_to`, and nothing besides.
     *
     * @param list<string> $words
     * @param list<string> $own    the words of the table's own name
     * @param bool         $people the table holds people
     */
    public static function isSelf(array $words, array $own = [], bool $people = true): bool
    {
        $self = $people ? [...self::SELF, ...self::SELF_OF_PEOPLE] : self::SELF;
        // What blocks or replaces a thing is a thing of its kind.
        if (\in_array('by', $words, true) && [] !== array_intersect($words, self::SELF_DEEDS)) {
            return true;
        }
        $rest = array_diff($words, $self, ['to', 'of', 'into', 'by', 'in', 'the', 'from', 'on'], $own);

        // `flows_into`, `reports_to`: the deed says it by itself.
        $deed = \in_array($words[\count($words) - 1] ?? '', ['into', 'to'], true);

        return [] !== array_intersect($words, $self) && ([] === $rest || $deed);
    }

    /** Whether what follows is true or not: `is_open`, `has_children`. */
    public static function isFlag(string $word): bool
    {
        return \in_array($word, self::FLAGS, true);
    }

    /** Whether it says how many or how much: `max_items`, `visit_count`. */
    public static function isAmount(string $word): bool
    {
        return \in_array($word, self::AMOUNTS, true);
    }

    public static function isPlain(string $name): bool
    {
        $words = self::of($name);

        return \in_array(implode('_', $words), self::PLAIN, true) || 1 === \count($words) && \in_array($words[0], self::PLAIN, true);
    }

    /** Whether one word may stand for a longer one: `stn` for station, `dept` for department, `cust` for customer. */
    public static function isShort(string $short, string $long): bool
    {
        $n = \strlen($short);
        $m = \strlen($long);
        if ($n < 2 || $n >= $m || $short[0] !== $long[0]) {
            return false;
        }
        if (str_starts_with($long, $short)) {
            return $n >= 3 || $m <= 6;
        }
        if (1 === preg_match('/[aeiou]/', substr($short, 1)) && $n < 4) {
            return false;
        }
        for ($i = 0, $at = 0; $i < $n; ++$i, ++$at) {
            $at = strpos($long, $short[$i], $at);
            if (false === $at) {
                return false;
            }
        }

        return true;
    }

    /** Whether one is short for the other as people shorten: its beginning, or its ends with letters of the middle left out (`stn` for station). */
    public static function isUsualShort(string $one, string $other): bool
    {
        [$short, $long] = \strlen($one) < \strlen($other) ? [$one, $other] : [$other, $one];

        return str_starts_with($long, $short) || substr($short, -1) === substr($long, -1);
    }
}
