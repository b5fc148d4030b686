<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

final class Version20261126160000 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Analytic models, what they stand on, and the trials kept with them';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE model_field (field_id INT UNSIGNED NOT NULL, kind VARCHAR(12) NOT NULL, part VARCHAR(160) NOT NULL,
            model_id INT UNSIGNED NOT NULL, INDEX IDX_65B665AF7975B7E7 (model_id), INDEX model_field_used (field_id), PRIMARY KEY
            (model_id, field_id, kind, part)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE analytic_model (id INT UNSIGNED AUTO_INCREMENT NOT NULL, name VARCHAR(120) NOT NULL, purpose VARCHAR(400)
            NOT NULL, shared TINYINT NOT NULL, definition MEDIUMTEXT NOT NULL, changed_at DATETIME NOT NULL, looked JSON DEFAULT
            NULL, looked_at DATETIME DEFAULT NULL, owner_id INT UNSIGNED NOT NULL, source_id INT UNSIGNED NOT NULL, connection_id
            INT UNSIGNED DEFAULT NULL, INDEX IDX_E3C30B6B7E3C61F9 (owner_id), INDEX IDX_E3C30B6B953C1C61 (source_id), INDEX
            IDX_E3C30B6BDD03F01 (connection_id), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE kept_trial (id INT UNSIGNED AUTO_INCREMENT NOT NULL, name VARCHAR(160) NOT NULL, needed_by VARCHAR(200) NOT
            NULL, expected LONGTEXT NOT NULL, question TEXT NOT NULL, rows_published TINYINT NOT NULL, state VARCHAR(12) NOT NULL,
            words LONGTEXT NOT NULL, plan MEDIUMTEXT NOT NULL, answer JSON DEFAULT NULL, changed JSON DEFAULT NULL, asked_at
            DATETIME DEFAULT NULL, model_id INT UNSIGNED NOT NULL, kept_by_id INT UNSIGNED NOT NULL, INDEX IDX_275625B27975B7E7
            (model_id), INDEX IDX_275625B2F9135B89 (kept_by_id), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE
            `utf8mb4_unicode_ci`');
        $this->addSql('ALTER TABLE model_field ADD CONSTRAINT FK_65B665AF7975B7E7 FOREIGN KEY (model_id) REFERENCES analytic_model (id) ON
            DELETE CASCADE');
        $this->addSql('ALTER TABLE analytic_model ADD CONSTRAINT FK_E3C30B6B7E3C61F9 FOREIGN KEY (owner_id) REFERENCES account (id)');
        $this->addSql('ALTER TABLE analytic_model ADD CONSTRAINT FK_E3C30B6B953C1C61 FOREIGN KEY (source_id) REFERENCES source (id)');
        $this->addSql('ALTER TABLE analytic_model ADD CONSTRAINT FK_E3C30B6BDD03F01 FOREIGN KEY (connection_id) REFERENCES connection (id) ON
            DELETE SET NULL');
        $this->addSql('ALTER TABLE kept_trial ADD CONSTRAINT FK_275625B27975B7E7 FOREIGN KEY (model_id) REFERENCES analytic_model (id) ON
            DELETE CASCADE');
        $this->addSql('ALTER TABLE kept_trial ADD CONSTRAINT FK_275625B2F9135B89 FOREIGN KEY (kept_by_id) REFERENCES account (id)');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE kept_trial');
        $this->addSql('DROP TABLE model_field');
        $this->addSql('DROP TABLE analytic_model');
    }
}
