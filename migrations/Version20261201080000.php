<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Diagrams, models, designs and queries are kept alike: with an owner, shared or not, and thrown away with a way back. */
final class Version20261201080000 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'What people keep is kept alike';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE analytic_model ADD thrown_at DATETIME DEFAULT NULL');
        $this->addSql('ALTER TABLE design ADD thrown_at DATETIME DEFAULT NULL');
        $this->addSql('ALTER TABLE diagram ADD shared TINYINT(1) NOT NULL DEFAULT 1, ADD thrown_at DATETIME DEFAULT NULL');
        $this->addSql('ALTER TABLE diagram ALTER shared DROP DEFAULT');
        $this->addSql("ALTER TABLE kept_query ADD purpose VARCHAR(400) NOT NULL DEFAULT '', ADD shared TINYINT(1) NOT NULL DEFAULT 1,"
            .' ADD thrown_at DATETIME DEFAULT NULL, CHANGE kept_at changed_at DATETIME NOT NULL, CHANGE account_id owner_id INT UNSIGNED NOT NULL');
        $this->addSql('ALTER TABLE kept_query RENAME INDEX IDX_7749CE669B6B5FBA TO IDX_7749CE667E3C61F9');
        $this->addSql('ALTER TABLE kept_query ALTER purpose DROP DEFAULT, ALTER shared DROP DEFAULT');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE kept_query RENAME INDEX IDX_7749CE667E3C61F9 TO IDX_7749CE669B6B5FBA');
        $this->addSql('ALTER TABLE kept_query DROP purpose, DROP shared, DROP thrown_at, CHANGE changed_at kept_at DATETIME NOT NULL,'
            .' CHANGE owner_id account_id INT UNSIGNED NOT NULL');
        $this->addSql('ALTER TABLE diagram DROP shared, DROP thrown_at');
        $this->addSql('ALTER TABLE design DROP thrown_at');
        $this->addSql('ALTER TABLE analytic_model DROP thrown_at');
    }
}
