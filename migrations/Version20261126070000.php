<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

final class Version20261126070000 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Diagrams that are kept, and their pieces';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE diagram (id INT UNSIGNED AUTO_INCREMENT NOT NULL, name VARCHAR(120) NOT NULL, purpose VARCHAR(400) NOT NULL,
            standing VARCHAR(12) NOT NULL, changed_at DATETIME NOT NULL, moves INT UNSIGNED NOT NULL, ways MEDIUMTEXT NOT NULL, known MEDIUMTEXT NOT NULL,
            small MEDIUMTEXT NOT NULL, owner_id INT UNSIGNED NOT NULL, INDEX IDX_D75D83607E3C61F9 (owner_id), PRIMARY KEY (id))
            DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci` ENGINE = InnoDB');
        $this->addSql('CREATE TABLE diagram_piece (piece VARCHAR(24) NOT NULL, entry_id INT UNSIGNED DEFAULT NULL, value TEXT DEFAULT NULL,
            move INT UNSIGNED NOT NULL, diagram_id INT UNSIGNED NOT NULL, account_id INT UNSIGNED NOT NULL, INDEX IDX_81E1D66D9B6B5FBA (account_id),
            INDEX IDX_81E1D66D2BE2E806 (diagram_id), INDEX diagram_piece_entry (entry_id), INDEX diagram_piece_move (diagram_id, move),
            PRIMARY KEY (diagram_id, piece)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci` ENGINE = InnoDB');
        $this->addSql('CREATE TABLE diagram_placing (scope VARCHAR(120) NOT NULL, places MEDIUMTEXT NOT NULL, changes INT UNSIGNED NOT NULL,
            PRIMARY KEY (scope)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci` ENGINE = InnoDB');
        $this->addSql('ALTER TABLE diagram ADD CONSTRAINT FK_D75D83607E3C61F9 FOREIGN KEY (owner_id) REFERENCES account (id)');
        $this->addSql('ALTER TABLE diagram_piece ADD CONSTRAINT FK_81E1D66D2BE2E806 FOREIGN KEY (diagram_id) REFERENCES diagram (id) ON DELETE CASCADE');
        $this->addSql('ALTER TABLE diagram_piece ADD CONSTRAINT FK_81E1D66D9B6B5FBA FOREIGN KEY (account_id) REFERENCES account (id)');
    }

    public function down(Schema $schema): void
    {
        $this->addSql('DROP TABLE diagram_placing');
        $this->addSql('DROP TABLE diagram_piece');
        $this->addSql('DROP TABLE diagram');
    }
}
