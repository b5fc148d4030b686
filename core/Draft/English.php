<?php

declare(strict_types=1);

namespace Fasti\Core\Draft;

/** What English words in names are, for sentences: participles, verbs in the present, what happens by itself. */
final class English
{
    private const PARTICIPLES = ['bought', 'sold', 'lent', 'left', 'sent', 'paid', 'made', 'taken', 'seen', 'begun', 'held', 'born', 'built', 'lost', 'found',
        'done', 'given', 'written', 'drawn', 'driven', 'kept', 'met', 'run', 'told', 'won', 'put', 'cut', 'shown', 'chosen', 'broken', 'known', 'grown',
        'flown', 'gone', 'come', 'become', 'caught', 'taught', 'thought', 'brought', 'felt', 'dealt', 'read', 'heard', 'laid', 'led', 'set', 'shut', 'spent',
        'stolen', 'sown', 'sworn', 'torn', 'understood', 'withdrawn', 'worn', 'wound', 'hidden', 'frozen', 'forgotten', 'fed', 'bred', 'sewn', 'split',
        'spoken', 'struck', 'hired', 'overdrawn', 'rebuilt', 'resold', 'shot', 'swept', 'tied', 'undone'];
    private const NO_PARTICIPLES = ['need', 'seed', 'speed', 'feed', 'bed', 'red', 'shed', 'weed', 'breed', 'deed', 'hundred', 'embed', 'led', 'sled', 'med'];
    /** What people and things do by themselves: "on which the person joined", not "was joined". */
    private const BY_ITSELF = ['joined', 'left', 'started', 'ended', 'began', 'begun', 'arrived', 'departed', 'expired', 'returned', 'died', 'failed',
        'succeeded', 'finished', 'resigned', 'retired', 'enrolled', 'graduated', 'moved', 'occurred', 'happened', 'stopped', 'closed', 'opened', 'appeared',
        'registered', 'married', 'logged', 'responded', 'replied', 'applied', 'agreed', 'accepted'];
    /** Of those, what is done to most things all the same: a person returns, a book is returned. */
    private const TO_THINGS = ['returned', 'closed', 'opened', 'moved', 'accepted', 'agreed', 'registered', 'finished', 'logged',
        'retired', 'stopped'];
    private const PEOPLE = ['person', 'member', 'volunteer', 'customer', 'client', 'employee', 'patient', 'student', 'pupil', 'patron', 'user', 'donor',
        'teacher', 'owner', 'visitor', 'guest', 'worker', 'tenant', 'staff', 'contact', 'author', 'driver', 'player', 'passenger', 'landowner', 'supplier',
        'borrower', 'reporter', 'contractor', 'applicant', 'candidate', 'participant', 'attendee', 'subscriber', 'nurse', 'doctor', 'keeper'];
    private const PRESENT = ['starts', 'ends', 'begins', 'expires', 'opens', 'closes', 'finishes', 'stops', 'arrives', 'departs', 'leaves', 'flows', 'leads',
        'runs', 'belongs', 'points', 'refers', 'applies', 'returns', 'reports', 'goes', 'comes', 'replaces', 'follows', 'precedes', 'needs', 'uses', 'holds'];
    private const DONE = ['allow', 'forbid', 'use', 'show', 'hide', 'enable', 'disable', 'require', 'ignore', 'send', 'include', 'exclude', 'keep', 'carry',
        'accept', 'reject', 'need', 'notify', 'skip', 'prevent', 'permit', 'support', 'contain', 'receive', 'publish', 'deliver', 'purge', 'check',
        'force', 'limit', 'share', 'track', 'apply', 'count', 'print', 'sync', 'lock', 'manage', 'own', 'want', 'expect', 'repeat', 'replace', 'restrict'];
    public const PREPOSITIONS = ['into', 'to', 'from', 'at', 'in', 'on', 'with', 'for', 'of', 'by', 'under', 'over'];
    private const ADVERBS = ['last', 'first', 'next', 'previously', 'originally', 'actually', 'initially', 'finally', 'recently', 'now', 'not', 'never',
        'fully',
        'partly', 'ever', 'already'];
    private const ADJECTIVES = ['active', 'enabled', 'passable', 'valid', 'public', 'private', 'visible', 'hidden', 'open', 'current', 'mandatory', 'optional',
        'required', 'available', 'complete', 'final', 'free', 'new', 'primary', 'internal', 'external', 'taxable', 'billable', 'readonly', 'unique', 'urgent',
        'confidential', 'automatic', 'manual', 'obsolete', 'present', 'absent', 'correct', 'dead', 'alive', 'wild', 'safe', 'ready', 'full', 'empty', 'alone'];

    public static function isParticiple(string $word): bool
    {
        return \in_array($word, self::PARTICIPLES, true)
            || \strlen($word) > 3 && str_ends_with($word, 'ed') && !\in_array($word, self::NO_PARTICIPLES, true);
    }

    /** Whether it is what something does, as it stands in commands and in names: `allow`, `carry`. */
    public static function isDone(string $word): bool
    {
        return \in_array($word, self::DONE, true);
    }

    /** Of one, in the present: "allows", "carries". */
    public static function does(string $word): string
    {
        return match (true) {
            1 === preg_match('/[^aeiou]y$/', $word) => substr($word, 0, -1).'ies',
            1 === preg_match('/(?:s|x|z|ch|sh|o)$/', $word) => $word.'es',
            default => $word.'s',
        };
    }

    public static function isPresent(string $word): bool
    {
        return \in_array($word, self::PRESENT, true);
    }

    public static function isAdverb(string $word): bool
    {
        return \in_array($word, self::ADVERBS, true)
            || 1 === preg_match('/^.{3,}(?<!supp|rep|fami|assemb|subassemb|anoma|monopo|butterf|app|multip|comp|resupp)ly$/', $word);
    }

    public static function isAdjective(string $word): bool
    {
        return self::isParticiple($word) || \in_array($word, self::ADJECTIVES,
            true) || \strlen($word) > 5 && 1 === preg_match('/(?:able|ible|ful|less|ous)$/', $word);
    }

    /** Whether what the noun stands for does it, rather than having it done. */
    public static function doesIt(string $noun, string $participle): bool
    {
        if (!\in_array($participle, self::BY_ITSELF, true)) {
            return false;
        }

        return self::isPerson($noun) || !\in_array($participle, self::TO_THINGS, true);
    }

    public static function isPerson(string $noun): bool
    {
        $words = explode(' ', $noun);

        return \in_array(end($words), self::PEOPLE, true);
    }

    /** A sentence: a capital at its beginning, a full stop at its end. */
    public static function sentence(string $text): string
    {
        $text = trim($text);
        if ('' === $text) {
            return '';
        }

        return mb_strtoupper(mb_substr($text, 0, 1)).mb_substr($text, 1).(1 === preg_match('/[.!?…:]$/u', $text) ? '' : '.');
    }
}
