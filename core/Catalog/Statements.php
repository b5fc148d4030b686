<?php

declare(strict_types=1);

namespace Fasti\Core\Catalog;

/** How many statements of scripts were understood, which a catalog was read from. */
final readonly class Statements
{
    use With;

    /**
     * @param int                $understood carried out
     * @param int                $noted      not understood, so left out
     * @param int                $ofNoMatter say nothing about structure
     * @param list<string>       $left       of those left out: line, what is wrong, and the statement without the values in it
     * @param array<string, int> $passed     first words of those of no matter → how many
     * @param string             $told       the dialect in which it was read and what decided that, in a sentence
     */
    public function __construct(
        public int $understood,
        public int $noted,
        public int $ofNoMatter,
        #[ListOf('string')]
        public array $left = [],
        #[ListOf('int')]
        public array $passed = [],
        public string $told = '',
    ) {
    }

    public function and(self $other): self
    {
        $passed = $this->passed;
        foreach ($other->passed as $word => $count) {
            $passed[$word] = ($passed[$word] ?? 0) + $count;
        }

        return new self(
            $this->understood + $other->understood,
            $this->noted + $other->noted,
            $this->ofNoMatter + $other->ofNoMatter,
            [...$this->left, ...$other->left],
            $passed,
            $this->told === $other->told ? $this->told : trim($this->told.' '.$other->told),
        );
    }

    public function count(): int
    {
        return $this->understood + $this->noted + $this->ofNoMatter;
    }

    /** One figure, in a sentence: `Of 120 statements, 115 were understood, 2 were not and are left out, 3 say nothing about structure.` */
    public function inWords(): string
    {
        $passed = $this->passed;
        arsort($passed);
        $first = \array_slice($passed, 0, 6);
        $list = implode(', ', array_map(static fn (string $word, int $count): string => "$count $word", array_keys($first), $first));
        $of = number_format($this->count());

        return (1 === $this->count() ? 'Of one statement, ' : "Of $of statements, ").number_format($this->understood).' '
            .(1 === $this->understood ? 'was' : 'were').' understood'
            .(0 === $this->noted ? '' : ', '.number_format($this->noted).(1 === $this->noted ? ' was not and is left out' : ' were not and are left out'))
            .(0 === $this->ofNoMatter ? '' : ', '.number_format($this->ofNoMatter)
                .(1 === $this->ofNoMatter ? ' says' : ' say').' nothing about structure'.('' === $list ? '' : " ($list)"))
            .'.';
    }

    /** A report to hand on where something was misread: figures, and what was not understood without the values in it. */
    public function report(string $server): string
    {
        $lines = [$server, $this->inWords(), $this->told, ''];
        if ([] === $this->left) {
            $lines[] = 'Every statement was understood.';
        } else {
            $lines[] = 'Not understood, each with its line. Texts in statements are left out.';
            array_push($lines, ...$this->left);
        }

        return implode("\n", array_filter($lines, static fn (string $line, int $i): bool => '' !== $line || 3 === $i, \ARRAY_FILTER_USE_BOTH))."\n";
    }
}
