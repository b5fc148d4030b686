<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Lexer;
use Fasti\Core\Sql\Tokens;

/** Types of columns, as they are written and as the engine says them. */
final readonly class TypeDefinitions
{
    private const TYPE_ENDS = [
        ',', ')', '', 'NOT', 'NULL', 'DEFAULT', 'PRIMARY', 'UNIQUE', 'REFERENCES', 'CHECK', 'GENERATED', 'CONSTRAINT', 'COLLATE', 'AS', 'ON', 'COMMENT',
        'AUTO_INCREMENT', 'AUTOINCREMENT', 'IDENTITY', 'USING', 'KEY', 'STORAGE', 'COMPRESSION', 'CHARACTER', 'CHARSET', 'FIRST', 'AFTER',
    ];
    private const TYPE_WORDS = ['PRECISION', 'VARYING', 'UNSIGNED', 'SIGNED', 'ZEROFILL', 'LARGE', 'OBJECT', 'BYTE'];

    public function __construct(private Grammar $dialect, private Schemas $made)
    {
    }

    /**
     * @return array{string, string} its first words, and what stands behind its options
     */
    public function typed(Tokens $t, ColumnBuilder $column): array
    {
        [$base, $options, $after] = $this->type($t);
        $own = '' === $base ? null : $this->made->typeKey($base);
        $array = 1 === preg_match('/\[|\barray\b/i', $after);
        $column->ownType = null === $own ? null : $own.($array ? '[]' : '');
        $column->type = $this->dialect->type($base, $options, $after);

        return [$base, $after];
    }

    /** A type as the engine's catalog writes it. */
    public function typeText(Tokens $t): string
    {
        return $this->dialect->type(...$this->type($t));
    }

    /** @return array{string, string, string} its words, its options, and the words behind them */
    public function type(Tokens $t): array
    {
        if (Lexer::TEXT === $t->kind() && $this->dialect->signs->quotedTextsAsNames) {
            $from = $t->at;
            $t->name();

            return [$t->from($from), '(' === $t->peek() ? $t->parenthesis() : '', ''];
        }
        if (!$t->isName() || ('' !== $t->peek() && \in_array($t->peek(), self::TYPE_ENDS, true) && 'CHARACTER' !== $t->peek())) {
            return ['', '', ''];
        }
        $from = $t->at;
        $first = $t->peek();
        $t->name();
        while ($t->take('.')) {
            $t->name();
        }
        $more = match ($first) {
            'DOUBLE' => ['PRECISION'],
            'NATIONAL' => ['CHARACTER', 'CHAR', 'VARCHAR', 'VARYING', 'LARGE', 'OBJECT'],
            'CHARACTER', 'CHAR', 'BIT', 'NCHAR' => ['VARYING', 'LARGE', 'OBJECT', 'VARCHAR'],
            'LONG' => ['VARCHAR', 'VARBINARY', 'RAW', 'CHAR', 'BYTE'],
            'BINARY' => ['VARYING', 'LARGE', 'OBJECT'],
            default => [],
        };
        while (\in_array($t->peek(), $more, true) || ($this->dialect->structure->wordyTypes && $t->isName() && !$this->endsType($t->peek()))) {
            $t->skip();
        }
        $base = (string) preg_replace('/\s+/', ' ', $t->from($from));
        $after = '';
        if ('INTERVAL' === $first && 1 === preg_match('/^(?:YEAR|MONTH|DAY|HOUR|MINUTE|SECOND)$/', $t->peek())) {
            $from = $t->at;
            $t->skip();
            if ($t->take('TO')) {
                $t->skip();
            }
            $base .= ' '.strtolower($t->from($from));
        }
        $options = '(' === $t->peek() ? $t->parenthesis() : '';
        $from = $t->at;
        while (\in_array($t->peek(), self::TYPE_WORDS, true) || !\in_array($t->peek(), self::TYPE_ENDS, true)) {
            if (\in_array($t->peek(), self::TYPE_WORDS, true)) {
                $t->skip();
            } elseif ('[' === $t->peek()) {
                while (!$t->over() && !$t->take(']')) {
                    $t->skip();
                }
            } elseif (!$t->take('WITH', 'TIME', 'ZONE') && !$t->take('WITHOUT', 'TIME', 'ZONE') && !$t->take('WITH', 'LOCAL', 'TIME', 'ZONE')
                && !($this->dialect->structure->arrays && $t->take('ARRAY'))) {
                break;
            }
        }

        return [$base, $options, trim($after.' '.$t->from($from))];
    }

    private function endsType(string $word): bool
    {
        return \in_array(
            $word,
            ['', 'NOT', 'NULL', 'DEFAULT', 'PRIMARY', 'UNIQUE', 'REFERENCES', 'CHECK', 'GENERATED', 'CONSTRAINT', 'COLLATE', 'AS', 'ON'],
            true,
        );
    }
}
