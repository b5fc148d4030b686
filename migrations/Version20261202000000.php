<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** A trial that is kept no more can be kept again; and what a model says through another connection is looked at before it is pointed there. */
final class Version20261202000000 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Kept trials have a way back';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('ALTER TABLE kept_trial ADD removed TINYINT(1) NOT NULL DEFAULT 0');
        $this->addSql('ALTER TABLE kept_trial ALTER removed DROP DEFAULT');
        $this->addSql('ALTER TABLE analytic_model ADD repointing JSON DEFAULT NULL');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE analytic_model DROP repointing');
        $this->addSql('DELETE FROM kept_trial WHERE removed');
        $this->addSql('ALTER TABLE kept_trial DROP removed');
    }
}
