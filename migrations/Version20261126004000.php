<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** What was read of the queries of views, which field depends on which, and queries that are kept. `fasti:read-views` fills the first two. */
final class Version20261126004000 extends AbstractMigration
{
    private const TEXT = 'DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`';

    public function getDescription(): string
    {
        return 'Queries read.';
    }

    public function isTransactional(): bool
    {
        return false;
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE lineage (field_id INT UNSIGNED NOT NULL, part VARCHAR(9) NOT NULL, entry_id INT UNSIGNED NOT NULL, from_id INT UNSIGNED NOT NULL,
            INDEX IDX_8A0AA0C0BA364942 (entry_id), INDEX IDX_8A0AA0C078CED90B (from_id), INDEX lineage_field (field_id),
            PRIMARY KEY (entry_id, field_id, from_id, part)) '.self::TEXT);
        $this->addSql('CREATE TABLE kept_query (id INT UNSIGNED AUTO_INCREMENT NOT NULL, name VARCHAR(120) NOT NULL, text MEDIUMTEXT NOT NULL,
            kept_at DATETIME NOT NULL, source_id INT UNSIGNED NOT NULL, account_id INT UNSIGNED NOT NULL, INDEX IDX_7749CE66953C1C61 (source_id),
            INDEX IDX_7749CE669B6B5FBA (account_id), PRIMARY KEY (id)) '.self::TEXT);
        $this->addSql('CREATE TABLE view_reading (data JSON NOT NULL, entry_id INT UNSIGNED NOT NULL, PRIMARY KEY (entry_id)) '.self::TEXT);
        $this->addSql('ALTER TABLE lineage ADD CONSTRAINT FK_8A0AA0C0BA364942 FOREIGN KEY (entry_id) REFERENCES entry (id) ON DELETE CASCADE');
        $this->addSql('ALTER TABLE lineage ADD CONSTRAINT FK_8A0AA0C078CED90B FOREIGN KEY (from_id) REFERENCES field (id) ON DELETE CASCADE');
        $this->addSql('ALTER TABLE kept_query ADD CONSTRAINT FK_7749CE66953C1C61 FOREIGN KEY (source_id) REFERENCES source (id)');
        $this->addSql('ALTER TABLE kept_query ADD CONSTRAINT FK_7749CE669B6B5FBA FOREIGN KEY (account_id) REFERENCES account (id)');
        $this->addSql('ALTER TABLE view_reading ADD CONSTRAINT FK_E847E9BBBA364942 FOREIGN KEY (entry_id) REFERENCES entry (id) ON DELETE CASCADE');
    }
}
