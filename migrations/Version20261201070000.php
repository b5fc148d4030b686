<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** A role is a list of acts, which administrators change. Those that there were may what they might. */
final class Version20261201070000 extends AbstractMigration
{
    private const ROLES = [
        'reader' => ['read'],
        'steward' => ['read', 'describe', 'survey', 'decide', 'publish', 'ask', 'see personal'],
        'administrator' => ['read', 'describe', 'survey', 'decide', 'publish', 'ask', 'see personal', 'administer'],
    ];

    public function getDescription(): string
    {
        return 'Roles are kept as lists of acts';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE account_role (id INT UNSIGNED AUTO_INCREMENT NOT NULL, name VARCHAR(40) NOT NULL, acts JSON NOT NULL,'
            .' UNIQUE INDEX UNIQ_DBFA0DC05E237E06 (name), PRIMARY KEY (id))');
        foreach (self::ROLES as $name => $acts) {
            $this->addSql('INSERT INTO account_role (name, acts) VALUES (?, ?)', [$name, json_encode($acts, \JSON_THROW_ON_ERROR)]);
        }
        $this->addSql('ALTER TABLE account ADD role_id INT UNSIGNED NOT NULL');
        $this->addSql('UPDATE account a JOIN account_role r ON r.name = a.role SET a.role_id = r.id');
        $this->addSql('ALTER TABLE account DROP role');
        $this->addSql('CREATE INDEX IDX_7D3656A4D60322AC ON account (role_id)');
        $this->addSql('ALTER TABLE account ADD CONSTRAINT FK_7D3656A4D60322AC FOREIGN KEY (role_id) REFERENCES account_role (id)');
    }

    public function down(Schema $schema): void
    {
        $this->addSql("ALTER TABLE account ADD role VARCHAR(20) NOT NULL DEFAULT 'reader'");
        // What an earlier version does not know may do no more than look things up.
        $this->addSql("UPDATE account a JOIN account_role r ON r.id = a.role_id SET a.role = r.name WHERE r.name IN ('reader', 'steward', 'administrator')");
        $this->addSql('ALTER TABLE account ALTER role DROP DEFAULT, DROP FOREIGN KEY FK_7D3656A4D60322AC, DROP role_id');
        $this->addSql('DROP TABLE account_role');
    }
}
