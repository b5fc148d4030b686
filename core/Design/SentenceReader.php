<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** Sentences of two halves, by which things are joined. */
final class SentenceReader
{
    public function __construct(private readonly OutlineReader $all)
    {
    }

    /**
     * @param list<Piece> $pieces
     *
     * @return array{Piece, Piece|null, list<Piece>}
     */
    public function halves(array $pieces, string $line): array
    {
        $halves = [];
        foreach ($pieces as $piece) {
            $last = \count($halves) - 1;
            if ($last >= 0 && ';' !== $piece->before) {
                $was = $halves[$last];
                $halves[$last] = new Piece(
                    $was->text.', '.$piece->text,
                    [...$was->quotes, ...$piece->quotes],
                    $was->at,
                    $piece->at + $piece->length - $was->at,
                    $was->before,
                );
            } else {
                $halves[] = $piece;
            }
        }
        if (\count($halves) > 2) {
            throw new NotUnderstood('A sentence has two halves, one for each direction, with one semicolon between.', $halves[2]);
        }

        return [$halves[0], $halves[1] ?? null, []];
    }

    public function sentences(): void
    {
        $names = [];
        foreach ($this->all->things as $thing) {
            $names[Names::key($thing->name)] = $thing->name;
        }
        foreach ($this->all->halves as $number => [$forth, $back]) {
            $this->all->line = $this->all->statements[$number]->from;
            $this->all->last = $this->all->statements[$number]->to;
            try {
                $join = $this->all->joins[$number] ?? new DesignJoin('', '', new Count(0, null), '', '', new Count(0, null), line: $this->all->line + 1);
                $a = $this->half($forth, $names);
                $b = null === $back ? null : $this->half($back, $names);
                if (null !== $b && (Names::key($b['subject']) !== Names::key($a['object']) || Names::key($b['object']) !== Names::key($a['subject']))) {
                    throw new NotUnderstood(\sprintf('The second half says it the other way round: from %s to %s.', $a['object'], $a['subject']), $back);
                }
                $this->all->joins[$number] = $join->with(
                    from: $a['subject'], verb: $a['verb'], count: $a['count'], to: $a['object'], verbBack: $b['verb'] ?? '',
                    countBack: $b['count'] ?? new Count(0, null),
                    role: $a['role'] ?: ($b['role'] ?? ''), through: $a['through'] ?: ($b['through'] ?? []), key: $a['key'] ?: ($b['key'] ?? []),
                    line: $this->all->line + 1,
                );
            } catch (NotUnderstood $e) {
                $this->all->fault($e, $this->all->lines[$this->all->line]);
                unset($this->all->joins[$number]);
            }
        }
        ksort($this->all->joins);
    }

    /**
     * @param array<string, string> $names key → thing
     *
     * @return array{subject: string, verb: string, count: Count, object: string, role: string, through: list<string>, key: list<string>}
     */
    private function half(Piece $piece, array $names): array
    {
        $text = preg_replace('/\s*\.$/u', '', $piece->text) ?? $piece->text;
        if (1 !== preg_match(OutlineReader::COUNT, $text, $m)) {
            throw new NotUnderstood(
                'How many? A sentence says it before the second thing: exactly one, at most one, one or more, any number of, or 2 to 4.',
                $piece,
                ['exactly one', 'at most one', 'one or more', 'any number of'],
            );
        }
        $bare = preg_replace('/^(?:an?|each|every|the) /ui', '', $m[1]) ?? $m[1];
        $head = explode(' ', $bare);
        $subject = null;
        for ($n = \count($head); $n > 0; --$n) {
            $said = Piece::put(implode(' ', \array_slice($head, 0, $n)), $piece->quotes);
            if (isset($names[Names::key($said)])) {
                $subject = $names[Names::key($said)];
                break;
            }
        }
        if (null === $subject) {
            throw $this->unknown(Piece::put($head[0], $piece->quotes), $names, $piece);
        }
        $used = substr_count(implode(' ', \array_slice($head, 0, $n)), Piece::MARK);
        $verb = Piece::put(implode(' ', \array_slice($head, $n)), \array_slice($piece->quotes, $used));
        $used = substr_count($m[1], Piece::MARK);
        1 === preg_match('/^(?:other )?(.+?)(?: as (.+?))?(?: through (.+?))?(?: to (.+?))?$/su', $m[3], $tail, \PREG_UNMATCHED_AS_NULL);
        $groups = [];
        foreach ([1, 2, 3, 4] as $g) {
            $groups[$g] = [];
            foreach (match (true) {
                !isset($tail[$g]) => [],
                1 === $g || 2 === $g => [$tail[$g]],
                default => self::split($tail[$g]),
            } as $part) {
                $groups[$g][] = Piece::put($part, \array_slice($piece->quotes, $used));
                $used += substr_count($part, Piece::MARK);
            }
        }
        // "gauge2s": a plural that no dictionary knows.
        $named = $groups[1][0] ?? '';
        $object = $names[Names::key($named)] ?? $names[Names::key(preg_replace('/s$/u', '', $named) ?? '')] ?? throw $this->unknown($named, $names, $piece);

        return [
            'subject' => $subject,
            'verb' => $verb,
            'count' => self::count($m[2]),
            'object' => $object,
            'role' => $groups[2][0] ?? '',
            'through' => $groups[3],
            'key' => $groups[4],
        ];
    }

    /** @return list<string> */
    private static function split(string $list): array
    {
        return array_values(array_filter(array_map(trim(...), preg_split('/,| and /u', $list) ?: []), static fn (string $part): bool => '' !== $part));
    }

    private static function count(string $words): Count
    {
        $number = static fn (string $figure): int => (int) str_replace(',', '', $figure);

        return match (true) {
            'exactly one' === $words => new Count(1, 1),
            'at most one' === $words => new Count(0, 1),
            'one or more' === $words, 'at least one' === $words => new Count(1, null),
            'any number of' === $words => new Count(0, null),
            1 === preg_match('/^exactly ([\d,]+)$/', $words, $m) => new Count($number($m[1]), $number($m[1])),
            1 === preg_match('/^at most ([\d,]+)$/', $words, $m) => new Count(0, $number($m[1])),
            1 === preg_match('/^([\d,]+) or more$|^at least ([\d,]+)$/', $words, $m) => new Count($number($m[2] ?? $m[1]), null),
            1 === preg_match('/^([\d,]+) to ([\d,]+)$/', $words, $m) => new Count(min($number($m[1]), $number($m[2])), max($number($m[1]), $number($m[2]))),
            default => new Count(0, null),
        };
    }

    /** @param array<string, string> $names */
    private function unknown(string $said, array $names, Piece $piece): NotUnderstood
    {
        $near = [];
        foreach ($names as $key => $name) {
            $apart = levenshtein(substr(Names::key($said), 0, 60), substr((string) $key, 0, 60));
            if ($apart <= 2) {
                $near[$name] = $apart;
            }
        }
        asort($near);
        $offers = \array_slice(array_map(strval(...), array_keys($near)), 0, 3);

        return new NotUnderstood(
            \sprintf(
                'No thing is called “%s”.%s',
                $said,
                [] === $offers ? ' Write a line with its name, and below it what is known of it.' : ' Did you mean '.OutlineNames::or($offers).'?',
            ),
            $piece,
            $offers,
        );
    }
}
