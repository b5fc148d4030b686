<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

use Fasti\Core\Model\Companion\Companion;

/** Reads what is asked for beside a measure, as people write it: "share of income within reach", "income 1 year before". */
final readonly class FigureText
{
    private const WORDS = 4;

    public function __construct(private ModelNames $names)
    {
    }

    /** @throws ModelError with what could have been meant */
    public function read(string $text): Figure
    {
        $text = trim((string) preg_replace('/\s+/u', ' ', $text));
        foreach (Companion::known() as $companion) {
            // The name of a measure may hold such words itself, so many of them.
            for ($words = 0; $words <= self::WORDS; ++$words) {
                $measure = '(?<measure>(?:.+? (?:within|along|from) ){'.$words.'}.+?)';
                if (1 === preg_match(str_replace('(?<measure>.+?)', $measure, $companion->pattern()), $text, $m)
                    && null !== $this->names->measure($m['measure'])) {
                    return $this->figure($companion, $m);
                }
            }
        }
        // It says what there is of that name, or nearly.
        $this->names->measureNamed($text);
        throw new \LogicException('A measure is no figure beside one.');
    }

    /** @param array<string> $m */
    private function figure(Companion $companion, array $m): Figure
    {
        $within = array_values(array_filter(array_map(trim(...), explode(',', $m['within'] ?? '')), static fn (string $one): bool => '' !== $one));
        $many = $m['many'] ?? '';
        $along = trim($m['along'] ?? '');

        return new Figure(
            $this->names->measureNamed($m['measure'])->name,
            $companion,
            array_map(fn (string $one): string => $this->names->of($this->names->attribute($one)), $within),
            '' === $along ? '' : $this->names->of($this->names->attribute($along)),
            1 === preg_match('/^\d+$/', $many) ? (int) $many : (int) ('' !== $many),
            Span::tryFrom(mb_strtolower($m['span'] ?? '')),
        );
    }
}
