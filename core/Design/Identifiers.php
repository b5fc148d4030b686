<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

use Fasti\Core\Wording\Naming;
use Fasti\Core\Wording\Noun;

/** Makes names of tables, fields and constraints from the names that people use, by the rules of a design. */
final class Identifiers
{
    /** @var array<string, string> what was named before */
    private array $columns = [];

    /**
     * @param array<string, string> $short   word → how it is abbreviated
     * @param int                   $longest in bytes
     */
    public function __construct(private readonly Rules $rules, private readonly int $longest, private readonly array $short = [])
    {
    }

    public function table(string $name): string
    {
        $words = Naming::words($name);
        if ($this->rules->is('number', 'plural') && [] !== $words && !$this->rules->is('style', 'plain')) {
            $last = array_pop($words);
            // A number has no plural.
            $words[] = 1 === preg_match('/\d$/', $last) ? $last : Noun::plural(Noun::singular($last));
        }

        return $this->rules->prefix.$this->fitted($this->styled($name, $words), $this->longest - \strlen($this->rules->prefix));
    }

    public function column(string $name): string
    {
        return $this->columns[$name] ??= $this->fitted($this->styled($name, Naming::words($name)), $this->longest);
    }

    /** @param list<string> $parts names as they are in the database */
    public function constraint(array $parts, string $what): string
    {
        $label = $this->rules->is('style', 'capitals') ? strtoupper($what) : $what;

        // Nobody types such a name: it need not be quoted, whatever it is made of.
        $plain = preg_replace('/[^A-Za-z0-9_]+/', '_', implode('_', $parts)) ?? '';
        $plain = $this->rules->is('style', 'capitals') ? strtoupper($plain) : strtolower($plain);

        return $this->fitted(1 === preg_match('/^[A-Za-z]/', $plain) ? $plain : 'k_'.ltrim($plain, '_'), $this->longest - \strlen($what) - 1).'_'.$label;
    }

    /** A name with a number behind it, since there is one without. */
    public function numbered(string $name, int $number): string
    {
        return $this->fitted($name, $this->longest - \strlen("_$number"))."_$number";
    }

    /** A name as somebody gave it, cut where it is too long. */
    public function whole(string $name): string
    {
        return \strlen($name) <= $this->longest ? $name : (new self(new Rules(), $this->longest))->fitted($name, $this->longest);
    }

    /** @param list<string> $words */
    private function styled(string $name, array $words): string
    {
        if ([] === $words || $this->rules->is('style', 'plain')) {
            return $name;
        }
        if ($this->rules->is('short', 'short')) {
            $words = array_map(fn (string $word): string => $this->short[$word] ?? $this->short[Noun::singular($word)] ?? $word, $words);
        }
        $capital = static fn (string $word): string => mb_strtoupper(mb_substr($word, 0, 1)).mb_substr($word, 1);

        return match ($this->rules->of('style')) {
            'capitals' => mb_strtoupper(implode('_', $words)),
            'camel' => $words[0].implode('', array_map($capital, \array_slice($words, 1))),
            'pascal' => implode('', array_map($capital, $words)),
            default => implode('_', $words),
        };
    }

    /** What is too long is cut, and told apart from what begins alike by four signs of its sum. */
    private function fitted(string $name, int $longest): string
    {
        $longest = max(8, min($longest, $this->rules->longest ?? $longest));

        return \strlen($name) <= $longest ? $name : rtrim(mb_strcut($name, 0, $longest - 5), '_ ').'_'.substr(hash('xxh32', $name), 0, 4);
    }
}
