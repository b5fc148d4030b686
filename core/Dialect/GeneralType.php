<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Wording\Amount;

/** A type as people say it, of no engine in particular. How it is written in an outline is its inWords(). */
final readonly class GeneralType
{
    public const PLAIN = [
        'long text', 'approximate number', 'yes or no', 'date', 'length of time', 'year', 'UUID', 'JSON document', 'XML document', 'IP address', 'bytes',
        'point on a map', 'line on a map', 'area on a map', 'shape on a map',
    ];
    public const TIMES = ['date and time', 'instant', 'time of day'];
    /** Bits of whole numbers by the word for their size. */
    public const SIZES = ['tiny ' => 8, 'small ' => 16, '' => 32, 'large ' => 64];

    /**
     * @param string       $kind     one of PLAIN and TIMES, or: text, fixed text, whole, number, fixed bytes, one of, any of, native; '' where it is not said
     * @param ?int         $length   characters or bytes; bits of a whole number; digits of a number, before and after the point
     * @param ?string      $from     least and greatest value, as decimals
     * @param ?int         $decimals digits after the point; of times, decimals of the second
     * @param list<string> $members
     * @param string       $native   as an engine writes it, of the kind native
     * @param string       $list     the list of values that it is of
     */
    public function __construct(
        public string $kind,
        public ?int $length = null,
        public ?string $from = null,
        public ?string $to = null,
        public ?int $decimals = null,
        public array $members = [],
        public string $native = '',
        public string $list = '',
    ) {
    }

    public static function native(string $written): self
    {
        return new self('native', native: $written);
    }

    /** A list of values, whose words end where a semicolon stands. */
    public function lists(): bool
    {
        return \in_array($this->kind, ['one of', 'any of'], true) && '' === $this->list;
    }

    /** @param ?\Closure(string): string $quoted how a value is written where it holds signs or words of the language */
    public function inWords(?\Closure $quoted = null): string
    {
        $quoted ??= static fn (string $text): string => $text;
        $of = static fn (?int $length): string => null === $length ? '' : ' up to '.Amount::count($length);

        return match ($this->kind) {
            'text', 'bytes' => $this->kind.$of($this->length),
            'fixed text' => 'text of '.Amount::count((int) $this->length),
            'fixed bytes' => 'bytes of '.Amount::count((int) $this->length),
            'whole' => $this->whole(),
            'number' => $this->number(),
            'one of', 'any of' => '' !== $this->list ? $this->kind.' the '.$quoted($this->list) : $this->kind.' '.implode(
                ', ',
                array_map($quoted, $this->members),
            ),
            'native' => Quotes::around($this->native),
            default => $this->kind.match ($this->decimals) {
                null, 0 => '',
                3 => ' to the millisecond',
                6 => ' to the microsecond',
                default => ' to '.Amount::of($this->decimals, 'decimal'),
            },
        };
    }

    private function whole(): string
    {
        $size = (string) array_search($this->length ?? 32, self::SIZES, true).'whole number';

        return match (true) {
            null !== $this->from && null !== $this->to => 'whole number from '.Amount::decimal($this->from).' to '.Amount::decimal($this->to),
            '0' === $this->from => $size.' of 0 or more',
            null !== $this->from => $size.' from '.Amount::decimal($this->from),
            null !== $this->to => $size.' up to '.Amount::decimal($this->to),
            default => $size,
        };
    }

    private function number(): string
    {
        if (null !== $this->from && null !== $this->to) {
            return 'number from '.Amount::decimal($this->from).' to '.Amount::decimal($this->to)
                .(null === $this->decimals ? '' : ' with '.Amount::of($this->decimals, 'decimal'));
        }
        $words = 'number';
        if (null !== $this->length) {
            $words .= ' of '.Amount::of($this->length, 'digit');
        }
        if (null !== $this->decimals) {
            $words .= ' with '.Amount::of($this->decimals, 'decimal');
        }

        return $words;
    }
}
