<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Index;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Catalog\Trigger;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Tokens;

/** Carries out ALTER of what is no table, RENAME TABLE, and COMMENT ON. */
final readonly class Others
{
    private const OF_NO_MATTER = [
        'ROLE', 'USER', 'GROUP', 'SYSTEM', 'DEFAULT', 'PUBLICATION', 'SUBSCRIPTION', 'STATISTICS', 'EVENT', 'SERVER', 'TABLESPACE', 'COLLATION', 'CONVERSION',
        'LANGUAGE', 'OPERATOR', 'TEXT', 'LARGE', 'EXTENSION', 'RULE', 'PROCEDURAL', 'INSTANCE', 'LOGFILE', 'RESOURCE', 'LOGIN', 'SESSION',
        'AUTHORIZATION', 'PROFILE',
        'SYNONYM', 'PACKAGE', 'FOREIGN_DATA',
    ];
    private const COMMENTED = ['DATABASE', 'SCHEMA', 'EXTENSION', 'ROLE', 'LANGUAGE', 'CAST', 'OPERATOR', 'CONSTRAINT', 'SEQUENCE', 'TYPE', 'DOMAIN', 'TRIGGER',
        'POLICY', 'RULE', 'COLLATION', 'CONVERSION', 'STATISTICS', 'SERVER', 'TABLESPACE', 'TEXT', 'TRANSFORM', 'PUBLICATION', 'SUBSCRIPTION',
        'LARGE', 'ACCESS',
        'EVENT', 'PROCEDURAL', 'EDITION', 'INDEXTYPE', 'MINING'];

    public function __construct(private Grammar $dialect, private Schemas $made)
    {
    }

    /** What follows ALTER, where that is not about a table. */
    public function alter(Tokens $t, Programs $programs, Types $types, Creating $creating, Altering $altering): Outcome
    {
        $from = $t->at;
        while ('' !== $t->any('ALGORITHM', 'DEFINER', 'SQL', 'OR', 'REPLACE')) {
            $t->take('SECURITY');
            $t->take('=');
            while (!$t->over() && !\in_array($t->peek(), ['VIEW', 'SQL', 'DEFINER', 'ALGORITHM', 'EVENT', 'FUNCTION', 'PROCEDURE'], true)) {
                $t->skip();
            }
        }
        $t->any('MATERIALIZED');
        $kind = $t->peek();
        $t->skip();

        return match ($kind) {
            'TYPE', 'DOMAIN' => $types->alter($t),
            'VIEW' => $this->view($t, $creating, $altering),
            'INDEX' => $this->index($t, $altering),
            'SEQUENCE' => $this->sequence($t),
            'SCHEMA' => $this->schema($t),
            'DATABASE' => $this->database($t),
            'FUNCTION', 'PROCEDURE', 'ROUTINE', 'AGGREGATE' => $this->routine($t, $programs, $kind),
            'TRIGGER' => $this->trigger($t),
            'POLICY' => $this->policy($t),
            default => \in_array($kind, self::OF_NO_MATTER, true) || ('FOREIGN' === $kind && 'DATA' === $t->peek()) ? Outcome::OfNoMatter
                : throw $this->unknown($t, $from),
        };
    }

    private function unknown(Tokens $t, int $from): \Throwable
    {
        $t->at = $from;

        return $t->fault('What is to be altered is not understood');
    }

    private function view(Tokens $t, Creating $creating, Altering $altering): Outcome
    {
        $if = $t->take('IF', 'EXISTS');
        [$schema, $name] = $t->qualified();
        $view = $this->made->find($schema, $name);
        if (null === $view && ($if || 'OWNER' === $t->peek())) {
            return Outcome::OfNoMatter;
        }
        $view ??= $this->made->known($t, $schema, $name);
        if ('AS' === $t->peek() || '(' === $t->peek() || $this->dialect->queries->charsetTexts) {
            $new = new TableBuilder($view->schema, $view->name, TableType::View);
            $creating->query($t, $new);
            $view->named = $new->named;
            $view->definition = $new->definition;

            return Outcome::Understood;
        }
        if ($t->take('RENAME')) {
            if ($t->take('COLUMN') || 'TO' !== $t->peek()) {
                $was = $t->name();
                $t->expect('TO');
                $is = $t->name();
                if ([] === $view->named) {
                    $view->renamed[$was] = $is;
                } else {
                    $view->named = array_map(static fn (string $each): string => $each === $was ? $is : $each, $view->named);
                }

                return Outcome::Understood;
            }
            $t->expect('TO');
            (new Renaming($this->dialect, $this->made))->table($view, null, $t->name());

            return Outcome::Understood;
        }
        if ($t->take('SET', 'SCHEMA')) {
            (new Renaming($this->dialect, $this->made))->table($view, $t->name(), $view->name);

            return Outcome::Understood;
        }
        if ('' === $t->any('OWNER', 'SET', 'RESET', 'ALTER', 'CLUSTER', 'DEPENDS', 'NO', 'COMPILE')) {
            throw $t->fault('This change of a view is not understood');
        }

        return Outcome::OfNoMatter;
    }

    private function index(Tokens $t, Altering $altering): Outcome
    {
        $if = $t->take('IF', 'EXISTS');
        if ('ALL' === $t->peek()) {
            return Outcome::OfNoMatter;
        }
        $from = $t->at;
        [$schema, $name] = $t->qualified();
        $found = $this->made->index($schema, $name);
        if ($t->take('RENAME', 'TO')) {
            if (null === $found && !$if) {
                // A table or a key may be renamed as an index is.
                $table = $this->made->find($schema, $name);
                $t->at = null === $table ? $from : $t->at;
                if (null === $table) {
                    throw $t->fault(\sprintf('There is no index “%s”', $name));
                }
                (new Renaming($this->dialect, $this->made))->table($table, null, $t->name());

                return Outcome::Understood;
            }
            if (null !== $found) {
                $altering->renameIndex($found[0], $found[1]->name, $t->name());
            }

            return Outcome::Understood;
        }

        return Outcome::OfNoMatter;
    }

    private function sequence(Tokens $t): Outcome
    {
        $t->take('IF', 'EXISTS');
        [$schema, $name] = $t->qualified();

        return $this->sequenceChange($t, $this->made->sequence($schema, $name));
    }

    public function sequenceChange(Tokens $t, string $key): Outcome
    {
        if ($t->take('RENAME', 'TO')) {
            $is = $t->name();
            $this->made->free(...$this->made->sequences[$key]);
            $this->made->sequences[$key][1] = $is;
            $this->made->take(...$this->made->sequences[$key]);

            return Outcome::Understood;
        }
        if ($t->take('SET', 'SCHEMA')) {
            $this->made->sequences[$key][0] = $t->name();

            return Outcome::Understood;
        }
        while (!$t->over()) {
            if ($t->take('OWNED', 'BY')) {
                if (!$t->take('NONE')) {
                    $this->made->owners[$key] = 'owned';
                }

                return Outcome::Understood;
            }
            $t->skip();
        }

        return Outcome::OfNoMatter;
    }

    private function schema(Tokens $t): Outcome
    {
        if ($this->dialect->queries->charsetTexts) {
            return $this->database($t);
        }
        $name = $t->name();
        if ($t->take('RENAME', 'TO')) {
            $this->made->renameSchema($name, $t->name());

            return Outcome::Understood;
        }
        if (!$t->take('OWNER') && !$this->dialect->structure->looseOptions) {
            throw $t->fault('This change of a schema is not understood');
        }

        return Outcome::OfNoMatter;
    }

    private function database(Tokens $t): Outcome
    {
        if (!$this->dialect->queries->charsetTexts) {
            return Outcome::OfNoMatter;
        }
        $options = ['DEFAULT', 'CHARACTER', 'CHARSET', 'COLLATE', 'COMMENT', 'ENCRYPTION', 'READ', 'UPGRADE'];
        $name = \in_array($t->peek(), $options, true) ? $this->made->schema : $t->name();
        if ('UPGRADE' === $t->peek() || 'READ' === $t->peek()) {
            return Outcome::OfNoMatter;
        }
        (new Options($this->dialect, $this->made))->ofSchema($t, $name);

        return Outcome::Understood;
    }

    private function routine(Tokens $t, Programs $programs, string $kind): Outcome
    {
        $from = $t->at;
        [$schema, $name] = $t->qualified();
        $signature = null;
        if ('(' === $t->peek()) {
            $signature = (new RoutineBuilder('', '', '', $programs->parameters($t)))->signature();
        }
        $routine = $programs->found($schema, $name, $signature);
        if (null === $routine && !$this->dialect->queries->charsetTexts && ('' !== $t->any('AS') || $this->dialect->structure->looseOptions)) {
            $t->at = $from;

            return $programs->routine($t, ['ALTER'], $kind);
        }
        if ('OWNER' === $t->peek()) {
            return Outcome::OfNoMatter;
        }
        if (null === $routine) {
            $t->at = $from;
            throw $t->fault(\sprintf('There is no routine “%s”', $name));
        }
        if ($t->take('RENAME', 'TO')) {
            $routine->name = $t->name();
        } elseif ($t->take('SET', 'SCHEMA')) {
            $routine->schema = $t->name();
        } else {
            while (!$t->over()) {
                if ($t->take('COMMENT')) {
                    $routine->comment = $t->text() ?? '';
                } else {
                    if ('(' === $t->peek()) {
                        $t->parenthesis();
                    } else {
                        $t->skip();
                    }
                }
            }
        }

        return Outcome::Understood;
    }

    private function trigger(Tokens $t): Outcome
    {
        $name = $t->qualified()[1];
        if (!$t->take('ON')) {
            return Outcome::OfNoMatter;
        }
        $table = $this->made->next($t);
        if ($t->take('RENAME', 'TO')) {
            $is = $t->name();
            $table->triggers = array_map(
                static fn (Trigger $each): Trigger => $each->name === $name ? new Trigger(
                    $is, $each->timing, $each->event, $each->body, $each->statement,
                ) : $each,
                $table->triggers,
            );

            return Outcome::Understood;
        }

        return Outcome::OfNoMatter;
    }

    private function policy(Tokens $t): Outcome
    {
        $name = $t->name();
        $t->expect('ON');
        $table = $this->made->next($t);
        if ($t->take('RENAME', 'TO')) {
            $is = $t->name();
            $table->policies = array_map(static fn (string $each): string => $each === $name ? $is : $each, $table->policies);
        }

        return Outcome::Understood;
    }

    /** RENAME TABLE a TO b, c TO d: one after the other. */
    public function rename(Tokens $t): Outcome
    {
        if ('' === $t->any('TABLE', 'TABLES')) {
            if ('' !== $t->any('USER')) {
                return Outcome::OfNoMatter;
            }
            if (!$t->isName() || 'TO' !== $t->peek(1)) {
                throw $t->fault('“TABLE” was expected');
            }
        }
        $t->take('IF', 'EXISTS');
        do {
            $table = $this->made->next($t);
            $t->expect('TO');
            [$schema, $name] = $t->qualified();
            (new Renaming($this->dialect, $this->made))->table($table, $schema, $name);
        } while ($t->take(','));

        return Outcome::Understood;
    }

    public function comment(Tokens $t, Programs $programs): Outcome
    {
        $t->any('MATERIALIZED', 'FOREIGN');
        $kind = $t->any('TABLE', 'COLUMN', 'VIEW', 'INDEX', 'FUNCTION', 'PROCEDURE', 'ROUTINE', 'AGGREGATE');
        if ('' === $kind) {
            return \in_array($t->peek(), self::COMMENTED, true) || 'DATA' === $t->peek() ? Outcome::OfNoMatter
                : throw $t->fault('What the comment is on is not understood');
        }
        $from = $t->at;
        $parts = [$t->name()];
        while ($t->take('.')) {
            $parts[] = $t->name();
        }
        $signature = null;
        if ('(' === $t->peek() && \in_array($kind, ['FUNCTION', 'PROCEDURE', 'ROUTINE', 'AGGREGATE'], true)) {
            $signature = (new RoutineBuilder('', '', '', $programs->parameters($t)))->signature();
        }
        $t->expect('IS');
        $text = $t->text();
        if (null === $text && !$t->take('NULL')) {
            throw $t->fault('A text was expected');
        }
        $text ??= '';
        $end = $t->at;
        $t->at = $from;
        $name = (string) array_pop($parts);
        $schema = $parts[\count($parts) - ('COLUMN' === $kind ? 2 : 1)] ?? null;
        if ('COLUMN' === $kind) {
            $this->onColumn($t, $this->made->known($t, $schema, (string) end($parts)), $name, $text);
        } elseif ('INDEX' === $kind) {
            $found = $this->made->index($schema, $name) ?? throw $t->fault(\sprintf('There is no index “%s”', $name));
            $found[0]->indexes = array_map(static fn (Index $index): Index => $index === $found[1]
                ? new Index($index->name, $index->parts, $index->unique, $index->method, $text, $index->where) : $index, $found[0]->indexes);
        } elseif ('TABLE' === $kind || 'VIEW' === $kind) {
            $this->made->known($t, $schema, $name)->comment = $text;
        } else {
            $routine = $programs->found($schema, $name, $signature) ?? throw $t->fault(\sprintf('There is no routine “%s”', $name));
            $routine->comment = $text;
        }
        $t->at = $end;

        return Outcome::Understood;
    }

    private function onColumn(Tokens $t, TableBuilder $table, string $name, string $text): void
    {
        if ($table->kind->isView()) {
            $table->said[$name] = $text;

            return;
        }
        $known = $table->columnNamed($name, $this->dialect->queries->anyCase);
        if (null === $known) {
            throw $t->fault(\sprintf('The table “%s” has no column “%s”', $table->name, $name));
        }
        $table->columns[$known]->comment = $text;
    }
}
