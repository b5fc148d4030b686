<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

/** The first state of the database. */
final class Version20261125090000 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Accounts, sources, surveys, the register with its history, editions, and the queue of long work';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE account (id INT UNSIGNED AUTO_INCREMENT NOT NULL, email VARCHAR(180) NOT NULL, name VARCHAR(120) NOT NULL, role VARCHAR(20) NOT NULL, password_hash VARCHAR(255) NOT NULL, active TINYINT NOT NULL, UNIQUE INDEX UNIQ_7D3656A4E7927C74 (email), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE change_event (id INT UNSIGNED AUTO_INCREMENT NOT NULL, subject VARCHAR(8) NOT NULL, subject_id INT UNSIGNED NOT NULL, entry_id INT UNSIGNED NOT NULL, property VARCHAR(20) NOT NULL, text_before MEDIUMTEXT NOT NULL, text_after MEDIUMTEXT NOT NULL, at DATETIME NOT NULL, sitting VARCHAR(40) NOT NULL, account_id INT UNSIGNED NOT NULL, INDEX IDX_677EB7EA9B6B5FBA (account_id), INDEX change_of (subject, subject_id, property, id), INDEX change_in_entry (entry_id, id), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE connection (id INT UNSIGNED AUTO_INCREMENT NOT NULL, label VARCHAR(40) NOT NULL, engine VARCHAR(20) NOT NULL, host VARCHAR(255) NOT NULL, port INT NOT NULL, database_name VARCHAR(190) NOT NULL, account VARCHAR(190) NOT NULL, sealed_secret LONGTEXT NOT NULL, PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE edition (id INT UNSIGNED AUTO_INCREMENT NOT NULL, number INT NOT NULL, title VARCHAR(190) NOT NULL, note LONGTEXT NOT NULL, state VARCHAR(12) NOT NULL, asked_at DATETIME NOT NULL, made_at DATETIME DEFAULT NULL, done INT NOT NULL, total INT NOT NULL, error LONGTEXT NOT NULL, counts JSON NOT NULL, scope JSON NOT NULL, account_id INT UNSIGNED DEFAULT NULL, UNIQUE INDEX UNIQ_A891181F96901F54 (number), INDEX IDX_A891181F9B6B5FBA (account_id), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE entry (id INT UNSIGNED AUTO_INCREMENT NOT NULL, schema_name VARCHAR(190) NOT NULL COLLATE `utf8mb4_nopad_bin`, name VARCHAR(190) NOT NULL COLLATE `utf8mb4_nopad_bin`, kind VARCHAR(12) NOT NULL, comment LONGTEXT NOT NULL, row_estimate BIGINT DEFAULT NULL, size_bytes BIGINT DEFAULT NULL, facts JSON NOT NULL, fingerprint CHAR(32) NOT NULL, gone_at DATETIME DEFAULT NULL, business_name VARCHAR(190) NOT NULL, grain LONGTEXT NOT NULL, meaning LONGTEXT NOT NULL, standing VARCHAR(12) NOT NULL, field_count INT UNSIGNED NOT NULL, described_count INT UNSIGNED NOT NULL, changed_at DATETIME DEFAULT NULL, source_id INT UNSIGNED NOT NULL, identifier_id INT UNSIGNED NOT NULL, INDEX IDX_2B219D70953C1C61 (source_id), INDEX IDX_2B219D70EF794DF6 (identifier_id), INDEX entry_by_name (name, id), FULLTEXT INDEX entry_text (business_name, grain, meaning), UNIQUE INDEX entry_place (source_id, schema_name, name), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE entry_join (id INT UNSIGNED AUTO_INCREMENT NOT NULL, name VARCHAR(190) NOT NULL COLLATE `utf8mb4_nopad_bin`, pairs JSON NOT NULL, kind VARCHAR(12) NOT NULL, on_delete VARCHAR(20) NOT NULL, on_update VARCHAR(20) NOT NULL, from_end VARCHAR(12) NOT NULL, to_end VARCHAR(12) NOT NULL, verb VARCHAR(190) NOT NULL, verb_back VARCHAR(190) NOT NULL, gone_at DATETIME DEFAULT NULL, from_entry_id INT UNSIGNED NOT NULL, to_entry_id INT UNSIGNED NOT NULL, INDEX IDX_8C43A0C4FCD9A9D8 (from_entry_id), INDEX IDX_8C43A0C4776FD7EC (to_entry_id), UNIQUE INDEX join_place (from_entry_id, name), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE field (id INT UNSIGNED AUTO_INCREMENT NOT NULL, name VARCHAR(190) NOT NULL COLLATE `utf8mb4_nopad_bin`, position INT UNSIGNED NOT NULL, facts JSON NOT NULL, gone_at DATETIME DEFAULT NULL, business_name VARCHAR(190) NOT NULL, meaning LONGTEXT NOT NULL, entry_id INT UNSIGNED NOT NULL, identifier_id INT UNSIGNED NOT NULL, INDEX IDX_5BF54558BA364942 (entry_id), INDEX IDX_5BF54558EF794DF6 (identifier_id), FULLTEXT INDEX field_text (business_name, meaning), UNIQUE INDEX field_place (entry_id, name), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE identifier (id INT UNSIGNED AUTO_INCREMENT NOT NULL, folded VARCHAR(190) NOT NULL COLLATE `utf8mb4_nopad_bin`, UNIQUE INDEX UNIQ_772E836A1876BC9C (folded), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE identifier_gram (gram VARCHAR(3) NOT NULL COLLATE `utf8mb4_nopad_bin`, identifier_id INT UNSIGNED NOT NULL, INDEX IDX_BCC36962EF794DF6 (identifier_id), PRIMARY KEY (gram, identifier_id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE sign_in_failure (who VARCHAR(64) NOT NULL, failures INT NOT NULL, last DATETIME NOT NULL, PRIMARY KEY (who)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE source (id INT UNSIGNED AUTO_INCREMENT NOT NULL, name VARCHAR(120) NOT NULL, purpose LONGTEXT NOT NULL, owner VARCHAR(120) NOT NULL, choice JSON NOT NULL, added_at DATETIME NOT NULL, surveyed_at DATETIME DEFAULT NULL, connection_id INT UNSIGNED NOT NULL, UNIQUE INDEX UNIQ_5F8A7F735E237E06 (name), UNIQUE INDEX UNIQ_5F8A7F73DD03F01 (connection_id), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE survey (id INT UNSIGNED AUTO_INCREMENT NOT NULL, state VARCHAR(12) NOT NULL, asked_at DATETIME NOT NULL, started_at DATETIME DEFAULT NULL, ended_at DATETIME DEFAULT NULL, heard_at DATETIME DEFAULT NULL, doing VARCHAR(190) NOT NULL, done INT NOT NULL, total INT NOT NULL, cancel_asked TINYINT NOT NULL, error LONGTEXT NOT NULL, summary JSON NOT NULL, catalog LONGBLOB DEFAULT NULL, source_id INT UNSIGNED NOT NULL, account_id INT UNSIGNED DEFAULT NULL, INDEX IDX_AD5F9BFC953C1C61 (source_id), INDEX IDX_AD5F9BFC9B6B5FBA (account_id), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE messenger_messages (id BIGINT AUTO_INCREMENT NOT NULL, body LONGTEXT NOT NULL, headers LONGTEXT NOT NULL, queue_name VARCHAR(190) NOT NULL, created_at DATETIME NOT NULL, available_at DATETIME NOT NULL, delivered_at DATETIME DEFAULT NULL, INDEX messenger_queue (queue_name, available_at, delivered_at, id), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('ALTER TABLE change_event ADD CONSTRAINT FK_677EB7EA9B6B5FBA FOREIGN KEY (account_id) REFERENCES account (id)');
        $this->addSql('ALTER TABLE edition ADD CONSTRAINT FK_A891181F9B6B5FBA FOREIGN KEY (account_id) REFERENCES account (id)');
        $this->addSql('ALTER TABLE entry ADD CONSTRAINT FK_2B219D70953C1C61 FOREIGN KEY (source_id) REFERENCES source (id)');
        $this->addSql('ALTER TABLE entry ADD CONSTRAINT FK_2B219D70EF794DF6 FOREIGN KEY (identifier_id) REFERENCES identifier (id)');
        $this->addSql('ALTER TABLE entry_join ADD CONSTRAINT FK_8C43A0C4FCD9A9D8 FOREIGN KEY (from_entry_id) REFERENCES entry (id)');
        $this->addSql('ALTER TABLE entry_join ADD CONSTRAINT FK_8C43A0C4776FD7EC FOREIGN KEY (to_entry_id) REFERENCES entry (id)');
        $this->addSql('ALTER TABLE field ADD CONSTRAINT FK_5BF54558BA364942 FOREIGN KEY (entry_id) REFERENCES entry (id)');
        $this->addSql('ALTER TABLE field ADD CONSTRAINT FK_5BF54558EF794DF6 FOREIGN KEY (identifier_id) REFERENCES identifier (id)');
        $this->addSql('ALTER TABLE identifier_gram ADD CONSTRAINT FK_BCC36962EF794DF6 FOREIGN KEY (identifier_id) REFERENCES identifier (id) ON DELETE CASCADE');
        $this->addSql('ALTER TABLE source ADD CONSTRAINT FK_5F8A7F73DD03F01 FOREIGN KEY (connection_id) REFERENCES connection (id)');
        $this->addSql('ALTER TABLE survey ADD CONSTRAINT FK_AD5F9BFC953C1C61 FOREIGN KEY (source_id) REFERENCES source (id)');
        $this->addSql('ALTER TABLE survey ADD CONSTRAINT FK_AD5F9BFC9B6B5FBA FOREIGN KEY (account_id) REFERENCES account (id)');
    }
}
