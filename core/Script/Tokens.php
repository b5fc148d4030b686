<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Dialect\Grammar;

/** The words of one statement, and a place among them. Keywords match in either case. */
final class Tokens
{
    private const EXPRESSION_ENDS = ['NOT', 'NULL', 'DEFAULT', 'PRIMARY', 'UNIQUE', 'REFERENCES', 'CHECK', 'GENERATED', 'CONSTRAINT', 'COLLATE', 'COMMENT', 'AUTO_INCREMENT', 'AUTOINCREMENT', 'ON', 'STORED', 'VIRTUAL', 'PERSISTENT', 'INVISIBLE', 'DEFERRABLE', 'INITIALLY', 'AS', 'KEY'];

    /** @var list<array{0: string, 1: string, 2: int}> kind (w word, q quoted, s text, n number, o other), text, offset */
    private array $tokens = [];
    /** @var list<string> each word in capitals; '' for a quoted name or a text, which are never keywords */
    private array $words = [];
    public int $at = 0;

    public function __construct(private readonly string $text, private readonly Grammar $dialect)
    {
        $plain = "'(?:[^']++|'')*+'";
        $escaped = "'(?:[^'\\\\]++|\\\\.|'')*+'";
        $string = $dialect->backslashes ? $escaped : ($dialect->escapeTexts ? "[eE]$escaped|$plain" : $plain);
        $bracket = $dialect->brackets ? '|\[[^\]]*+\]' : '';
        $pattern = "~\\s++(*SKIP)(*FAIL)|(?:$string)(*MARK:s)|(?:\"(?:[^\"]++|\"\")*+\"|`(?:[^`]++|``)*+`$bracket)(*MARK:q)|\\$(\\w*)\\$[\\s\\S]*?\\$\\1\\$(*MARK:s)|[A-Za-z_\\x80-\\xff][\\w\\x80-\\xff$]*+(*MARK:w)|(?:\\d++(?:\\.\\d*+)?(?:[eE][+-]?\\d++)?|\\.\\d++)(*MARK:n)|(?:::|<=|>=|<>|!=|\\|\\||.)(*MARK:o)~s";
        preg_match_all($pattern, $text, $found, \PREG_SET_ORDER | \PREG_OFFSET_CAPTURE);
        foreach ($found as $match) {
            /** @var string $kind */
            $kind = $match['MARK'];
            $this->tokens[] = [$kind, $match[0][0], $match[0][1]];
            $this->words[] = 'q' === $kind || 's' === $kind ? '' : strtoupper($match[0][0]);
        }
    }

    public function over(): bool
    {
        return !isset($this->tokens[$this->at]);
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
        if (!$this->take($word)) {
            throw $this->fault(\sprintf('“%s” was expected', $word));
        }
    }

    public function fault(string $what): ScriptFault
    {
        $token = $this->tokens[$this->at] ?? null;

        return new ScriptFault(null === $token ? $what.', but the statement ends there' : \sprintf('%s at “%s”', $what, mb_strimwidth($token[1], 0, 40, '…')), $token[2] ?? \strlen($this->text));
    }

    public function skip(): void
    {
        ++$this->at;
    }

    /** A name, quoted or not. Some dialects fold unquoted ones to small letters. */
    public function name(): string
    {
        $token = $this->tokens[$this->at] ?? throw $this->fault('A name was expected');
        if ('w' === $token[0]) {
            ++$this->at;

            return $this->dialect->foldsNames ? strtolower($token[1]) : $token[1];
        }
        if ('q' === $token[0] || ('s' === $token[0] && $this->dialect->quotedTextsAsNames)) {
            ++$this->at;
            $quote = $token[1][0];

            return '[' === $quote ? substr($token[1], 1, -1) : str_replace($quote.$quote, $quote, substr($token[1], 1, -1));
        }
        throw $this->fault('A name was expected');
    }

    /** @phpstan-impure it is about the present place, which moves */
    public function isName(): bool
    {
        return \in_array($this->tokens[$this->at][0] ?? '', ['w', 'q'], true);
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
        $token = $this->tokens[$this->at] ?? null;
        if (null === $token || ('s' !== $token[0] && !('q' === $token[0] && '"' === $token[1][0] && $this->dialect->doubleQuotedTexts))) {
            return null;
        }
        ++$this->at;
        $raw = $token[1];
        if ('$' === $raw[0]) {
            $width = (int) strpos($raw, '$', 1) + 1;

            return substr($raw, $width, -$width);
        }
        $escaped = 'e' === strtolower($raw[0]);
        $inner = substr($raw, $escaped ? 2 : 1, -1);
        $inner = str_replace("''", "'", $inner);

        return $escaped || $this->dialect->backslashes ? strtr(
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
        $from = $this->tokens[$this->at][2] ?? \strlen($this->text);
        $depth = 1;
        while (!$this->over()) {
            $depth += ['(' => 1, ')' => -1][$this->peek()] ?? 0;
            if (0 === $depth) {
                $inner = substr($this->text, $from, $this->tokens[$this->at][2] - $from);
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
            '(' === $next ? $this->parenthesis() : ++$this->at;
        }

        return $this->from($from);
    }

    /** The text from a place up to the present one. */
    public function from(int $place): string
    {
        if ($place >= $this->at) {
            return '';
        }
        $last = $this->tokens[$this->at - 1];

        return substr($this->text, $this->tokens[$place][2], $last[2] + \strlen($last[1]) - $this->tokens[$place][2]);
    }

    /** The rest of the statement, as it is written. */
    public function rest(): string
    {
        $from = $this->tokens[$this->at][2] ?? \strlen($this->text);
        $this->at = \count($this->tokens);

        return trim(substr($this->text, $from));
    }

    /** Goes on to the comma or parenthesis that ends the present element of a list. */
    public function skipElement(): void
    {
        while (!$this->over() && ',' !== $this->peek() && ')' !== $this->peek()) {
            '(' === $this->peek() ? $this->parenthesis() : ++$this->at;
        }
    }
}
