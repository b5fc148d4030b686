<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

final class Version20261126190000 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Designs';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE design (id INT UNSIGNED AUTO_INCREMENT NOT NULL, name VARCHAR(120) NOT NULL, purpose VARCHAR(400) NOT NULL,
            shared TINYINT NOT NULL, outline MEDIUMTEXT NOT NULL, readable MEDIUMTEXT NOT NULL, places JSON NOT NULL, ran JSON DEFAULT NULL,
            ran_at DATETIME DEFAULT NULL, rehearsed JSON DEFAULT NULL, rehearsed_at DATETIME DEFAULT NULL, taken JSON DEFAULT NULL, changed_at DATETIME NOT NULL, owner_id INT UNSIGNED NOT NULL, source_id INT UNSIGNED DEFAULT NULL,
            INDEX IDX_CD4F5A307E3C61F9 (owner_id), INDEX IDX_CD4F5A30953C1C61 (source_id), PRIMARY KEY (id))
            DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('ALTER TABLE design ADD CONSTRAINT FK_CD4F5A307E3C61F9 FOREIGN KEY (owner_id) REFERENCES account (id)');
        $this->addSql('ALTER TABLE design ADD CONSTRAINT FK_CD4F5A30953C1C61 FOREIGN KEY (source_id) REFERENCES source (id) ON DELETE SET NULL');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE design');
    }
}
