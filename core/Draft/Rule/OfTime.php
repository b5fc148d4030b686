<?php

declare(strict_types=1);

namespace Fasti\Core\Draft\Rule;

use Fasti\Core\Draft\Draft;
use Fasti\Core\Draft\English;
use Fasti\Core\Draft\Field;
use Fasti\Core\Draft\Rule;

/** The meaning of a day or an instant, from the deed that its name speaks of. */
final class OfTime implements Rule
{
    public function name(): string
    {
        return 'of-time';
    }

    /** What defaults call the present moment, in any dialect. */
    private const NOW = ['current_timestamp', 'now', 'getdate', 'sysdate', 'strftime', 'datetime', 'transaction_timestamp', 'localtimestamp', 'current_date',
        'getutcdate', 'sysutcdatetime', 'systimestamp', 'utc_timestamp'];
    private const ENDS = ['on', 'at', 'date', 'time', 'day', 'datetime', 'timestamp', 'utc', 'when', 'stamp', 'UTC', 'local'];

    public function of(Field $field): iterable
    {
        if (!$field->isTime() || null !== $field->lead()) {
            return;
        }
        if (null !== $field->column->onUpdate) {
            yield new Draft('meaning', 'When the row was last changed; the database sets it.', 0.95, ['the database sets it when a row changes']);

            return;
        }
        $words = self::told($field->name->words);
        preg_match('/^[\s(]*(\w+)/', mb_strtolower((string) $field->column->default), $m);
        $made = \in_array($m[1] ?? '', self::NOW, true);
        $last = $words[\count($words) - 1] ?? '';
        if (\in_array($last, ['created', 'inserted', 'added', 'entered'], true) || \in_array($words, [['create'], ['creation'], ['insert']], true)
            || $made && [] === $words) {
            $set = $made ? '; the database sets it' : '';
            yield new Draft('meaning', "When the row was made$set.", $made ? 0.93 : 0.8, [$made ? 'the database sets it when a row is made' : 'its name']);

            return;
        }
        if (\in_array($last, ['updated', 'modified', 'changed'], true) && \count($words) <= 2
            || \in_array($words, [['last', 'update'], ['write'], ['update'], ['modification'], ['last', 'change'], ['change']], true)) {
            yield new Draft('meaning', 'When the row was last changed.', 0.85, ['its name']);

            return;
        }
        $day = $field->isDay();
        $text = $this->sentence($words, $field->noun(), $day);
        if (null !== $text) {
            yield new Draft('meaning', English::sentence($text[0]).($field->isSometimesEmpty() ? $text[1] : ''), $text[2],
                [$day ? 'it holds a day' : 'it holds an instant', 'the words of its name']);
        }
    }

    /**
     * A name without the words that only say that it is one of a time.
     *
     * @param list<string> $words
     *
     * @return list<string>
     */
    private static function told(array $words): array
    {
        while ([] !== $words && \in_array($words[\count($words) - 1], self::ENDS, true)) {
            array_pop($words);
        }
        while (\count($words) > 1 && \in_array($words[0], ['date', 'time', 'day', 'when', 'timestamp'], true) && 'of' !== $words[1]) {
            array_shift($words);
        }

        return $words;
    }

    /**
     * @param list<string> $words
     *
     * @return array{string, string, float}|null the sentence, what is said where it may be empty, and how sure it is
     */
    private function sentence(array $words, string $noun, bool $day): ?array
    {
        $on = $day ? 'The day on which' : 'The instant at which';
        $last = $words[\count($words) - 1] ?? '';
        if ([] === $words) {
            return null;
        }
        $end = self::ofEnds($words, $noun, $day);
        if (null !== $end) {
            return $end;
        }
        $phrase = implode(' ', $words);
        if (\in_array($phrase, ['date of birth', 'birth', 'born', 'birth date', 'birthday'], true)) {
            return ["The day on which the $noun was born", ' Empty where it is not known.', 0.92];
        }
        if (English::isParticiple($last)) {
            return $this->deed($words, $noun, $on);
        }
        if (English::isPresent($last) && 1 === \count($words)) {
            return ["$on the $noun $last", ' Empty while that is not known.', 0.85];
        }
        if (\in_array($last, ['due', 'over', 'ready', 'overdue'], true)) {
            return ["$on the ".([] === \array_slice($words, 0, -1) ? $noun : implode(' ', \array_slice($words, 0, -1)))." is $last",
                ' Empty where no day is set.', 0.85];
        }

        // "The day of the invoice" says no more than its name and its type.
        return null;
    }

    /**
     * Where something begins or ends.
     *
     * @param non-empty-list<string> $words
     *
     * @return array{string, string, float}|null
     */
    private static function ofEnds(array $words, string $noun, bool $day): ?array
    {
        $last = $words[\count($words) - 1];
        $phrase = implode(' ', $words);
        $before = implode(' ', \array_slice($words, 0, -1));
        if (\in_array($phrase, ['from', 'start', 'begin', 'since', 'starting', 'beginning', 'start of', 'first'], true)) {
            return [$day ? "The first day of the $noun" : "When the $noun begins", '', 0.82];
        }
        if (\in_array($phrase, ['to', 'end', 'until', 'till', 'thru', 'through', 'ending', 'finish'], true)) {
            return [$day ? "The last day of the $noun" : "When the $noun ends", ' Empty while it has not ended.', 0.82];
        }
        if (\in_array($last, ['from', 'since'], true)) {
            return [($day ? 'The first day on which' : 'From when on')." the $noun is $before", ' Empty where it always was.', 0.8];
        }
        if (\in_array($last, ['until', 'till', 'to', 'through'], true)) {
            return [($day ? 'The last day on which' : 'Until when')." the $noun is $before", ' Empty while no end is set.', 0.8];
        }

        return null;
    }

    /**
     * @param non-empty-list<string> $words that end in a participle
     *
     * @return array{string, string, float}
     */
    private function deed(array $words, string $noun, string $on): array
    {
        $deed = (string) array_pop($words);
        $adverbs = [];
        while ([] !== $words && English::isAdverb($words[\count($words) - 1])) {
            array_unshift($adverbs, (string) array_pop($words));
        }
        $subject = [] === $words || $words === explode(' ', $noun) || ['was'] === $words ? $noun : implode(' ', $words);
        $last = trim((string) strrchr(' '.$noun, ' '));
        if ($subject === $noun && \strlen($last) > 3 && str_starts_with($deed, rtrim($last, 'e'))) {
            // A survey is not surveyed: what is surveyed stands before it, or else it is made.
            $before = trim(substr($noun, 0, -\strlen($last)));
            [$subject, $deed] = '' === $before ? [$noun, 'made'] : [$before, $deed];
        }
        $adverb = [] === $adverbs ? '' : implode(' ', $adverbs).' ';
        $does = English::doesIt($subject, $deed);

        return [
            "$on the $subject ".($does ? '' : 'was ').$adverb.('begun' === $deed && $does ? 'began' : $deed),
            ' Empty while it has not'.($does ? '' : ' been').'.',
            $subject === $noun ? 0.86 : 0.72,
        ];
    }
}
