<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** Readers may ask shared models, unless an administrator takes that away or the owner of a model withholds it. What is asked is counted by measure. */
final class Version20261201220000 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Shared models are asked by readers';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("UPDATE account_role SET acts = JSON_ARRAY_APPEND(acts, '$', 'ask models')"
            ." WHERE (name = 'reader' OR JSON_CONTAINS(acts, '\"ask\"')) AND NOT JSON_CONTAINS(acts, '\"ask models\"')");
        $this->addSql("ALTER TABLE analytic_model ADD withheld TINYINT(1) NOT NULL DEFAULT 0, ADD shared_despite VARCHAR(400) NOT NULL DEFAULT '',"
            ." ADD accepted JSON NOT NULL DEFAULT '[]'");
        $this->addSql('ALTER TABLE analytic_model ALTER withheld DROP DEFAULT, ALTER shared_despite DROP DEFAULT, ALTER accepted DROP DEFAULT');
        $this->addSql('CREATE TABLE model_asked (model_id INT UNSIGNED NOT NULL, measure VARCHAR(160) NOT NULL, times INT UNSIGNED NOT NULL,'
            .' last_at DATETIME NOT NULL, INDEX IDX_336E98077975B7E7 (model_id), PRIMARY KEY (model_id, measure))');
        $this->addSql('ALTER TABLE model_asked ADD CONSTRAINT FK_336E98077975B7E7 FOREIGN KEY (model_id) REFERENCES analytic_model (id) ON DELETE CASCADE');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE model_asked');
        $this->addSql('ALTER TABLE analytic_model DROP withheld, DROP shared_despite, DROP accepted');
        $this->addSql("UPDATE account_role SET acts = JSON_REMOVE(acts, JSON_UNQUOTE(JSON_SEARCH(acts, 'one', 'ask models')))"
            ." WHERE JSON_CONTAINS(acts, '\"ask models\"')");
    }
}
