<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Core\Catalog\Place;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Text\History;
use Fasti\Text\Subject;
use Symfony\Contracts\EventDispatcher\EventDispatcherInterface;

/** Gives entries and fields the names that they have in their source now. They stay what they are, so every text stays with them. */
final readonly class Renaming
{
    private const SITTING = 'drift';

    public function __construct(
        private Connection $db,
        private EntryStore $entries,
        private Fields $fields,
        private FoldedNames $names,
        private History $history,
        private EventDispatcherInterface $events,
    ) {
    }

    public function entry(int $source, Place $from, Place $to, Account $account): void
    {
        $id = $this->entries->at($source, $from);
        if (null === $id) {
            return;
        }
        $taken = $this->entries->at($source, $to);
        if (null !== $taken) {
            // An entry of that name was there once and is gone: it gives its name up, and keeps its texts.
            $this->db->executeStatement("UPDATE entry SET name = CONCAT(LEFT(name, 230), ' (gone, ', id, ')') WHERE id = ?", [$taken]);
        }
        $this->db->executeStatement(
            'UPDATE entry SET schema_name = ?, name = ?, identifier_id = ? WHERE id = ?',
            [$to->schema, $to->name, $this->identifier($to->name), $id],
        );
        $this->history->note($account, new Subject(EntryTopic::NAME, $id, EntryTopic::NAME, $id), 'name', (string) $from, (string) $to, self::SITTING);
        $this->events->dispatch(new EntryRenamed($id, $source, $from, $to));
    }

    /**
     * @param array<string, string> $names old → new
     *
     * @return array<string, string> those that were really renamed
     */
    public function fields(int $entry, array $names, Account $account): array
    {
        $done = [];
        $ids = $this->fields->ids([$entry])[$entry] ?? [];
        foreach ($names as $old => $new) {
            if (!isset($ids[$old])) {
                continue;
            }
            $this->db->executeStatement("UPDATE field SET name = CONCAT(LEFT(name, 600), ' (gone, ', id, ')') WHERE entry_id = ? AND name = ?", [$entry, $new]);
            $this->db->executeStatement('UPDATE field SET name = ?, identifier_id = ? WHERE id = ?', [$new, $this->identifier($new), $ids[$old]]);
            $this->history->note($account, new Subject(FieldTopic::NAME, $ids[$old], EntryTopic::NAME, $entry), 'name', $old, $new, self::SITTING);
            $done[$old] = $new;
        }
        if ([] !== $done) {
            $apart = array_map(static fn (string $name): string => $done[$name] ?? $name, $this->entries->grainFields($entry));
            $this->db->executeStatement("UPDATE entry SET grain_fields = ? WHERE id = ? AND grain_fields <> ''", [GrainFields::written($apart), $entry]);
            $this->events->dispatch(new FieldsRenamed($entry, $done));
        }

        return $done;
    }

    private function identifier(string $name): int
    {
        return $this->names->identify([$name])[FoldedNames::fold($name)];
    }
}
