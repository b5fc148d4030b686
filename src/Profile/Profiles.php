<?php

declare(strict_types=1);

namespace Fasti\Profile;

use Doctrine\DBAL\Connection;
use Fasti\Core\Drift\Doubt;
use Fasti\Core\Profile\Personal;
use Fasti\Core\Profile\ProfileArray;
use Fasti\Core\Profile\TableProfile;
use Fasti\Register\EntryView;
use Fasti\Support\Row;
use Twig\Attribute\AsTwigFunction;

/** The profiles that are kept, one for each entry. */
final readonly class Profiles
{
    public function __construct(private Connection $db)
    {
    }

    /** @return array{profile: TableProfile, at: string}|null */
    #[AsTwigFunction('profile_of')]
    public function of(int $entryId): ?array
    {
        $row = $this->db->fetchAssociative('SELECT taken_at, figures FROM profile WHERE entry_id = ?', [$entryId]);

        return false === $row ? null : ['profile' => ProfileArray::read(Row::json($row, 'figures')), 'at' => Row::text($row, 'taken_at')];
    }

    /**
     * @param array{profile: TableProfile, at: string}|null $profiled
     *
     * @return list<string> fields of an entry that hold personal data, as it seems or as somebody has said
     */
    #[AsTwigFunction('personal_fields')]
    public function personal(EntryView $entry, ?array $profiled): array
    {
        $personal = [];
        foreach ($entry->fields as $field) {
            $known = $profiled['profile']->fields[$field->name] ?? null;
            $reason = null === $known ? Personal::reason($entry->name, $field->name, '', []) : $known->personal;
            if ('yes' === $field->personal || ('no' !== $field->personal && '' !== $reason)) {
                $personal[] = $field->name;
            }
        }

        return $personal;
    }

    public function keep(int $entryId, TableProfile $profile): void
    {
        $json = json_encode(ProfileArray::of($profile), \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_PRESERVE_ZERO_FRACTION);
        $this->db->executeStatement('INSERT INTO profile (entry_id, taken_at, figures) VALUES (?, UTC_TIMESTAMP(), ?) ON DUPLICATE KEY UPDATE taken_at = VALUES(taken_at), figures = VALUES(figures)', [$entryId, $json]);
        $this->db->executeStatement('UPDATE entry SET row_estimate = ? WHERE id = ? AND row_estimate IS NULL', [$profile->rows, $entryId]);
        $this->doubtCodes($entryId, $profile);
    }

    /** Takes away whatever values of a field are kept, once somebody says that they are personal. */
    public function forget(int $entryId, string $field): void
    {
        $row = $this->db->fetchAssociative('SELECT figures FROM profile WHERE entry_id = ?', [$entryId]);
        if (false === $row) {
            return;
        }
        $figures = Row::json($row, 'figures');
        if (\is_array($figures['fields'] ?? null) && \is_array($figures['fields'][$field] ?? null)) {
            $figures['fields'][$field] = ['least' => null, 'greatest' => null, 'frequent' => [], 'frequentOf' => 0, 'histogram' => [], 'personal' => 'a steward says so'] + $figures['fields'][$field];
            $this->db->executeStatement('UPDATE profile SET figures = ? WHERE entry_id = ?', [json_encode($figures, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES), $entryId]);
        }
    }

    /** A text that lists codes is doubtful when the data has one that it does not list. */
    private function doubtCodes(int $entryId, TableProfile $profile): void
    {
        foreach ($this->db->fetchAllAssociative("SELECT id, name, meaning FROM field WHERE entry_id = ? AND gone_at IS NULL AND meaning <> ''", [$entryId]) as $row) {
            $field = $profile->fields[Row::text($row, 'name')] ?? null;
            $codes = null === $field || '' !== $field->personal || null === $field->distinct || $field->distinct > 60 ? [] : Doubt::codes(Row::text($row, 'meaning'));
            $said = array_intersect($codes, array_map(strval(...), array_keys($field->frequent ?? [])));
            if (null === $field || [] === $said) {
                continue;
            }
            $unsaid = array_values(array_filter(array_map(strval(...), array_keys($field->frequent)), static fn (string $value): bool => !\in_array($value, $codes, true) && !Doubt::mentions(Row::text($row, 'meaning'), $value)));
            if ([] === $unsaid) {
                continue;
            }
            $reason = \sprintf('The text lists codes, and the data has %s besides.', implode(', ', \array_slice($unsaid, 0, 8)));
            if (false === $this->db->fetchOne('SELECT id FROM margin_note WHERE field_id = ? AND reason = ?', [Row::int($row, 'id'), $reason])) {
                $this->db->executeStatement("INSERT INTO margin_note (entry_id, field_id, property, reason, made_at) VALUES (?, ?, 'meaning', ?, UTC_TIMESTAMP())", [$entryId, Row::int($row, 'id'), $reason]);
            }
        }
    }
}
