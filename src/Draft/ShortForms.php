<?php

declare(strict_types=1);

namespace Fasti\Draft;

use Doctrine\DBAL\Connection;
use Fasti\Core\Draft\Abbreviation;
use Fasti\Support\Row;

/** The register's list of short forms: those that people say, and those that were learned from names. */
final readonly class ShortForms
{
    public const LEARNED = 'learned';
    public const SAID = 'said';
    public const DISMISSED = 'dismissed';

    public function __construct(private Connection $db)
    {
    }

    /** @return array<string, string> short → long, without those that were dismissed */
    public function known(): array
    {
        $known = [];
        foreach ($this->all() as $one) {
            if (self::DISMISSED !== $one['standing']) {
                $known[$one['short']] = $one['stands'];
            }
        }

        return $known;
    }

    /** @return list<array{short: string, stands: string, standing: string, because: string, confidence: float}> */
    public function all(): array
    {
        return array_map(static fn (array $row): array => [
            'short' => Row::text($row, 'short'), 'stands' => Row::text($row, 'stands'), 'standing' => Row::text($row, 'standing'),
            'because' => Row::text($row, 'because'), 'confidence' => (float) Row::text($row, 'confidence'),
        ], $this->db->fetchAllAssociative("SELECT * FROM short_form ORDER BY FIELD(standing, 'learned', 'said', 'dismissed'), short"));
    }

    /** @param list<Abbreviation> $learned what a person has decided about stays */
    public function learn(array $learned): void
    {
        foreach ($learned as $one) {
            $this->db->executeStatement(
                "INSERT INTO short_form (short, stands, standing, because, confidence) VALUES (?, ?, 'learned', ?, ?)
                    ON DUPLICATE KEY UPDATE stands = IF(standing = 'learned', VALUES(stands), stands),
                    because = IF(standing = 'learned', VALUES(because), because), confidence = IF(standing = 'learned', VALUES(confidence), confidence)",
                [mb_substr($one->short, 0, 20), mb_substr($one->long, 0, 120), mb_substr($one->because, 0, 400), $one->confidence],
            );
        }
    }

    public function say(string $short, string $stands, string $standing): void
    {
        $this->db->executeStatement(
            "INSERT INTO short_form (short, stands, standing, because, confidence) VALUES (?, ?, ?, '', 1)
                ON DUPLICATE KEY UPDATE stands = VALUES(stands), standing = VALUES(standing)",
            [mb_strtolower(mb_substr($short, 0, 20)), mb_substr($stands, 0, 120), $standing],
        );
    }
}
