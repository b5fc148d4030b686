<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/** The parts of a type as it is written: `decimal(6,2) unsigned`, `timestamp(3) with time zone`, `enum('a','b')`, `text[]`. */
final readonly class TypeText
{
    /**
     * @param string $name    in small letters, what stands around the parenthesis: `timestamp with time zone`
     * @param string $options what stands in the parenthesis, as written
     */
    private function __construct(public string $name, public string $options, public bool $array, public bool $unsigned)
    {
    }

    public static function of(string $written): self
    {
        $array = str_ends_with($written, '[]');
        $bare = $array ? substr($written, 0, -2) : $written;
        $options = '';
        if (1 === preg_match('/^([^(]*)\((.*)\)([^)]*)$/s', $bare, $m)) {
            $bare = $m[1].' '.$m[3];
            $options = $m[2];
        }
        $words = preg_split('/\s+/', strtolower(trim($bare)), -1, \PREG_SPLIT_NO_EMPTY);
        $words = false === $words ? [] : $words;
        $name = implode(' ', array_diff($words, ['unsigned', 'signed', 'zerofill']));

        return new self($name, trim($options), $array, [] !== array_intersect(['unsigned', 'zerofill'], $words));
    }

    /** A type in letters and blanks that say nothing of it: `DECIMAL (6, 2)` is `decimal(6,2)`; what is quoted stays. */
    public static function folded(string $written): string
    {
        $parts = preg_split("/('(?:[^']|'')*'|\"(?:[^\"]|\"\")*\")/", trim($written), -1, \PREG_SPLIT_DELIM_CAPTURE) ?: [];
        foreach ($parts as $i => $part) {
            if (0 === $i % 2) {
                $parts[$i] = (string) preg_replace(['/\s+/', '/ ?([(),]) ?/'], [' ', '$1'], strtolower($part));
            }
        }

        return implode('', $parts);
    }

    public function first(): ?int
    {
        return 1 === preg_match('/^\s*(\d+)/', $this->options, $m) ? (int) $m[1] : null;
    }

    public function second(): ?int
    {
        return 1 === preg_match('/^\s*\d+\s*,\s*(\d+)/', $this->options, $m) ? (int) $m[1] : null;
    }

    /** @return list<string> the texts in the parenthesis, unquoted */
    public function members(): array
    {
        preg_match_all("/'((?:[^'\\\\]|''|\\\\.)*)'/s", $this->options, $found);

        return array_map(static fn (string $member): string => stripcslashes(str_replace("''", "'", $member)), $found[1]);
    }
}
