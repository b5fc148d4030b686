<?php

declare(strict_types=1);

namespace Fasti\Register;

use Doctrine\DBAL\Connection;
use Fasti\Account\Account;
use Fasti\Support\Row;
use Psr\EventDispatcher\EventDispatcherInterface;

/** Everything people write goes through here, so that each change is kept and no one writes over another unseen. */
final readonly class Texts
{
    public function __construct(private Connection $db, private EventDispatcherInterface $events)
    {
    }

    /**
     * Saves a text if it still reads as it did when the person began; otherwise nothing is written and the text that
     * stands there now comes back with its author.
     *
     * @param string $base    the text the person started from
     * @param string $sitting changes of one sitting become one change in the history
     *
     * @return array{saved: bool, value: string, change: int|null, by: string|null, at: string|null}
     *
     * @throws BadText
     */
    public function save(Account $account, Subject $subject, int $id, string $property, string $base, string $value, string $sitting): array
    {
        $rule = $subject->properties()[$property] ?? throw new BadText(\sprintf('A %s has no text called “%s”.', $subject->value, $property));
        $value = self::clean($value);
        if (mb_strlen($value) > $rule['most']) {
            throw new BadText(\sprintf('This text has %d characters; %d fit here. It is kept in this browser: shorten it, and it will be saved.', mb_strlen($value), $rule['most']));
        }
        if ('standing' === $property && null === Standing::tryFrom($value)) {
            throw new BadText('The standing of an entry is open, in review, agreed or retired.');
        }
        if ('personal' === $property && !\in_array($value, ['', 'yes', 'no'], true)) {
            throw new BadText('Whether a field is personal is said with yes or no.');
        }
        if ('grainFields' === $property) {
            $this->checkFields($id, $value);
        }
        if ('jsonSchema' === $property && '' !== $value && !json_decode($value) instanceof \stdClass) {
            throw new BadText('This is not a JSON object yet: '.(\JSON_ERROR_NONE === json_last_error() ? 'a schema is written in braces' : json_last_error_msg()).'. It is kept in this browser until it can be saved.');
        }

        return $this->db->transactional(function () use ($account, $subject, $id, $property, $base, $value, $sitting, $rule): array {
            $row = $this->db->fetchAssociative(\sprintf('SELECT %s AS entry, %s AS text FROM %s WHERE id = ? FOR UPDATE', $subject->entryColumn(), $rule['column'], $subject->table()), [$id]);
            if (false === $row) {
                throw new BadText(\sprintf('This %s is not in the register.', $subject->value));
            }
            $now = Row::text($row, 'text');
            if ($now === $value) {
                return ['saved' => true, 'value' => $now, 'change' => null, 'by' => null, 'at' => null];
            }
            $last = $this->db->fetchAssociative('SELECT c.id, c.account_id, c.sitting, c.at, a.name FROM change_event c JOIN account a ON a.id = c.account_id WHERE c.subject = ? AND c.subject_id = ? AND c.property = ? ORDER BY c.id DESC LIMIT 1', [$subject->value, $id, $property]);
            if ($now !== self::clean($base)) {
                return ['saved' => false, 'value' => $now, 'change' => null, 'by' => false === $last ? null : Row::text($last, 'name'), 'at' => false === $last ? null : Row::text($last, 'at')];
            }
            $this->write($subject, $id, $rule['column'], $value, Row::int($row, 'entry'), $property);
            if (false !== $last && Row::int($last, 'account_id') === $account->id() && Row::text($last, 'sitting') === $sitting) {
                $change = Row::int($last, 'id');
                $this->db->executeStatement('UPDATE change_event SET text_after = ?, at = UTC_TIMESTAMP() WHERE id = ?', [$value, $change]);
            } else {
                $change = $this->note($account, $subject, $id, Row::int($row, 'entry'), $property, $now, $value, $sitting);
            }

            return ['saved' => true, 'value' => $value, 'change' => $change, 'by' => $account->name, 'at' => null];
        });
    }

    /** @throws BadText where a name is no field of the entry */
    private function checkFields(int $entry, string $text): void
    {
        $names = array_values(array_filter(array_map(trim(...), explode(',', $text)), static fn (string $name): bool => '' !== $name));
        $known = $this->db->fetchFirstColumn('SELECT name FROM field WHERE entry_id = ? AND gone_at IS NULL', [$entry]);
        $unknown = array_diff($names, array_filter($known, is_string(...)));
        if ([] !== $unknown) {
            throw new BadText(\sprintf('The entry has no field %s. Name fields as the ledger does, with commas between.', implode(', ', $unknown)));
        }
    }

    /**
     * Puts a text back to what it was before a change, however long ago. That is itself a change and can be taken back.
     *
     * @return array{subject: string, id: int, property: string, value: string, entry: int}
     *
     * @throws BadText
     */
    public function takeBack(Account $account, int $changeId): array
    {
        return $this->db->transactional(function () use ($account, $changeId): array {
            $change = $this->db->fetchAssociative('SELECT subject, subject_id, entry_id, property, text_before FROM change_event WHERE id = ?', [$changeId]);
            if (false === $change) {
                throw new BadText('This change is not in the history.');
            }
            $subject = Subject::from(Row::text($change, 'subject'));
            [$id, $entry, $property, $value] = [Row::int($change, 'subject_id'), Row::int($change, 'entry_id'), Row::text($change, 'property'), Row::text($change, 'text_before')];
            $column = $subject->properties()[$property]['column'] ?? throw new BadText('What this change was about is not written any more.');
            $now = $this->db->fetchOne(\sprintf('SELECT %s FROM %s WHERE id = ? FOR UPDATE', $column, $subject->table()), [$id]);
            if (\is_string($now) && $now !== $value) {
                $this->write($subject, $id, $column, $value, $entry, $property);
                $this->note($account, $subject, $id, $entry, $property, $now, $value, 'back-'.bin2hex(random_bytes(8)));
            }

            return ['subject' => $subject->value, 'id' => $id, 'property' => $property, 'value' => $value, 'entry' => $entry];
        });
    }

    private function write(Subject $subject, int $id, string $column, string $value, int $entry, string $property): void
    {
        $this->db->executeStatement(\sprintf('UPDATE %s SET %s = ? WHERE id = ?', $subject->table(), $column), [$value, $id]);
        $this->db->executeStatement('UPDATE entry SET changed_at = UTC_TIMESTAMP() WHERE id = ?', [$entry]);
        if (Subject::Field === $subject && 'meaning' === $property) {
            $this->db->executeStatement("UPDATE entry SET described_count = (SELECT COUNT(*) FROM field WHERE entry_id = ? AND gone_at IS NULL AND meaning <> '') WHERE id = ?", [$entry, $entry]);
        }
        $field = Subject::Field === $subject ? $this->db->fetchOne('SELECT name FROM field WHERE id = ?', [$id]) : '';
        $this->events->dispatch(new Saved($subject, $id, $entry, \is_string($field) ? $field : '', $property, $value));
    }

    private function note(Account $account, Subject $subject, int $id, int $entry, string $property, string $before, string $after, string $sitting): int
    {
        $this->db->executeStatement(
            'INSERT INTO change_event (subject, subject_id, entry_id, property, text_before, text_after, account_id, at, sitting) VALUES (?, ?, ?, ?, ?, ?, ?, UTC_TIMESTAMP(), ?)',
            [$subject->value, $id, $entry, $property, $before, $after, $account->id(), mb_substr($sitting, 0, 40)],
        );

        return (int) $this->db->lastInsertId();
    }

    /** Line ends of one kind, and nothing that is not text. Spaces at the end belong to typing, not to the text. */
    private static function clean(string $text): string
    {
        return rtrim(preg_replace('/[\x00-\x08\x0B\x0C\x0E-\x1F\x7F]/u', '', str_replace(["\r\n", "\r"], "\n", mb_scrub($text))) ?? '');
    }
}
