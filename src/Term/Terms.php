<?php

declare(strict_types=1);

namespace Fasti\Term;

use Doctrine\DBAL\Connection;
use Fasti\Core\Term\Recogniser;
use Fasti\Support\Batch;
use Fasti\Support\Row;
use Fasti\Text\BadText;
use Fasti\Text\SaidStore;
use Symfony\Contracts\Service\ResetInterface;

/** The glossary. */
final class Terms implements ResetInterface
{
    private ?Recogniser $recogniser = null;
    /** @var array<int, TermView>|null */
    private ?array $all = null;

    public function __construct(private readonly Connection $db, private readonly SaidStore $said)
    {
    }

    public function reset(): void
    {
        $this->all = $this->recogniser = null;
    }

    public function count(): int
    {
        return Row::int(['n' => $this->db->fetchOne('SELECT COUNT(*) FROM term')], 'n');
    }

    /** @return array<int, TermView> by id, in the order of the alphabet */
    public function all(): array
    {
        if (null === $this->all) {
            $this->all = [];
            foreach ($this->db->iterateAssociative('SELECT * FROM term ORDER BY name, area') as $row) {
                $this->all[Row::int($row, 'id')] = new TermView(
                    Row::int($row, 'id'), Row::text($row, 'name'), Row::text($row, 'area'), Row::text($row, 'definition'), Row::text($row, 'synonyms'),
                    Row::text($row, 'broader'), Row::text($row, 'related'), Row::text($row, 'owner'), Row::text($row, 'standing'),
                );
            }
        }

        return $this->all;
    }

    public function one(int $id): ?TermView
    {
        return $this->all()[$id] ?? null;
    }

    /** @return list<TermView> of a name, in any area */
    public function named(string $name): array
    {
        $name = mb_strtolower(trim($name));

        return array_values(array_filter($this->all(), static fn (TermView $term): bool => mb_strtolower($term->name) === $name));
    }

    public function recogniser(): Recogniser
    {
        return $this->recogniser ??= new Recogniser(array_map(static fn (TermView $term): array => $term->words(), $this->all()));
    }

    /** @return array<string, string> words in small letters → what is meant; words with several meanings are left out */
    public function definitions(): array
    {
        $of = [];
        foreach ($this->all() as $term) {
            foreach ($term->words() as $word) {
                if ('' !== $term->definition) {
                    $of[mb_strtolower($word)][] = $term->definition;
                }
            }
        }

        return array_map(static fn (array $one): string => $one[0], array_filter($of, static fn (array $one): bool => 1 === \count($one)));
    }

    /**
     * Words that mean several things.
     *
     * @return array<string, list<int>> in small letters → terms
     */
    public function ambiguous(): array
    {
        $of = [];
        foreach ($this->all() as $term) {
            foreach (array_unique(array_map(mb_strtolower(...), $term->words())) as $word) {
                $of[$word][] = $term->id;
            }
        }

        return array_filter($of, static fn (array $terms): bool => \count($terms) > 1);
    }

    /**
     * What says that it belongs to a term.
     *
     * @return array<string, list<int>> "field" and "entry" → ids
     */
    public function linked(TermView $term): array
    {
        $linked = [];
        foreach (['entry', 'field'] as $topic) {
            foreach ($this->said->all($topic, 'terms') as $id => $text) {
                if (\in_array(mb_strtolower($term->name), array_map(mb_strtolower(...), self::list($text)), true)) {
                    $linked[$topic][] = $id;
                }
            }
        }

        return $linked;
    }

    /** @return list<TermView> terms that say that this one is broader */
    public function narrower(TermView $term): array
    {
        $name = mb_strtolower($term->name);

        return array_values(array_filter($this->all(), static fn (TermView $one): bool => \in_array($name, array_map(mb_strtolower(...),
            self::list($one->broader)), true)));
    }

    /** @throws BadText */
    public function make(string $name, string $area, string $definition = '', string $synonyms = ''): int
    {
        $this->checkName($name, $area, 0);
        $this->db->executeStatement(
            "INSERT INTO term (name, area, definition, synonyms, broader, related, owner, standing, changed_at) VALUES (?, ?, ?, ?, '', '', '', 'open', "
                .'UTC_TIMESTAMP())',
            [trim($name), trim($area), trim($definition), trim($synonyms)],
        );
        $this->reset();

        return (int) $this->db->lastInsertId();
    }

    /**
     * @param list<array{name: string, area: string, definition: string, synonyms: string}> $terms
     *
     * @return array{int, list<string>} how many are new; what was not taken, and why
     */
    public function takeIn(array $terms): array
    {
        $there = [];
        foreach ($this->all() as $term) {
            $there[mb_strtolower($term->name)."\0".mb_strtolower($term->area)] = true;
        }
        $rows = $left = [];
        foreach ($terms as $term) {
            $key = mb_strtolower($term['name'])."\0".mb_strtolower($term['area']);
            if (isset($there[$key])) {
                $left[] = \sprintf('“%s” is in the glossary already%s.', $term['name'], '' === $term['area'] ? '' : ' for '.$term['area']);
                continue;
            }
            try {
                $this->checkWords($term['name']);
            } catch (BadText $e) {
                $left[] = $e->getMessage();
                continue;
            }
            $there[$key] = true;
            $rows[] = [$term['name'], $term['area'], $term['definition'], $term['synonyms'], '', '', '', 'open', gmdate('Y-m-d H:i:s')];
        }
        Batch::insert($this->db, 'INSERT INTO term (name, area, definition, synonyms, broader, related, owner, standing, changed_at) VALUES', $rows);
        $this->reset();

        return [\count($rows), $left];
    }

    /**
     * @param ?string $name null for the one it has
     *
     * @throws BadText
     */
    public function checkName(?string $name, ?string $area, int $id): void
    {
        $this->reset();
        $now = $this->one($id);
        $name = trim($name ?? $now->name ?? '');
        $area = trim($area ?? $now->area ?? '');
        $this->checkWords($name);
        foreach ($this->named($name) as $other) {
            if ($other->id !== $id && mb_strtolower($other->area) === mb_strtolower($area)) {
                throw new BadText('' === $area
                    ? \sprintf('“%s” is in the glossary already. If it means something else in some area, say in which.', $name)
                    : \sprintf('“%s” is in the glossary already for %s. One word means one thing in one area.', $name, $area));
            }
        }
    }

    /** @throws BadText */
    public function checkNames(string $names, int $id): void
    {
        foreach (self::list($names) as $name) {
            $named = $this->named($name);
            if ([] === $named) {
                throw new BadText(\sprintf('“%s” is not in the glossary. Add it there first, or correct the word.', mb_strimwidth($name, 0, 60, '…')));
            }
            if ([$id] === array_map(static fn (TermView $term): int => $term->id, $named)) {
                throw new BadText(\sprintf('“%s” is this term itself.', $name));
            }
        }
    }

    /** Whatever named a term names it by its new name. */
    public function renamed(string $before, string $after): void
    {
        $change = static fn (string $list): string => implode(', ', array_map(
            static fn (string $name): string => mb_strtolower($name) === mb_strtolower($before) ? $after : $name,
            self::list($list),
        ));
        $names = static fn (string $list): bool => \in_array(mb_strtolower($before), array_map(mb_strtolower(...), self::list($list)), true);
        $this->reset();
        if ([] !== $this->named($before)) {
            // The word still means something in another area: what names it may mean that.
            return;
        }
        foreach ($this->all() as $term) {
            if ($names($term->broader) || $names($term->related)) {
                $this->db->executeStatement('UPDATE term SET broader = ?, related = ? WHERE id = ?', [
                    $names($term->broader) ? $change($term->broader) : $term->broader, $names($term->related) ? $change($term->related) : $term->related,
                    $term->id,
                ]);
            }
        }
        foreach (['entry', 'field'] as $topic) {
            foreach ($this->said->all($topic, 'terms') as $id => $text) {
                if ($names($text)) {
                    $this->said->write($topic, $id, 'terms', $change($text));
                }
            }
        }
        $this->reset();
    }

    /** @return list<string> names with commas between */
    public static function list(string $names): array
    {
        return array_values(array_filter(array_map(trim(...), preg_split('/[,;\n]/', $names) ?: []), static fn (string $name): bool => '' !== $name));
    }

    /** @throws BadText */
    private function checkWords(string $name): void
    {
        if (1 !== preg_match('/[\p{L}\p{N}]/u', $name)) {
            throw new BadText('A term is a word or a few: write them as they stand in texts.');
        }
        if (1 === preg_match('/[,;\n]/', $name)) {
            throw new BadText(\sprintf('“%s” has a comma, a semicolon or a new line in it. One term, please; other words for it are written beside it.',
                mb_strimwidth($name, 0, 60, '…')));
        }
        if (mb_strlen($name) > 190) {
            throw new BadText('A term has up to 190 characters.');
        }
    }
}
