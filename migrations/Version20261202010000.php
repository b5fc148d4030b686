<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** What is to happen to rows that a planned change cannot keep as they are, and how many there are. */
final class Version20261202010000 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Planned changes ask for rows';
    }

    public function up(Schema $schema): void
    {
        $this->addSql("ALTER TABLE design ADD fates JSON NOT NULL DEFAULT '[]', ADD counted JSON DEFAULT NULL");
        $this->addSql('ALTER TABLE design ALTER fates DROP DEFAULT');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('ALTER TABLE design DROP fates, DROP counted');
    }
}
