<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;

final class Version20261126120000 extends AbstractMigration
{
    public function getDescription(): string
    {
        return 'Drafts, the queue, code lists, terms, coverage day by day, what checks are set to';
    }

    public function up(Schema $schema): void
    {
        $this->addSql('CREATE TABLE check_setting (check_name VARCHAR(40) NOT NULL, runs TINYINT NOT NULL, severity VARCHAR(12) DEFAULT NULL,
            PRIMARY KEY (check_name)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE term (id INT UNSIGNED AUTO_INCREMENT NOT NULL, name VARCHAR(190) NOT NULL, area VARCHAR(120) NOT NULL,
            definition LONGTEXT NOT NULL, synonyms LONGTEXT NOT NULL, broader LONGTEXT NOT NULL, related LONGTEXT NOT NULL, owner
            VARCHAR(120) NOT NULL, standing VARCHAR(12) NOT NULL, changed_at DATETIME NOT NULL, UNIQUE INDEX term_once (name, area),
            PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE code (id INT UNSIGNED AUTO_INCREMENT NOT NULL, code VARCHAR(190) NOT NULL COLLATE `utf8mb4_nopad_bin`, label
            VARCHAR(400) NOT NULL, meaning LONGTEXT NOT NULL, position INT UNSIGNED NOT NULL, valid_from VARCHAR(10) NOT NULL,
            valid_to VARCHAR(10) NOT NULL, replaced_by VARCHAR(190) NOT NULL, removed TINYINT DEFAULT 0 NOT NULL, list_id INT
            UNSIGNED NOT NULL, INDEX IDX_771530983DAE168B (list_id), INDEX code_order (list_id, position, id), UNIQUE INDEX code_once
            (list_id, code), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE code_list (id INT UNSIGNED AUTO_INCREMENT NOT NULL, name VARCHAR(190) NOT NULL, meaning LONGTEXT NOT NULL,
            changed_at DATETIME NOT NULL, UNIQUE INDEX UNIQ_722392D95E237E06 (name), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4
            COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE draft_decision (id INT UNSIGNED AUTO_INCREMENT NOT NULL, topic VARCHAR(20) NOT NULL, topic_id INT UNSIGNED
            NOT NULL, property VARCHAR(20) NOT NULL, rule VARCHAR(40) NOT NULL, evidence CHAR(32) NOT NULL, taken TINYINT NOT NULL,
            at DATETIME NOT NULL, account_id INT UNSIGNED NOT NULL, INDEX IDX_263306429B6B5FBA (account_id), INDEX draft_decision_of
            (topic, topic_id, property), INDEX draft_decision_rule (rule, taken), PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4
            COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE drafts_made (entry_id INT UNSIGNED NOT NULL, stale TINYINT NOT NULL, at DATETIME NOT NULL, PRIMARY KEY
            (entry_id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE draft (topic VARCHAR(20) NOT NULL, topic_id INT UNSIGNED NOT NULL, property VARCHAR(20) NOT NULL, place
            SMALLINT UNSIGNED NOT NULL, entry_id INT UNSIGNED NOT NULL, text MEDIUMTEXT NOT NULL, confidence DOUBLE PRECISION NOT
            NULL, because JSON NOT NULL, rule VARCHAR(40) NOT NULL, evidence CHAR(32) NOT NULL, INDEX draft_of (entry_id), PRIMARY
            KEY (topic, topic_id, property, place)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE short_form (short VARCHAR(20) NOT NULL COLLATE `utf8mb4_nopad_bin`, stands VARCHAR(120) NOT NULL, standing
            VARCHAR(10) NOT NULL, because VARCHAR(400) NOT NULL, confidence DOUBLE PRECISION NOT NULL, PRIMARY KEY (short)) DEFAULT
            CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE taking (id INT UNSIGNED AUTO_INCREMENT NOT NULL, at DATETIME NOT NULL, changes JSON NOT NULL, text LONGTEXT
            NOT NULL, undone_at DATETIME DEFAULT NULL, account_id INT UNSIGNED NOT NULL, INDEX IDX_6AA82F69B6B5FBA (account_id),
            PRIMARY KEY (id)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE coverage_day (on_day DATE NOT NULL, kind VARCHAR(10) NOT NULL, name VARCHAR(190) NOT NULL COLLATE
            `utf8mb4_nopad_bin`, fields INT UNSIGNED NOT NULL, described INT UNSIGNED NOT NULL, PRIMARY KEY (on_day, kind, name))
            DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE later (topic VARCHAR(20) NOT NULL, topic_id INT UNSIGNED NOT NULL, until_at DATETIME NOT NULL, account_id
            INT UNSIGNED NOT NULL, INDEX IDX_EC03B2499B6B5FBA (account_id), PRIMARY KEY (account_id, topic, topic_id)) DEFAULT
            CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE sought (words VARCHAR(120) NOT NULL COLLATE `utf8mb4_nopad_bin`, times INT UNSIGNED NOT NULL, last_at
            DATETIME NOT NULL, PRIMARY KEY (words)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE waiting (topic VARCHAR(20) NOT NULL, topic_id INT UNSIGNED NOT NULL, entry_id INT UNSIGNED NOT NULL,
            source_id INT UNSIGNED NOT NULL, place DOUBLE PRECISION NOT NULL, drafted TINYINT NOT NULL, why JSON NOT NULL,
            INDEX waiting_order (place, entry_id, topic, topic_id),
            INDEX waiting_entry (entry_id), INDEX waiting_source (source_id, place, entry_id, topic, topic_id), PRIMARY KEY (topic, topic_id))
            DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('CREATE TABLE waiting_tally (source_id INT UNSIGNED NOT NULL, topic VARCHAR(20) NOT NULL, drafted TINYINT NOT NULL, n INT NOT NULL,
            PRIMARY KEY (source_id, topic, drafted)) DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`');
        $this->addSql('ALTER TABLE code ADD CONSTRAINT FK_771530983DAE168B FOREIGN KEY (list_id) REFERENCES code_list (id) ON DELETE CASCADE');
        $this->addSql('ALTER TABLE draft_decision ADD CONSTRAINT FK_263306429B6B5FBA FOREIGN KEY (account_id) REFERENCES account (id)');
        $this->addSql('ALTER TABLE taking ADD CONSTRAINT FK_6AA82F69B6B5FBA FOREIGN KEY (account_id) REFERENCES account (id)');
        $this->addSql('ALTER TABLE later ADD CONSTRAINT FK_EC03B2499B6B5FBA FOREIGN KEY (account_id) REFERENCES account (id)');
        $this->addSql('ALTER TABLE change_event ADD INDEX change_at (at)');
        $this->addSql('ALTER TABLE finding ADD set_aside_why VARCHAR(255) NOT NULL, ADD set_aside_until DATE DEFAULT NULL,
            ADD INDEX finding_new (since, severity, ended_at, gone, set_aside_at, set_aside_until, check_name, check_group)');
        $this->addSql("UPDATE finding SET severity = IF(severity = 'attention', IF(check_name IN ('no-primary-key', 'view-not-understood', 'uses-retired',
            'unlisted-codes'), 'fault', 'doubt'), 'note')");
    }

    public function down(Schema $schema): void
    {
        $this->addSql("UPDATE finding SET severity = IF(severity = 'note', 'notice', 'attention')");
        $this->addSql('ALTER TABLE change_event DROP INDEX change_at');
        $this->addSql('ALTER TABLE finding DROP INDEX finding_new, DROP set_aside_why, DROP set_aside_until');
        $this->addSql('DROP TABLE code');
        $this->addSql('DROP TABLE check_setting');
        $this->addSql('DROP TABLE term');
        $this->addSql('DROP TABLE code_list');
        $this->addSql('DROP TABLE draft_decision');
        $this->addSql('DROP TABLE drafts_made');
        $this->addSql('DROP TABLE draft');
        $this->addSql('DROP TABLE short_form');
        $this->addSql('DROP TABLE taking');
        $this->addSql('DROP TABLE coverage_day');
        $this->addSql('DROP TABLE later');
        $this->addSql('DROP TABLE sought');
        $this->addSql('DROP TABLE waiting');
        $this->addSql('DROP TABLE waiting_tally');
    }
}
