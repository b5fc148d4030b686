<?php

declare(strict_types=1);

namespace Fasti\CodeList;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Core\Value\Allowed;
use Fasti\Core\Value\AllowedError;
use Fasti\Core\Value\Lists;
use Fasti\Support\Batch;
use Fasti\Support\Row;
use Fasti\Text\BadText;
use Fasti\Text\SaidStore;

/** Code lists, those that stewards made and those that ship with the application; and which fields use them. */
final readonly class CodeLists
{
    public const MOST_CODES = 50000;
    private const LONGEST_CODE = 190;
    /** In what is allowed in a field. */
    private const SPOKEN_OF = '/(?:^|;)\s*(?:the )?code list\s+([^;]+)/iu';

    public function __construct(private Connection $db, private SaidStore $said)
    {
    }

    public function count(): int
    {
        return Row::int(['n' => $this->db->fetchOne('SELECT COUNT(*) FROM code_list')], 'n');
    }

    /**
     * Those that stewards made.
     *
     * @return list<ListedCodes>
     */
    public function all(): array
    {
        $rows = $this->db->fetchAllAssociative(
            "SELECT l.id, l.name, l.meaning, COUNT(c.id) AS codes, COALESCE(SUM(c.label = '' AND c.meaning = ''), 0) AS unsaid
             FROM code_list l LEFT JOIN code c ON c.list_id = l.id AND NOT c.removed GROUP BY l.id, l.name, l.meaning ORDER BY l.name",
        );

        return array_map(static fn (array $row): ListedCodes => new ListedCodes(
            Row::int($row, 'id'), Row::text($row, 'name'), Row::text($row, 'meaning'), Row::int($row, 'codes'), Row::int($row, 'unsaid'),
        ), $rows);
    }

    /** @return array{id: int, name: string, meaning: string}|null */
    public function one(int $id): ?array
    {
        $row = $this->db->fetchAssociative('SELECT id, name, meaning FROM code_list WHERE id = ?', [$id]);

        return false === $row ? null : ['id' => Row::int($row, 'id'), 'name' => Row::text($row, 'name'), 'meaning' => Row::text($row, 'meaning')];
    }

    public function named(string $name): ?int
    {
        return Row::maybeInt(['id' => $this->db->fetchOne('SELECT id FROM code_list WHERE name = ?', [trim($name)]) ?: null], 'id');
    }

    /** @return list<string>|null codes that are valid in a list, its own or one that ships; null where there is none of that name */
    public function codesOf(string $name): ?array
    {
        $id = $this->named($name);
        if (null !== $id) {
            return self::texts($this->db->fetchFirstColumn('SELECT code FROM code WHERE list_id = ? AND NOT removed ORDER BY position, id', [$id]));
        }
        $standard = Lists::named($name);

        return null === $standard ? null : array_map(strval(...), array_keys($standard->codes));
    }

    /** @return array<string, list<string>> name → codes, of lists with no more than so many */
    public function codesOfAll(int $most): array
    {
        $all = [];
        foreach (Lists::all() as $list) {
            if (\count($list->codes) <= $most) {
                $all[$list->name] = array_map(strval(...), array_keys($list->codes));
            }
        }
        $few = $this->db->fetchFirstColumn('SELECT list_id FROM code WHERE NOT removed GROUP BY list_id HAVING COUNT(*) <= ?', [$most]);
        $rows = [] === $few ? [] : $this->db->iterateAssociative(
            'SELECT l.name, c.code FROM code c JOIN code_list l ON l.id = c.list_id WHERE l.id IN (?) AND NOT c.removed ORDER BY l.id, c.position, c.id',
            [$few],
            [ArrayParameterType::INTEGER],
        );
        foreach ($rows as $row) {
            $all[Row::text($row, 'name')][] = Row::text($row, 'code');
        }

        return $all;
    }

    /**
     * What is allowed in fields, ready to be checked. What a field says that does not hold together any more is left out, and said.
     *
     * @param list<int> $fields
     *
     * @return array{array<int, Allowed>, array<int, string>} by field; and why one could not be understood
     */
    public function allowed(array $fields): array
    {
        $allowed = $why = [];
        $known = [];
        $codes = function (string $name) use (&$known): ?array {
            return $known[mb_strtolower($name)] ??= $this->codesOf($name);
        };
        foreach ($this->said->of('field', $fields, ['allowed']) as $field => $said) {
            try {
                $allowed[$field] = Allowed::parse($said['allowed'], $codes);
            } catch (AllowedError $e) {
                $why[$field] = $e->getMessage();
            }
        }

        return [$allowed, $why];
    }

    /**
     * @param list<int> $fields
     *
     * @return array<int, string> name of the list that a field speaks of first, by field
     */
    public function ofFields(array $fields): array
    {
        $names = [];
        foreach ($this->said->of('field', $fields, ['allowed']) as $field => $said) {
            if (1 === preg_match(self::SPOKEN_OF, $said['allowed'] ?? '', $m)) {
                $names[$field] = trim($m[1], " \t\"“”");
            }
        }

        return $names;
    }

    /** @return array<string, list<int>> name of a list in small letters → fields that use it */
    public function uses(): array
    {
        $uses = [];
        foreach ($this->said->all('field', 'allowed') as $field => $text) {
            foreach (self::listsIn($text) as $name) {
                $uses[$name][] = $field;
            }
        }

        return $uses;
    }

    /**
     * Codes of a list, a page of them.
     *
     * @param 'all'|'unsaid'|'replaced' $which
     *
     * @return list<SaidCode>
     */
    public function codes(int $list, int $most, int $from = 0, string $which = 'all'): array
    {
        $only = match ($which) {
            'unsaid' => "AND label = '' AND meaning = ''",
            'replaced' => "AND (replaced_by <> '' OR valid_to <> '')",
            default => '',
        };
        $rows = $this->db->fetchAllAssociative(
            "SELECT * FROM code WHERE list_id = ? AND NOT removed $only ORDER BY position, id LIMIT $most OFFSET $from",
            [$list],
        );

        return array_map(static fn (array $row): SaidCode => new SaidCode(
            Row::int($row, 'id'), Row::text($row, 'code'), Row::text($row, 'label'), Row::text($row, 'meaning'), Row::int($row, 'position'),
            Row::text($row, 'valid_from'), Row::text($row, 'valid_to'), Row::text($row, 'replaced_by'),
        ), $rows);
    }

    /** @return array<array-key, string> code → label or meaning, of the lists that fields show beside their values */
    public function labels(string $name, int $most): array
    {
        $id = $this->named($name);
        if (null === $id) {
            return \array_slice(Lists::named($name)->codes ?? [], 0, $most, true);
        }
        $labels = [];
        foreach ($this->codes($id, $most) as $code) {
            $labels[$code->code] = '' !== $code->label ? $code->label : $code->meaning;
        }

        return $labels;
    }

    public function size(int $list): int
    {
        return Row::int(['n' => $this->db->fetchOne('SELECT COUNT(*) FROM code WHERE list_id = ? AND NOT removed', [$list])], 'n');
    }

    /**
     * @param array<array-key, string> $codes code → label
     *
     * @throws BadText
     */
    public function make(string $name, array $codes, string $meaning = ''): int
    {
        $this->checkName($name, 0);

        return $this->db->transactional(function () use ($name, $codes, $meaning): int {
            $this->db->executeStatement('INSERT INTO code_list (name, meaning, changed_at) VALUES (?, ?, UTC_TIMESTAMP())', [trim($name), $meaning]);
            $id = (int) $this->db->lastInsertId();
            $this->add($id, $codes);

            return $id;
        });
    }

    /** A name that is free, like one that is asked for. */
    public function free(string $name): string
    {
        $name = mb_substr('' === trim($name) ? 'codes' : trim($name), 0, 110);
        for ($i = 1;; ++$i) {
            $one = 1 === $i ? $name : "$name $i";
            if (null === $this->named($one) && null === Lists::named($one)) {
                return $one;
            }
        }
    }

    /**
     * Additivity codes behind those that are there. One that was taken out comes back with its texts; a label that is there is left.
     *
     * @param array<array-key, string> $codes code → label
     *
     * @return int how many are new
     *
     * @throws BadText
     */
    public function add(int $list, array $codes): int
    {
        $there = $this->size($list);
        if ($there + \count($codes) > self::MOST_CODES) {
            throw new BadText(\sprintf('A code list holds %d codes; with these it would have %d. Divide it, or leave it where it is and say a pattern.',
                self::MOST_CODES, $there + \count($codes)));
        }
        $place = Row::int(['n' => $this->db->fetchOne('SELECT COALESCE(MAX(position), 0) FROM code WHERE list_id = ?', [$list])], 'n');
        $rows = [];
        foreach ($codes as $code => $label) {
            $code = (string) $code;
            if ('' === trim($code) || mb_strlen($code) > self::LONGEST_CODE) {
                throw new BadText(\sprintf('“%s” cannot be a code: one has 1 to %d characters.', mb_strimwidth($code, 0, 40, '…'), self::LONGEST_CODE));
            }
            $rows[] = [$list, $code, mb_substr(trim($label), 0, 400), '', ++$place, '', '', ''];
        }
        Batch::insert(
            $this->db,
            'INSERT INTO code (list_id, code, label, meaning, position, valid_from, valid_to, replaced_by) VALUES',
            $rows,
            "ON DUPLICATE KEY UPDATE removed = 0, label = IF(label = '', VALUES(label), label)",
        );
        $this->db->executeStatement('UPDATE code_list SET changed_at = UTC_TIMESTAMP() WHERE id = ?', [$list]);

        return $this->size($list) - $there;
    }

    /** Takes a code out, or puts it back. What was written of it stays. */
    public function remove(int $code, bool $out): void
    {
        $this->db->executeStatement('UPDATE code SET removed = ? WHERE id = ?', [$out ? 1 : 0, $code]);
    }

    public function hasBeside(int $code, string $other): bool
    {
        return false !== $this->db->fetchOne(
            'SELECT 1 FROM code c JOIN code d ON d.list_id = c.list_id AND d.id <> c.id AND NOT d.removed WHERE c.id = ? AND d.code = ?',
            [$code, $other],
        );
    }

    /** @throws BadText */
    public function checkName(string $name, int $id): void
    {
        if ('' === trim($name) || 1 === preg_match('/[;"\n]/', $name)) {
            throw new BadText('A code list has a name without semicolons and quotation marks: fields refer to it by that.');
        }
        if (null !== Lists::named($name)) {
            throw new BadText(\sprintf('“%s” is a list that ships with Fasti. Use it as it is, or choose another name for yours.', trim($name)));
        }
        $other = $this->named($name);
        if (null !== $other && $other !== $id) {
            throw new BadText(\sprintf('There is a code list “%s” already. Choose another name, or go on with that one.', trim($name)));
        }
    }

    /** Fields that spoke of a list speak of it by its new name. */
    public function renamed(string $before, string $after): void
    {
        foreach ($this->said->all('field', 'allowed') as $field => $text) {
            if (\in_array(mb_strtolower($before), self::listsIn($text), true)) {
                $now = preg_replace('/(\bcode list\s+["“”]?)'.preg_quote($before, '/').'(?=["“”]?\s*(?:;|$))/iu', '${1}'.addcslashes($after, '\\$'), $text);
                $this->said->write('field', $field, 'allowed', $now ?? $text);
            }
        }
    }

    /** @return list<string> in small letters */
    private static function listsIn(string $text): array
    {
        preg_match_all(self::SPOKEN_OF, $text, $m);

        return array_map(static fn (string $name): string => mb_strtolower(trim($name, " \t\"“”")), $m[1]);
    }

    /**
     * @param array<mixed> $texts
     *
     * @return list<string>
     */
    private static function texts(array $texts): array
    {
        return array_values(array_map(static fn (mixed $text): string => \is_scalar($text) ? (string) $text : '', $texts));
    }
}
