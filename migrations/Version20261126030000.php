<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

final class Version20261126030000 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Joins that are proposed, their conditions, what speaks for them, and what the data says of all';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE entry_join ADD proposed VARCHAR(12) NOT NULL DEFAULT '', ADD confidence DOUBLE PRECISION DEFAULT NULL,
            ADD where_field_id INT UNSIGNED DEFAULT NULL, ADD where_value VARCHAR(190) NOT NULL DEFAULT ''");
        $this->addSql('ALTER TABLE entry_join CHANGE proposed proposed VARCHAR(12) NOT NULL, CHANGE where_value where_value VARCHAR(190) NOT NULL');
        $this->addSql('ALTER TABLE entry_join ADD CONSTRAINT FK_8C43A0C4A7660011 FOREIGN KEY (where_field_id) REFERENCES field (id)');
        $this->addSql('CREATE INDEX IDX_8C43A0C4A7660011 ON entry_join (where_field_id)');
        $this->addSql('CREATE TABLE join_evidence (join_id INT UNSIGNED NOT NULL, evidence JSON NOT NULL, digest VARCHAR(32) NOT NULL,
            examples JSON NOT NULL, looked_at DATETIME DEFAULT NULL,
            figures JSON DEFAULT NULL, observed_at DATETIME DEFAULT NULL,
            PRIMARY KEY(join_id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci` ENGINE = InnoDB');
        $this->addSql('CREATE TABLE entry_role (kind VARCHAR(12) NOT NULL, reason VARCHAR(400) NOT NULL, traits JSON NOT NULL, key_kind VARCHAR(40) NOT NULL,
            decided VARCHAR(12) NOT NULL, area VARCHAR(120) NOT NULL, entry_id INT UNSIGNED NOT NULL, INDEX entry_role_area (area), PRIMARY KEY (entry_id))
            DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci` ENGINE = InnoDB');
        $this->addSql('ALTER TABLE entry_role ADD CONSTRAINT FK_F34BF279BA364942 FOREIGN KEY (entry_id) REFERENCES entry (id) ON DELETE CASCADE');
        $this->addSql('ALTER TABLE join_evidence ADD CONSTRAINT FK_6E0D8F2B2B2AB2F4 FOREIGN KEY (join_id) REFERENCES entry_join (id) ON DELETE CASCADE');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE join_evidence');
        $this->addSql('DROP TABLE entry_role');
        $this->addSql('ALTER TABLE entry_join DROP FOREIGN KEY FK_8C43A0C4A7660011');
        $this->addSql('DROP INDEX IDX_8C43A0C4A7660011 ON entry_join');
        $this->addSql('ALTER TABLE entry_join DROP proposed, DROP confidence, DROP where_field_id, DROP where_value');
    }
}
