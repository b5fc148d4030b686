<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/**
 * Auto-generated Migration: Please modify to your needs!
 */
final class Version20261125132500 extends AbstractMigration
{
    public function getDescription(): string
    {
        return '';
    }

    public function up(Schema $schema): void
    {
        // this up() migration is auto-generated, please modify it to your needs
        $this->addSql('CREATE TABLE margin_note (id INT UNSIGNED AUTO_INCREMENT NOT NULL, property VARCHAR(20) NOT NULL, reason LONGTEXT NOT NULL, made_at DATETIME NOT NULL, settled_at DATETIME DEFAULT NULL, entry_id INT UNSIGNED NOT NULL, field_id INT UNSIGNED DEFAULT NULL, settled_by_id INT UNSIGNED DEFAULT NULL, INDEX IDX_B2F35D62BA364942 (entry_id), INDEX IDX_B2F35D62443707B0 (field_id), INDEX IDX_B2F35D62C55A90E1 (settled_by_id), INDEX margin_note_open (entry_id, settled_at), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE profile (id INT UNSIGNED AUTO_INCREMENT NOT NULL, taken_at DATETIME NOT NULL, figures JSON NOT NULL, entry_id INT UNSIGNED NOT NULL, UNIQUE INDEX profile_of (entry_id), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE profile_run (id INT UNSIGNED AUTO_INCREMENT NOT NULL, state VARCHAR(12) NOT NULL, waiting JSON NOT NULL, total INT NOT NULL, doing VARCHAR(400) NOT NULL, asked VARCHAR(8) NOT NULL, error LONGTEXT NOT NULL, notes JSON NOT NULL, asked_at DATETIME NOT NULL, heard_at DATETIME DEFAULT NULL, ended_at DATETIME DEFAULT NULL, source_id INT UNSIGNED NOT NULL, account_id INT UNSIGNED DEFAULT NULL, INDEX IDX_FED40DFF953C1C61 (source_id), INDEX IDX_FED40DFF9B6B5FBA (account_id), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('ALTER TABLE margin_note ADD CONSTRAINT FK_B2F35D62BA364942 FOREIGN KEY (entry_id) REFERENCES entry (id)');
        $this->addSql('ALTER TABLE margin_note ADD CONSTRAINT FK_B2F35D62443707B0 FOREIGN KEY (field_id) REFERENCES field (id)');
        $this->addSql('ALTER TABLE margin_note ADD CONSTRAINT FK_B2F35D62C55A90E1 FOREIGN KEY (settled_by_id) REFERENCES account (id)');
        $this->addSql('ALTER TABLE profile ADD CONSTRAINT FK_8157AA0FBA364942 FOREIGN KEY (entry_id) REFERENCES entry (id)');
        $this->addSql('ALTER TABLE profile_run ADD CONSTRAINT FK_FED40DFF953C1C61 FOREIGN KEY (source_id) REFERENCES source (id)');
        $this->addSql('ALTER TABLE profile_run ADD CONSTRAINT FK_FED40DFF9B6B5FBA FOREIGN KEY (account_id) REFERENCES account (id)');
        $this->addSql('ALTER TABLE connection ADD path VARCHAR(700) NOT NULL, ADD dialect VARCHAR(12) NOT NULL');
        $this->addSql('ALTER TABLE entry ADD grain_fields LONGTEXT NOT NULL, ADD json_schema MEDIUMTEXT NOT NULL, CHANGE name name VARCHAR(255) NOT NULL COLLATE `utf8mb4_nopad_bin`, CHANGE kind kind VARCHAR(20) NOT NULL');
        $this->addSql('ALTER TABLE field ADD personal VARCHAR(3) NOT NULL, CHANGE name name VARCHAR(700) NOT NULL COLLATE `utf8mb4_nopad_bin`');
        $this->addSql('ALTER TABLE source ADD engine VARCHAR(20) NOT NULL, ADD every VARCHAR(12) NOT NULL');
        $this->addSql("UPDATE source SET engine = 'mariadb'");
        $this->addSql('ALTER TABLE survey ADD drift JSON DEFAULT NULL, ADD decided_at DATETIME DEFAULT NULL, ADD decided_by_id INT UNSIGNED DEFAULT NULL');
        $this->addSql('ALTER TABLE survey ADD CONSTRAINT FK_AD5F9BFCE26B496B FOREIGN KEY (decided_by_id) REFERENCES account (id)');
        $this->addSql('CREATE INDEX IDX_AD5F9BFCE26B496B ON survey (decided_by_id)');
    }

    public function down(Schema $schema): void
    {
        // this down() migration is auto-generated, please modify it to your needs
        $this->addSql('ALTER TABLE margin_note DROP FOREIGN KEY FK_B2F35D62BA364942');
        $this->addSql('ALTER TABLE margin_note DROP FOREIGN KEY FK_B2F35D62443707B0');
        $this->addSql('ALTER TABLE margin_note DROP FOREIGN KEY FK_B2F35D62C55A90E1');
        $this->addSql('ALTER TABLE profile DROP FOREIGN KEY FK_8157AA0FBA364942');
        $this->addSql('ALTER TABLE profile_run DROP FOREIGN KEY FK_FED40DFF953C1C61');
        $this->addSql('ALTER TABLE profile_run DROP FOREIGN KEY FK_FED40DFF9B6B5FBA');
        $this->addSql('DROP TABLE margin_note');
        $this->addSql('DROP TABLE profile');
        $this->addSql('DROP TABLE profile_run');
        $this->addSql('ALTER TABLE connection DROP path, DROP dialect');
        $this->addSql('ALTER TABLE entry DROP grain_fields, DROP json_schema, CHANGE name name VARCHAR(190) NOT NULL COLLATE `utf8mb4_nopad_bin`, CHANGE kind kind VARCHAR(12) NOT NULL');
        $this->addSql('ALTER TABLE field DROP personal, CHANGE name name VARCHAR(190) NOT NULL COLLATE `utf8mb4_nopad_bin`');
        $this->addSql('ALTER TABLE source DROP engine, DROP every');
        $this->addSql('ALTER TABLE survey DROP FOREIGN KEY FK_AD5F9BFCE26B496B');
        $this->addSql('DROP INDEX IDX_AD5F9BFCE26B496B ON survey');
        $this->addSql('ALTER TABLE survey DROP drift, DROP decided_at, DROP decided_by_id');
    }

    public function isTransactional(): bool
    {
        return false;
    }
}
