<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Dialect\Grammar;

/** The words of one statement, and a place among them. Keywords match in either case. */
final class Tokens
{
    private const EXPRESSION_ENDS = [
        'NOT', 'NULL', 'DEFAULT', 'PRIMARY', 'UNIQUE', 'REFERENCES', 'CHECK', 'GENERATED', 'CONSTRAINT', 'COLLATE', 'COMMENT', 'AUTO_INCREMENT',
        'AUTOINCREMENT', 'ON', 'STORED', 'VIRTUAL', 'PERSISTENT', 'INVISIBLE', 'DEFERRABLE', 'INITIALLY', 'AS', 'KEY',
    ];

    /** @var list<string> kinds of the words; see Lexer */
    public readonly array $kinds;
    /** @var list<string> */
    public readonly array $texts;
    /** @var list<int> */
    public readonly array $offsets;
    /** @var list<string> each word in capitals; '' for a quoted name or a text, which are never keywords */
    public readonly array $words;
    private readonly int $length;
    public int $at = 0;

    public function __construct(public readonly string $text, public readonly Grammar $dialect)
    {
        $lexer = new Lexer($text, $dialect);
        $this->kinds = $lexer->kinds;
        $this->texts = $lexer->texts;
        $this->offsets = $lexer->offsets;
        $this->words = $lexer->words;
        $this->length = \count($lexer->kinds);
    }

    public function over(): bool
    {
        return $this->at >= $this->length;
    }

    /**
     * The next word or sign in capitals; a quoted name or a text gives '' and is never taken for a keyword.
     *
     * @phpstan-impure it is about the present place, which moves
     */
    public function peek(int $ahead = 0): string
    {
        return $this->words[$this->at + $ahead] ?? '';
    }

    /** Takes the words if, and only if, they come next in this order. */
    public function take(string ...$words): bool
    {
        if (($this->words[$this->at] ?? '') !== $words[0]) {
            return false;
        }
        $at = $this->at;
        foreach ($words as $word) {
            if (($this->words[$at++] ?? '') !== $word) {
                return false;
            }
        }
        $this->at = $at;

        return true;
    }

    /** Takes the next word if it is one of these; '' otherwise. */
    public function any(string ...$words): string
    {
        $next = $this->peek();
        if (!\in_array($next, $words, true)) {
            return '';
        }
        ++$this->at;

        return $next;
    }

    public function expect(string $word): void
    {
        if (($this->words[$this->at] ?? '') !== $word) {
            throw $this->fault(\sprintf('“%s” was expected', $word));
        }
        ++$this->at;
    }

    public function fault(string $what): SqlFault
    {
        if ($this->at >= $this->length) {
            return new SqlFault($what.', but the statement ends there', \strlen($this->text));
        }
        if (Lexer::UNCLOSED === $this->kinds[$this->at]) {
            $what = match (true) {
                str_starts_with($this->texts[$this->at], '/*') => 'A comment begins that does not end',
                1 === preg_match('/^["`]/', $this->texts[$this->at]) => 'A quoted name begins that does not end',
                default => 'A text begins that does not end',
            };
        }

        return new SqlFault(\sprintf('%s at “%s”', $what, mb_strimwidth($this->texts[$this->at], 0, 40, '…')), $this->offsets[$this->at]);
    }

    public function skip(): void
    {
        ++$this->at;
    }

    /** The kind of the next word, '' at the end; see Lexer. */
    public function kind(int $ahead = 0): string
    {
        return $this->kinds[$this->at + $ahead] ?? '';
    }

    /** The next word as it is written. */
    public function written(int $ahead = 0): string
    {
        return $this->texts[$this->at + $ahead] ?? '';
    }

    /** Where the next word begins. */
    public function offset(int $ahead = 0): int
    {
        return $this->offsets[$this->at + $ahead] ?? \strlen($this->text);
    }

    /** Where the last word that was taken ends. */
    public function ended(): int
    {
        return ($this->offsets[$this->at - 1] ?? 0) + \strlen($this->texts[$this->at - 1] ?? '');
    }

    /**
     * @template N of Tree\Node
     *
     * @param N $node
     *
     * @return N with its place: from there to the last word that was taken
     */
    public function placed(Tree\Node $node, int $from): Tree\Node
    {
        $last = $this->at - 1;
        $node->at = $from;
        $node->end = ($this->offsets[$last] ?? 0) + \strlen($this->texts[$last] ?? '');

        return $node;
    }

    /** A name, quoted or not. Some dialects fold unquoted ones to small letters. */
    public function name(): string
    {
        $kind = $this->kinds[$this->at] ?? throw $this->fault('A name was expected');
        $text = $this->texts[$this->at];
        if (Lexer::WORD === $kind) {
            ++$this->at;

            return $this->cut($this->dialect->signs->foldsNames ? strtolower($text) : $text);
        }
        if (Lexer::QUOTED === $kind || (Lexer::TEXT === $kind && $this->dialect->signs->quotedTextsAsNames)) {
            ++$this->at;

            return $this->cut(self::unquoted($text));
        }
        throw $this->fault('A name was expected');
    }

    /** Some engines keep so many bytes of a name and forget the rest. */
    private function cut(string $name): string
    {
        $most = $this->dialect->signs->longestName;

        return 0 === $most || \strlen($name) <= $most ? $name : mb_strcut($name, 0, $most);
    }

    /** The name that comes next, which is left; '' where there is none. */
    public function peekName(): string
    {
        $from = $this->at;
        try {
            return $this->name();
        } catch (SqlFault) {
            return '';
        } finally {
            $this->at = $from;
        }
    }

    private static function unquoted(string $text): string
    {
        $quote = $text[0];
        if ('[' === $quote) {
            return str_replace(']]', ']', substr($text, 1, -1));
        }
        if ('u' === $quote || 'U' === $quote) {
            return self::coded(str_replace('""', '"', substr($text, 3, -1)));
        }

        return str_replace($quote.$quote, $quote, substr($text, 1, -1));
    }

    /** A text in which letters may stand as their numbers. */
    private static function coded(string $text): string
    {
        return (string) preg_replace_callback(
            '/\\\\(?:\\+([0-9A-Fa-f]{6})|([0-9A-Fa-f]{4})|(\\\\))/',
            static fn (array $m): string => isset($m[3]) ? '\\' : (string) mb_chr((int) hexdec('' !== $m[1] ? $m[1] : $m[2])),
            $text,
        );
    }

    /** @phpstan-impure it is about the present place, which moves */
    public function isName(): bool
    {
        $kind = $this->kinds[$this->at] ?? '';

        return Lexer::WORD === $kind || Lexer::QUOTED === $kind;
    }

    /** @return array{?string, string} schema (null: not said) and name; a database before the schema is left out */
    public function qualified(): array
    {
        $parts = [$this->name()];
        while ($this->take('.')) {
            $parts[] = $this->name();
        }

        return [$parts[\count($parts) - 2] ?? null, $parts[\count($parts) - 1]];
    }

    /** A text literal without its quotes, or null when something else stands there (which is then left). */
    public function text(): ?string
    {
        $kind = $this->kinds[$this->at] ?? '';
        $raw = $this->texts[$this->at] ?? '';
        if (Lexer::TEXT !== $kind && !(Lexer::QUOTED === $kind && '"' === $raw[0] && $this->dialect->signs->doubleQuotedTexts)) {
            return null;
        }
        ++$this->at;
        if ('$' === $raw[0]) {
            $width = (int) strpos($raw, '$', 1) + 1;

            return substr($raw, $width, -$width);
        }
        $quote = '"' === $raw[0] ? '"' : "'";
        $begins = (int) strpos($raw, $quote) + 1;
        $inner = str_replace($quote.$quote, $quote, substr($raw, $begins, -1));
        if (1 === preg_match('/^u&/i', $raw)) {
            return self::coded($inner);
        }

        return 'e' === strtolower($raw[0]) || $this->dialect->signs->backslashes ? strtr(
            $inner,
            ["\\'" => "'", '\\"' => '"', '\\\\' => '\\', '\\n' => "\n", '\\r' => "\r", '\\t' => "\t", '\\0' => "\0", '\\Z' => "\x1a"],
        ) : $inner;
    }

    /** @return list<string> names in parentheses, with what index parts may carry skipped */
    public function names(): array
    {
        $this->expect('(');
        $names = [];
        do {
            $names[] = $this->name();
            if ('(' === $this->peek()) {
                $this->parenthesis();
            }
            while ('' !== $this->any('ASC', 'DESC') || ($this->take('COLLATE') && '' !== $this->name())) {
                continue;
            }
        } while ($this->take(','));
        $this->expect(')');

        return $names;
    }

    /** What stands within the parenthesis that comes next, as it is written. */
    public function parenthesis(): string
    {
        $this->expect('(');
        $from = $this->offset();
        $depth = 1;
        while (!$this->over()) {
            $depth += ['(' => 1, ')' => -1][$this->peek()] ?? 0;
            if (0 === $depth) {
                $inner = substr($this->text, $from, $this->offsets[$this->at] - $from);
                ++$this->at;

                return trim($inner);
            }
            ++$this->at;
        }
        throw $this->fault('A closing parenthesis was expected');
    }

    /** An expression without parentheses around it, such as a default, up to where it must end. */
    public function expression(): string
    {
        $from = $this->at;
        while (!$this->over()) {
            $next = $this->peek();
            if (',' === $next || ')' === $next || ($this->at > $from && \in_array($next, self::EXPRESSION_ENDS, true))) {
                break;
            }
            if ('(' === $next) {
                $this->parenthesis();
            } else {
                ++$this->at;
            }
        }

        return $this->from($from);
    }

    /** The text from a place up to the present one. */
    public function from(int $place): string
    {
        if ($place >= $this->at) {
            return '';
        }

        return substr($this->text, $this->offsets[$place], $this->ended() - $this->offsets[$place]);
    }

    /** The rest of the statement, as it is written. */
    public function rest(): string
    {
        $from = $this->offset();
        $this->at = $this->length;

        return trim(substr($this->text, $from));
    }

    /** Goes on to the comma or parenthesis that ends the present element of a list. */
    public function skipElement(): void
    {
        while (!$this->over() && ',' !== $this->peek() && ')' !== $this->peek()) {
            if ('(' === $this->peek()) {
                $this->parenthesis();
            } else {
                ++$this->at;
            }
        }
    }
}
