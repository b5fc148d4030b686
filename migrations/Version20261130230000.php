<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;
use Fasti\Design\DesignBrief;
use Fasti\Model\KeptModel;
use Fasti\Model\ModelBrief;

/**
 * What lists and the search need of designs and models stands beside them; what engines said of failures, which may hold values of rows, is
 * forgotten.
 */
final class Version20261130230000 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Designs and models in brief; no engine\'s words are kept';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE design ADD brief JSON NOT NULL DEFAULT '{}'");
        $this->addSql("ALTER TABLE analytic_model ADD brief JSON NOT NULL DEFAULT '{}'");
        $this->addSql('ALTER TABLE design ALTER brief DROP DEFAULT');
        $this->addSql('ALTER TABLE analytic_model ALTER brief DROP DEFAULT');
        $this->addSql("ALTER TABLE job ADD worker VARCHAR(100) NOT NULL DEFAULT ''");
        $this->addSql('ALTER TABLE job ALTER worker DROP DEFAULT');
        // As earlier versions began what an engine said; sentences of Fasti's own stay.
        $engines = static fn (string $column): string => "($column LIKE '%answered with an error: %' OR $column LIKE '%SQLite could not read %')";
        $this->addSql("UPDATE kept_trial SET words = 'What failed is not kept any more; ask again.' WHERE {$engines('words')}");
        $this->addSql("UPDATE job SET error = 'It failed; what was said of it then is not kept any more.' WHERE {$engines('error')}");
    }

    public function postUp(Schema $schema): void
    {
        foreach ($this->connection->fetchFirstColumn('SELECT id FROM design') as $id) {
            $outline = $this->connection->fetchOne('SELECT readable FROM design WHERE id = ?', [$id]);
            $this->connection->executeStatement('UPDATE design SET brief = ? WHERE id = ?', [DesignBrief::of(\is_string($outline) ? $outline : '')->json(), $id]);
        }
        foreach ($this->connection->fetchFirstColumn('SELECT id FROM analytic_model') as $id) {
            $definition = $this->connection->fetchOne('SELECT definition FROM analytic_model WHERE id = ?', [$id]);
            $brief = ModelBrief::of(KeptModel::modelOf(\is_string($definition) ? $definition : ''));
            $this->connection->executeStatement('UPDATE analytic_model SET brief = ? WHERE id = ?', [$brief->json(), $id]);
        }
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE design DROP brief');
        $this->addSql('ALTER TABLE analytic_model DROP brief');
        $this->addSql('ALTER TABLE job DROP worker');
    }
}
