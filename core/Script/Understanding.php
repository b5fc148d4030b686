<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Statements as Figures;
use Fasti\Core\Sql\SqlFault;

/** How much of a script was understood, statement by statement. */
final class Understanding
{
    private const MOST_NOTES = 50;
    private const MOST_KEPT = 500;

    public int $count = 0;
    /** @var list<array{int, string, string}> line, what is wrong, and the statement, of those that were left out */
    public array $faults = [];
    /** @var list<array{int, string}> line and what was noticed */
    private array $noticed = [];
    public int $left = 0;

    public function __construct(private readonly string $file)
    {
    }

    public function fault(string $text, int $line, SqlFault $fault, bool $whole): void
    {
        ++$this->left;
        if (\count($this->faults) < self::MOST_KEPT) {
            $at = $line + substr_count($text, "\n", 0, min($fault->offset, \strlen($text)));
            $this->faults[] = [$at, $fault->getMessage().($whole ? '' : '. The script breaks off within it'), self::shown($text)];
        }
    }

    public function noticed(int $line, string $what): void
    {
        $this->noticed[] = [$line, $what];
    }

    /** @return list<string> in sentences, each with its line */
    public function notes(): array
    {
        $notes = [];
        foreach (\array_slice($this->faults, 0, self::MOST_NOTES) as [$line, $what, $text]) {
            $notes[] = \sprintf('%s, line %d: %s. This statement was left out: %s', $this->file, $line, $what, mb_strimwidth($text, 0, 90, '…'));
        }
        if ($this->left > self::MOST_NOTES) {
            $notes[] = \sprintf('%d more statements of %s could not be read.', $this->left - self::MOST_NOTES, $this->file);
        }
        foreach (\array_slice($this->noticed, 0, self::MOST_NOTES) as [$line, $what]) {
            $notes[] = \sprintf('%s, line %d: %s.', $this->file, $line, $what);
        }

        return $notes;
    }

    public function figures(Script $script, string $told): Figures
    {
        return new Figures(
            array_sum($script->understood),
            $this->left,
            array_sum($script->skipped),
            array_map(static fn (array $fault): string => \sprintf('%d: %s: %s', ...$fault), $this->faults),
            $script->skipped,
            $told,
        );
    }

    /** A statement on one line, without the values in it: they are nobody's business but the owner's. */
    private static function shown(string $text): string
    {
        return mb_strimwidth(trim((string) preg_replace(["/'(?:[^'\\\\]|''|\\\\.)*'/s", '/\s+/'], ["'…'", ' '], $text)), 0, 400, '…');
    }
}
