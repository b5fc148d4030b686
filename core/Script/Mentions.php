<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Quotes;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Lexer;
use Fasti\Core\Sql\Parser;
use Fasti\Core\Sql\SqlFault;
use Fasti\Core\Sql\Tokens;

/** The names that an expression holds, and where. */
final readonly class Mentions
{
    /** @param list<array{string, int, int, string}> $names each with its first byte, its length, and what stands before it and a dot */
    private function __construct(private string $text, private array $names, private Grammar $dialect)
    {
    }

    public static function of(string $text, Grammar $dialect): self
    {
        $names = [];
        try {
            $t = new Tokens($text, $dialect);
        } catch (SqlFault) {
            return new self($text, [], $dialect);
        }
        while (!$t->over()) {
            $kind = $t->kind();
            // A word before a parenthesis is a function, one before a dot says where the next stands.
            if ((Lexer::WORD === $kind || Lexer::QUOTED === $kind) && '(' !== $t->peek(1) && '.' !== $t->peek(1) && '::' !== $t->peek(-1)) {
                $at = $t->offset();
                $length = \strlen($t->written());
                $before = '.' === $t->peek(-1) ? trim($t->written(-2), '"`[]') : '';
                $names[] = [$t->name(), $at, $length, $before];
                continue;
            }
            $t->skip();
        }

        return new self($text, $names, $dialect);
    }

    /** @return list<string> the columns of a table that are among them, in the order of the table */
    public function among(TableBuilder $table): array
    {
        $found = [];
        foreach ($this->names as [$name, , , $before]) {
            $known = $table->columnNamed($name, $this->dialect->queries->anyCase);
            if (null !== $known && ('' === $before || 0 === strcasecmp($before, $table->name))) {
                $found[$known] = true;
            }
        }

        return array_values(array_filter(array_map(strval(...), array_keys($table->columns)), static fn (string $column): bool => isset($found[$column])));
    }

    public function has(string $name): bool
    {
        foreach ($this->names as [$each]) {
            if ($each === $name || ($this->dialect->queries->anyCase && 0 === strcasecmp($each, $name))) {
                return true;
            }
        }

        return false;
    }

    /**
     * The text with one name in place of another.
     *
     * @param list<string> $before  what may stand before it and a dot; '' for nothing
     * @param ?string      $written the new name as it is to stand there
     */
    public function renamed(string $was, string $is, array $before = [''], ?string $written = null): string
    {
        $text = $this->text;
        foreach (array_reverse($this->names) as [$name, $at, $length, $of]) {
            $same = $name === $was || ($this->dialect->queries->anyCase && 0 === strcasecmp($name, $was));
            if ($same && \in_array(strtolower($of), array_map(strtolower(...), $before), true)) {
                $text = substr_replace(
                    $text,
                    null === $written ? self::written($is, $this->dialect) : $this->asBefore($text[$at], $written, $is),
                    $at,
                    $length,
                );
            }
        }

        return $text;
    }

    /** SQLite writes the new name in quotation marks where the old one had some. */
    private function asBefore(string $first, string $written, string $is): string
    {
        return 1 === preg_match('/["\'`\[]/', $first) ? Quotes::around($is) : $written;
    }

    public static function written(string $name, Grammar $dialect): string
    {
        $plain = $dialect->signs->foldsNames ? '/^[a-z_][a-z0-9_]*$/' : '/^[A-Za-z_][A-Za-z0-9_]*$/';
        if ($dialect->structure->storageBefore) {
            return $dialect->quotedName($name);
        }
        if (1 === preg_match($plain, $name) && !isset(Parser::RESERVED[strtoupper($name)])) {
            return $name;
        }

        return $dialect->queries->charsetTexts ? Quotes::around($name, '`') : Quotes::around($name);
    }
}
