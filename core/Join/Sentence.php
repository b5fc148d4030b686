<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Wording\Noun;

/** A join said in one direction, in parts so that the verb and the other entry can be set apart. */
final readonly class Sentence
{
    public const VERB = 'refers to';
    public const VERB_BACK = 'is referred to by';
    public const VERB_ACROSS = 'goes with';

    /** Verbs that say that, and not how: of two joins by one of these only the role tells which. */
    private const PLAIN = ['', self::VERB, self::VERB_BACK, 'is at', 'has', 'belongs to', 'is of', 'is that of'];

    public function __construct(public string $subject, public string $verb, public string $count, public string $object, public string $through = '')
    {
    }

    /**
     * From the row that holds the reference: "A reading" "is recorded at" "exactly one" "station"
     *
     * @param string $role see JoinRole; it is said where there is no verb that says more
     */
    public static function forth(
        string $fromName,
        string $toName,
        Cardinality $cardinality,
        string $verb = '',
        bool $self = false,
        string $role = '',
    ): self {
        return self::make($fromName, '' === $verb ? self::VERB : $verb, $cardinality->to, $toName, $self, \in_array($verb, self::PLAIN, true) ? $role : '');
    }

    /** From the row that is referred to: "A station" "records" "any number of" "readings" */
    public static function back(
        string $fromName,
        string $toName,
        Cardinality $cardinality,
        string $verbBack = '',
        bool $self = false,
        string $role = '',
    ): self {
        $said = \in_array($verbBack, self::PLAIN, true) ? $role : '';

        return self::make($toName, '' === $verbBack ? self::VERB_BACK : $verbBack, $cardinality->from, $fromName, $self, $said);
    }

    /** Over a link table: "A person" "makes" "any number of" "visits", through visit member */
    public static function across(string $subject, string $verb, End $end, string $object, string $link): self
    {
        $said = self::make($subject, '' === $verb ? self::VERB_ACROSS : $verb, $end, $object, $subject === $object);

        return new self($said->subject, $said->verb, $said->count, $said->object, Noun::singular(self::lower($link)));
    }

    public function __toString(): string
    {
        if ('' !== $this->through) {
            return $this->subject.' '.$this->verb.' '.$this->count.' '.$this->object.', through '.$this->through.'.';
        }

        return $this->subject.' '.$this->verb.' '.$this->count.' '.$this->object.'.';
    }

    private static function make(string $subject, string $verb, End $end, string $object, bool $self, string $role = ''): self
    {
        $one = Noun::singular(self::lower($object));

        return new self(
            Noun::withArticle(Noun::singular(self::lower($subject)), true),
            $verb,
            $end->inWords(),
            ($self ? 'other ' : '').($end->many() ? Noun::plural($one) : $one).('' === $role ? '' : ' '.$role),
        );
    }

    /** A name inside a sentence: its first letter small, unless the word is an abbreviation. */
    private static function lower(string $name): string
    {
        return 1 === preg_match('/^\p{Lu}(\p{Ll}|\s|$)/u', $name) ? mb_strtolower(mb_substr($name, 0, 1)).mb_substr($name, 1) : $name;
    }
}
