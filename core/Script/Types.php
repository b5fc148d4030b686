<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\CheckConstraint;
use Fasti\Core\Catalog\TableType;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\Tokens;

/** Reads types of one's own: enumerations, domains, composite types and ranges. */
final readonly class Types
{
    public function __construct(private Grammar $dialect, private Schemas $made, private Definitions $definitions)
    {
    }

    public function type(Tokens $t): Outcome
    {
        [$schema, $name] = $this->made->place($t);
        $key = $schema."\0".$name;
        if (!$t->take('AS') && !$t->take('FROM')) {
            $this->made->types[$key] = new OwnType($schema, $name);
            $this->skipBody($t);

            return Outcome::Understood;
        }
        if ($t->take('ENUM')) {
            $members = [];
            $t->expect('(');
            while (null !== ($member = $t->text())) {
                $members[] = $member;
                $t->take(',');
            }
            $t->expect(')');
            $this->made->types[$key] = new OwnType($schema, $name);
            $this->made->types[$key]->members = $members;

            return Outcome::Understood;
        }
        if ('(' === $t->peek()) {
            $shell = new TableBuilder($schema, $name, TableType::Table);
            $this->definitions->elements($t, $shell);
            $this->made->types[$key] = new OwnType($schema, $name);
            $this->made->types[$key]->columns = array_values($shell->columns);

            return Outcome::Understood;
        }
        if ('RANGE' !== $t->peek() && $this->dialect->structure->storageBefore) {
            throw $t->fault('“ENUM”, “RANGE” or a list of members was expected');
        }
        if ('RANGE' !== $t->peek() && $t->isName()) {
            // A type that stands for another, as some engines have them.
            $type = $this->made->types[$key] = new OwnType($schema, $name);
            $type->base = $this->definitions->types->typeText($t);
            $type->required = $t->take('NOT', 'NULL');
            $this->skipBody($t);

            return Outcome::Understood;
        }
        $this->made->types[$key] = new OwnType($schema, $name);
        $this->skipBody($t);

        return Outcome::Understood;
    }

    private function skipBody(Tokens $t): void
    {
        while (!$t->over()) {
            if ('(' === $t->peek()) {
                $t->parenthesis();
            } else {
                $t->skip();
            }
        }
    }

    public function domain(Tokens $t): Outcome
    {
        [$schema, $name] = $this->made->place($t);
        $t->take('AS');
        $column = new ColumnBuilder($name);
        $this->definitions->types->typed($t, $column);
        $key = $schema."\0".$name;
        $base = null === $column->ownType ? $column->type : "\x02".$column->ownType;
        $domain = $this->made->types[$key] = new OwnType($schema, $name);
        $domain->base = $base;
        while (!$t->over()) {
            $label = $t->take('CONSTRAINT') ? $t->name() : null;
            if ($t->take('CHECK')) {
                $this->check($domain, $label, $t->parenthesis());
            } elseif ($t->take('DEFAULT')) {
                $this->definitions->columns->setDefault($t, $column);
            } elseif ($t->take('NOT', 'NULL')) {
                $domain->required = true;
            } elseif ($t->take('COLLATE')) {
                $t->qualified();
            } elseif (!$t->take('NULL') && !$t->take('NOT', 'VALID')) {
                throw $t->fault('This part of the domain is not understood');
            }
        }

        return Outcome::Understood;
    }

    private function check(OwnType $domain, ?string $label, string $expression): void
    {
        $label ??= $this->made->named($domain->schema, $domain->name, '', 'check');
        $this->made->take($domain->schema, $label);
        $domain->checks[] = new CheckConstraint($label, $expression);
    }

    /** CREATE TABLE … OF a composite type. */
    public function ofType(Tokens $t, TableBuilder $table): void
    {
        $from = $t->at;
        $t->qualified();
        $key = $this->made->typeKey($t->from($from));
        $columns = null === $key ? [] : $this->made->types[$key]->columns;
        if ([] === $columns) {
            $t->at = $from;
            throw $t->fault('The type that the table is of is not known');
        }
        foreach ($columns as $column) {
            $table->columns[$column->name] = clone $column;
        }
    }

    /** ALTER TYPE and ALTER DOMAIN. */
    public function alter(Tokens $t): Outcome
    {
        $from = $t->at;
        $t->qualified();
        $written = $t->from($from);
        $key = $this->made->typeKey($written);
        if (null === $key) {
            if ($t->take('OWNER')) {
                return Outcome::OfNoMatter;
            }
            $t->at = $from;
            throw $t->fault('This type is not known: no statement before this one makes it');
        }
        $type = $this->made->types[$key];
        if ($this->named($t, $type)) {
            return Outcome::Understood;
        }

        return match (true) {
            null !== $type->members => $this->enumeration($t, $type, $type->members),
            null !== $type->base => $this->alterDomain($t, $type),
            default => $this->composite($t),
        };
    }

    private function named(Tokens $t, OwnType $type): bool
    {
        if ($t->take('RENAME', 'TO')) {
            $type->name = $t->name();
        } elseif ($t->take('SET', 'SCHEMA')) {
            $type->schema = $t->name();
        } elseif ($t->take('OWNER', 'TO')) {
            $t->skip();
        } else {
            return false;
        }

        return true;
    }

    /** @param list<string> $members */
    private function enumeration(Tokens $t, OwnType $type, array $members): Outcome
    {
        if ($t->take('ADD', 'VALUE')) {
            $unless = $t->take('IF', 'NOT', 'EXISTS');
            $value = $t->text() ?? throw $t->fault('A text was expected');
            $side = $t->any('BEFORE', 'AFTER');
            $beside = '' === $side ? '' : (string) $t->text();
            if (\in_array($value, $members, true)) {
                return $unless ? Outcome::Understood : throw $t->fault(\sprintf('The type has a value “%s” already', $value));
            }
            $at = '' === $side ? \count($members) : array_search($beside, $members, true);
            if (false === $at) {
                throw $t->fault(\sprintf('The type has no value “%s”', $beside));
            }
            array_splice($members, 'AFTER' === $side ? $at + 1 : $at, 0, [$value]);
        } elseif ($t->take('RENAME', 'VALUE')) {
            $was = $t->text();
            $t->expect('TO');
            $is = $t->text() ?? '';
            if (!\in_array($was, $members, true)) {
                throw $t->fault(\sprintf('The type has no value “%s”', (string) $was));
            }
            $members = array_map(static fn (string $member): string => $member === $was ? $is : $member, $members);
        } else {
            throw $t->fault('This change of a type is not understood');
        }
        $type->members = array_values($members);

        return Outcome::Understood;
    }

    private function alterDomain(Tokens $t, OwnType $domain): Outcome
    {
        if ($t->take('SET', 'NOT', 'NULL')) {
            $domain->required = true;
        } elseif ($t->take('DROP', 'NOT', 'NULL')) {
            $domain->required = false;
        } elseif ($t->take('SET', 'DEFAULT')) {
            $t->rest();
        } elseif ($t->take('ADD')) {
            $label = $t->take('CONSTRAINT') ? $t->name() : null;
            $t->expect('CHECK');
            $this->check($domain, $label, $t->parenthesis());
            $t->take('NOT', 'VALID');
        } elseif ($t->take('DROP', 'CONSTRAINT')) {
            $t->take('IF', 'EXISTS');
            $name = $t->name();
            $domain->checks = array_values(array_filter($domain->checks, static fn (CheckConstraint $check): bool => $check->name !== $name));
            $this->made->free($domain->schema, $name);
        } elseif ($t->take('RENAME', 'CONSTRAINT')) {
            $was = $t->name();
            $t->expect('TO');
            $is = $t->name();
            $domain->checks = array_map(
                static fn (CheckConstraint $check): CheckConstraint => $check->name === $was ? new CheckConstraint($is, $check->expression) : $check,
                $domain->checks,
            );
        } elseif (!$t->take('DROP', 'DEFAULT') && !$t->take('VALIDATE', 'CONSTRAINT')) {
            throw $t->fault('This change of a domain is not understood');
        }

        return Outcome::Understood;
    }

    private function composite(Tokens $t): Outcome
    {
        // What its members are shows nowhere but in tables of it.
        $t->any('ADD', 'DROP', 'ALTER', 'RENAME', 'SET') ?: throw $t->fault('This change of a type is not understood');
        $t->rest();

        return Outcome::Understood;
    }

    /** DROP TYPE and DROP DOMAIN; with CASCADE, columns of it go too. */
    public function drop(Tokens $t): Outcome
    {
        $if = $t->take('IF', 'EXISTS');
        $keys = [];
        do {
            $from = $t->at;
            $t->qualified();
            $key = $this->made->typeKey($t->from($from));
            if (null === $key && !$if) {
                $t->at = $from;
                throw $t->fault('This type is not known: no statement before this one makes it');
            }
            $keys[] = (string) $key;
        } while ($t->take(','));
        $cascade = $t->take('CASCADE');
        foreach ($keys as $key) {
            unset($this->made->types[$key]);
            foreach ($cascade ? $this->made->all() : [] as $table) {
                foreach ($table->columns as $column) {
                    if (null !== $column->ownType && rtrim($column->ownType, '[]') === $key) {
                        (new Dropping($this->dialect, $this->made))->column($table, $column->name);
                    }
                }
            }
        }

        return Outcome::Understood;
    }
}
