<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

/** What an engine says when something fails. Its words may hold values of rows: they are looked at here, and neither shown nor kept. */
final readonly class Fault
{
    /**
     * @param string $state SQLSTATE; '' where the engine has none
     * @param int    $code  the engine's own number
     */
    public function __construct(public string $state, public int $code, public string $text)
    {
    }

    public function says(string ...$words): bool
    {
        foreach ($words as $word) {
            if (!str_contains($this->text, $word)) {
                return false;
            }
        }

        return true;
    }

    /** As it may stand in a log: whatever is quoted, counted or follows as detail is cut out. */
    public function masked(): string
    {
        $text = preg_replace('/(?:\n|DETAIL:|CONTEXT:|LINE \d).*$/s', '', $this->text) ?? '';
        $text = preg_replace(['/[\'"“`].*[\'"”`]/su', '/=\s*\(.*\)/su', '/\d{3,}/'], ['“…”', '=(…)', '…'], $text) ?? '';

        return trim(mb_substr(\sprintf('%s %d %s', $this->state, $this->code, $text), 0, 300));
    }

    /**
     * The kind of what failed in a sentence, by the class of its SQLSTATE (ISO/IEC 9075-2, subclause 24.1, with the classes that engines
     * added) or by the number of an engine that has no such classes.
     *
     * @return array{string, string} what happened, and what to do
     */
    public function kind(): array
    {
        $number = '' === $this->state || 'HY000' === $this->state ? (string) $this->code : $this->state;

        return match (true) {
            $this->is('22', 1264, 1265, 1292, 1365, 1366, 1411, 1690, 1105, 1918, 3140, 4038) => [
                "A value could not be computed, or is none of the type that was asked for (error $number).",
                'Which one is not said, since it may be personal. Look for values that do not fit their type.',
            ],
            $this->is('23', 1062, 1048, 1216, 1217, 1451, 1452, 4025, 19) => [
                "Rows break a rule of the table (error $number).",
                'Which ones is not said, since they may be personal. Look for double keys, empty required fields and references to nothing.',
            ],
            $this->is('42', 1, 1054, 1064, 1146, 1305, 1630) => [
                "The engine did not understand the question, or something it names is not there (error $number).",
                'Survey the source again to see what changed.',
            ],
            $this->is('53', 1021, 1037, 1038, 1041, 7, 13) || $this->is('54') => [
                "The engine has not enough room for that question (error $number).",
                'Ask for less at a time, or when it is less busy.',
            ],
            $this->is('40', 1205, 1213, 5, 6) || $this->is('55') => ["Others hold what was asked for (error $number).", 'Try again in a while.'],
            $this->is('25', 1792, 8) => [
                "The session only reads, and that would have changed something (error $number).",
                'Fasti changes nothing in a source.',
            ],
            $this->is('0A') => ["The engine cannot do that (error $number).", ''],
            default => ["The engine answered with an error ($number).", 'The log of the application names it.'],
        };
    }

    private function is(string $class, int ...$codes): bool
    {
        return '' === $this->state || 'HY000' === $this->state ? \in_array($this->code, $codes, true) : str_starts_with($this->state, $class);
    }
}
