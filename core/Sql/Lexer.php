<?php

declare(strict_types=1);

namespace Fasti\Core\Sql;

use Fasti\Core\Dialect\Grammar;

/**
 * Cuts a statement into its words by the signs of a dialect. Blanks and comments are left out; places stay those of the
 * text. A text, a quoted name or a comment that does not end is one word of kind `u` up to the end.
 */
final class Lexer
{
    public const WORD = 'w';
    public const QUOTED = 'q';
    public const TEXT = 's';
    public const NUMBER = 'n';
    public const PARAMETER = 'v';
    public const SIGN = 'o';
    public const UNCLOSED = 'u';

    /** @var array<string, string> patterns by the signs that make them */
    private static array $patterns = [];

    /** @var list<string> one of the kinds above for each word */
    public array $kinds = [];
    /** @var list<string> each word as it is written */
    public array $texts = [];
    /** @var list<int> where each begins, in bytes */
    public array $offsets = [];
    /** @var list<string> each in capitals; '' for a quoted name or a text, which are never keywords */
    public array $words = [];

    public function __construct(string $text, Grammar $dialect)
    {
        // Blanks and comments are matched too, so that places follow from lengths: keeping each place costs far more memory.
        if (false === preg_match_all(self::pattern($dialect), $text, $found)) {
            throw new SqlFault('The text could not be cut into words ('.preg_last_error_msg().')', 0);
        }
        /** @var list<string> $marks */
        $marks = $found['MARK'] ?? [];
        $at = 0;
        // The same few words come over and over: each is kept once.
        $upper = [];
        foreach ($found[0] as $i => $word) {
            $kind = $marks[$i];
            if ('b' !== $kind) {
                $this->kinds[] = $kind;
                $this->texts[] = $word;
                $this->offsets[] = $at;
                $this->words[] = match (true) {
                    'w' === $kind => $upper[$word] ??= strtoupper($word),
                    'o' === $kind || 'n' === $kind => $word,
                    default => '',
                };
            }
            $at += \strlen($word);
        }
        if ($at < \strlen($text)) {
            throw new SqlFault('The text could not be cut into words', $at);
        }
    }

    private static function pattern(Grammar $dialect): string
    {
        // A grammar may be used with some of its signs set otherwise.
        $key = implode('/', [
            $dialect->engine, $dialect->label, (int) $dialect->signs->doubleQuotedTexts, (int) $dialect->signs->brackets, (int) $dialect->queries->hashedNames,
            (int) $dialect->signs->backticks,
        ]);

        return self::$patterns[$key] ??= "\x01".implode('|', array_filter([
            '\s++(*MARK:b)',
            // By far the most of them: a word that no quote follows, and the signs that stand alone.
            '[A-Za-z][\w\x80-\xff$'.($dialect->queries->hashedNames ? '#' : '').']*+(?![\'"&])(*MARK:w)',
            '[(),;](?!\+\))(*MARK:o)',
            ...self::comments($dialect),
            ...self::texts($dialect),
            ...self::names($dialect),
            $dialect->signs->digitNames
                ? '(?!0[xX][0-9A-Fa-f]++(?![\w$])|0b[01]++(?![\w$])|\d++[eE][+-]?\d)\d++[A-Za-z_$\x80-\xff][\w\x80-\xff$]*+(*MARK:w)'
                : '',
            ...self::numbers($dialect),
            ...self::signs($dialect),
            '.(*MARK:o)',
        ]))."\x01s";
    }

    /** @return list<string> */
    private static function comments(Grammar $dialect): array
    {
        $block = $dialect->signs->nestedComments ? '(?<c>/\*(?:[^*/]++|\*(?!/)|/(?!\*)|(?&c))*+\*/)' : '/\*(?:[^*]++|\*(?!/))*+\*/';

        return $dialect->signs->hashAndVersionComments ? [
            // What stands in a comment for some versions is read; its marks are not.
            '/\*M?!\d*+(*MARK:b)', '\*/(*MARK:b)', '/\*(?:[^*]++|\*(?!/))*+\*/(*MARK:b)', '/\*.*+(*MARK:u)', '#[^\n]*+(*MARK:b)', '--(?=\s|\z)[^\n]*+(*MARK:b)',
        ] : ['--[^\n]*+(*MARK:b)', $block.'(*MARK:b)', '/\*.*+(*MARK:u)'];
    }

    /** @return list<string> */
    private static function texts(Grammar $dialect): array
    {
        $plain = "'(?:[^']++|'')*+'";
        $escaped = "'(?:[^'\\\\]++|\\\\.|'')*+'";
        $own = $dialect->signs->backslashes ? $escaped : $plain;
        $dollar = '\$((?:[A-Za-z_\x80-\xff][\w\x80-\xff]*+)?)\$';

        return array_values(array_filter([
            $dialect->signs->escapeTexts ? "[eE]$escaped(*MARK:s)" : '',
            $dialect->queries->charsetTexts ? "_[A-Za-z]\\w*+\\s*+(?:[xXbBnN]?$own|0x[0-9A-Fa-f]++)(*MARK:s)" : '',
            $dialect->queries->charsetTexts ? '' : "[uU]&$plain(*MARK:s)",
            $dialect->queries->delimitedTexts ? "[nN]?[qQ]'(?:\\[.*?\\]|\\{.*?\\}|\\(.*?\\)|<.*?>|([^\\s\\[{(<]).*?\\g{-1})'(*MARK:s)" : '',
            "[nNxXbB]?$own(*MARK:s)",
            "[A-Za-z]?'.*+(*MARK:u)",
            $dialect->signs->dollarTexts ? $dollar.'.*?\$\g{-1}\$(*MARK:s)|'.$dollar.'.*+(*MARK:u)' : '',
        ]));
    }

    /** @return list<string> */
    private static function names(Grammar $dialect): array
    {
        $quote = $dialect->signs->doubleQuotedTexts ? '"(?:[^"\\\\]++|\\\\.|"")*+"' : '"(?:[^"]++|"")*+"';

        return array_values(array_filter([
            $dialect->queries->charsetTexts ? '' : '[uU]&"(?:[^"]++|"")*+"(*MARK:q)',
            $quote.'(*MARK:q)',
            '".*+(*MARK:u)',
            $dialect->signs->backticks ? '`(?:[^`]++|``)*+`(*MARK:q)|`.*+(*MARK:u)' : '',
            $dialect->signs->brackets ? '\[(?:[^\]]++|\]\])*+\](*MARK:q)' : '',
            '(?:[A-Za-z_\x80-\xff]|#(?=[A-Za-z_]))[\w\x80-\xff$'.($dialect->queries->hashedNames ? '#' : '').']*+(*MARK:w)',
        ]));
    }

    /** @return list<string> */
    private static function numbers(Grammar $dialect): array
    {
        return array_values(array_filter([
            '0[xX][0-9A-Fa-f]++(*MARK:n)',
            $dialect->signs->hashAndVersionComments ? '0b[01]++(*MARK:n)' : '',
            '(?:\d++(?:\.(?!\.)\d*+)?(?:[eE][+-]?\d++)?|\.\d++(?:[eE][+-]?\d++)?)(*MARK:n)',
            $dialect->signs->hashAndVersionComments ? '@@?(?:[\w.$]++|`[^`]*`|\'[^\']*\'|"[^"]*")(*MARK:v)' : '@@?[A-Za-z_][\w$#]*+(*MARK:v)',
            '\$\d++(*MARK:v)',
            $dialect->structure->arrays ? '' : ':[A-Za-z_]\w*+(*MARK:v)|\?\d*+(*MARK:v)',
        ]));
    }

    /** @return list<string> */
    private static function signs(Grammar $dialect): array
    {
        if (!$dialect->queries->ownOperators) {
            return ['(?:::|:=|<=>|<<|>>|->>|->|<=|>=|<>|!=|\^=|!<|!>|==|=>|\|\||&&|\*\*|\.\.|\(\+\))(*MARK:o)'];
        }
        // An operator ends in + or - only where it holds one of the rarer signs; a comment ends it.
        $no = '(?!--|/\*)';

        return [
            '(?:::|:=|\.\.)(*MARK:o)',
            "(?:{$no}[-+*/<>=])*+(?:{$no}[~!@#%^&|`?])(?:{$no}[-+*/<>=~!@#%^&|`?])*+(*MARK:o)",
            "(?:{$no}[-+*/<>=])*{$no}[*/<>=](*MARK:o)",
        ];
    }
}
