<?php

declare(strict_types=1);

namespace Fasti\Core\Join;

use Fasti\Core\Wording\Noun;

/** A join said in one direction, in parts so that the verb and the other entry can be set apart. */
final readonly class Sentence
{
    public const VERB = 'refers to';
    public const VERB_BACK = 'is referred to by';

    public function __construct(public string $subject, public string $verb, public string $count, public string $object)
    {
    }

    /** From the row that holds the reference: "A reading" "is recorded at" "exactly one" "station" */
    public static function forth(string $fromName, string $toName, Cardinality $cardinality, string $verb = ''): self
    {
        return self::make($fromName, '' === $verb ? self::VERB : $verb, $cardinality->to, $toName);
    }

    /** From the row that is referred to: "A station" "records" "any number of" "readings" */
    public static function back(string $fromName, string $toName, Cardinality $cardinality, string $verbBack = ''): self
    {
        return self::make($toName, '' === $verbBack ? self::VERB_BACK : $verbBack, $cardinality->from, $fromName);
    }

    public function __toString(): string
    {
        return $this->subject.' '.$this->verb.' '.$this->count.' '.$this->object.'.';
    }

    private static function make(string $subject, string $verb, End $end, string $object): self
    {
        $one = Noun::singular(self::lower($object));

        return new self(
            Noun::withArticle(Noun::singular(self::lower($subject)), true),
            $verb,
            $end->inWords(),
            $end->many() ? Noun::plural($one) : $one,
        );
    }

    /** A name inside a sentence: its first letter small, unless the word is an abbreviation. */
    private static function lower(string $name): string
    {
        return 1 === preg_match('/^\p{Lu}(\p{Ll}|\s|$)/u', $name) ? mb_strtolower(mb_substr($name, 0, 1)).mb_substr($name, 1) : $name;
    }
}
