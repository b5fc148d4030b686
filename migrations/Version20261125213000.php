<?php

declare(strict_types=1);

namespace Fasti\Migrations;

use Doctrine\DBAL\Schema\Schema;
use Doctrine\Migrations\AbstractMigration;
use Fasti\Register\Joins;
use Fasti\Support\Row;

/**
 * One room for each table: jobs of all kinds in one, several connections for a source, texts that any topic may have, joins
 * known by the fields that they pair, and findings that stay from survey to survey. Everything that was written is kept.
 */
final class Version20261125213000 extends AbstractMigration
{
    private const TEXT = 'DEFAULT CHARACTER SET utf8mb4 COLLATE `utf8mb4_unicode_ci`';
    private const BROKEN = 'Fasti was brought up to date meanwhile. Ask for it again.';

    public function getDescription(): string
    {
        return 'One room for each table.';
    }

    public function isTransactional(): bool
    {
        return false;
    }

    public function up(Schema $schema): void
    {
        $this->addSql('DELETE FROM sign_in_failure');
        $this->addSql('ALTER TABLE sign_in_failure ADD succeeded_at DATETIME DEFAULT NULL');
        $this->jobs();
        $this->connections();
        $this->texts();
        $this->findings();
        $this->entries();
        $this->joins();
    }

    private function jobs(): void
    {
        $this->addSql('CREATE TABLE job (id INT UNSIGNED AUTO_INCREMENT NOT NULL, kind VARCHAR(30) NOT NULL, lane VARCHAR(60) NOT NULL,
            state VARCHAR(12) NOT NULL, asked VARCHAR(8) NOT NULL, doing VARCHAR(400) NOT NULL, done INT NOT NULL, total INT NOT NULL,
            error LONGTEXT NOT NULL, notes JSON NOT NULL, payload JSON NOT NULL, asked_at DATETIME NOT NULL, started_at DATETIME DEFAULT NULL,
            heard_at DATETIME DEFAULT NULL, ended_at DATETIME DEFAULT NULL, account_id INT UNSIGNED DEFAULT NULL, INDEX IDX_FBD8E0F89B6B5FBA (account_id),
            INDEX job_lane (lane, state), INDEX job_state (state, heard_at), PRIMARY KEY (id)) '.self::TEXT);
        $this->addSql('ALTER TABLE job ADD CONSTRAINT FK_FBD8E0F89B6B5FBA FOREIGN KEY (account_id) REFERENCES account (id)');

        $state = "IF(state IN ('waiting', 'running'), 'failed', state)";
        $error = "IF(state IN ('waiting', 'running'), '".self::BROKEN."', error)";
        $into = 'INSERT INTO job (kind, lane, state, asked, doing, done, total, error, notes, payload, asked_at, started_at, heard_at, ended_at, account_id)';
        $this->addSql("$into SELECT 'survey', CONCAT('source ', source_id), $state, '', doing, done, total, $error, '[]', JSON_OBJECT('moved', id),
            asked_at, started_at, heard_at, ended_at, account_id FROM survey ORDER BY id");
        $this->addSql("$into SELECT 'profile', CONCAT('source ', source_id), $state, '', doing, GREATEST(0, total - JSON_LENGTH(waiting)), total, $error, notes,
            JSON_OBJECT('source', source_id, 'waiting', JSON_QUERY(waiting, '$'), 'entry', 0), asked_at, asked_at, heard_at, ended_at,
                account_id FROM profile_run ORDER BY id");
        $this->addSql("$into SELECT 'edition', 'editions', $state, '', '', done, total, $error, '[]', JSON_OBJECT('moved', id),
            asked_at, asked_at, made_at, made_at, account_id FROM edition ORDER BY id");
        foreach (['survey' => 'FK_AD5F9BFCBE04EA9', 'edition' => 'FK_A891181FBE04EA9'] as $table => $key) {
            $this->addSql("ALTER TABLE $table ADD job_id INT UNSIGNED DEFAULT NULL");
            $this->addSql("UPDATE $table t JOIN job j ON j.kind = '$table' AND JSON_VALUE(j.payload, '$.moved') = t.id SET t.job_id = j.id");
            $this->addSql("ALTER TABLE $table CHANGE job_id job_id INT UNSIGNED NOT NULL,
                ADD CONSTRAINT $key FOREIGN KEY (job_id) REFERENCES job (id), ADD UNIQUE INDEX ".str_replace('FK_', 'UNIQ_', $key).' (job_id)');
        }
        // A survey that came to nothing has no end of its own any more; and what stands out is found anew, by checks.
        $this->addSql("UPDATE survey SET ended_at = NULL WHERE state <> 'done'");
        $this->addSql("UPDATE survey SET summary = JSON_REMOVE(summary, '$.standouts') WHERE JSON_EXISTS(summary, '$.standouts')");
        $this->addSql('ALTER TABLE survey ADD through VARCHAR(40) NOT NULL, DROP FOREIGN KEY FK_AD5F9BFC9B6B5FBA, DROP INDEX IDX_AD5F9BFC9B6B5FBA,
            DROP state, DROP asked_at, DROP started_at, DROP heard_at, DROP doing, DROP done, DROP total, DROP cancel_asked, DROP error, DROP account_id');
        $this->addSql('ALTER TABLE edition DROP state, DROP asked_at, DROP done, DROP total, DROP error');
        $this->addSql('DROP TABLE profile_run');
        $this->addSql("UPDATE job SET payload = '{}' WHERE kind IN ('survey', 'edition')");
    }

    private function connections(): void
    {
        $this->addSql('ALTER TABLE connection ADD in_use TINYINT NOT NULL DEFAULT 1, ADD inventory JSON DEFAULT NULL,
            ADD looked_at DATETIME DEFAULT NULL, ADD source_id INT UNSIGNED DEFAULT NULL');
        $this->addSql('UPDATE connection c JOIN source s ON s.connection_id = c.id SET c.source_id = s.id');
        $this->addSql('UPDATE survey v JOIN connection c ON c.source_id = v.source_id SET v.through = c.label');
        $this->addSql('ALTER TABLE source DROP FOREIGN KEY FK_5F8A7F73DD03F01, DROP INDEX UNIQ_5F8A7F73DD03F01, DROP connection_id');
        $this->addSql('DELETE FROM connection WHERE source_id IS NULL');
        $this->addSql('ALTER TABLE connection CHANGE in_use in_use TINYINT NOT NULL, CHANGE source_id source_id INT UNSIGNED NOT NULL,
            ADD CONSTRAINT FK_29F77366953C1C61 FOREIGN KEY (source_id) REFERENCES source (id) ON DELETE CASCADE,
            ADD INDEX IDX_29F77366953C1C61 (source_id), ADD UNIQUE INDEX connection_label (source_id, label)');
    }

    private function texts(): void
    {
        $this->addSql('ALTER TABLE change_event ADD page VARCHAR(20) NOT NULL DEFAULT \'entry\', CHANGE subject topic VARCHAR(20) NOT NULL,
            CHANGE subject_id topic_id INT UNSIGNED NOT NULL, CHANGE entry_id page_id INT UNSIGNED NOT NULL, DROP INDEX change_of, DROP INDEX change_in_entry');
        $this->addSql('ALTER TABLE change_event CHANGE page page VARCHAR(20) NOT NULL, ADD INDEX change_on_page (page, page_id, id),
            ADD INDEX change_of (topic, topic_id, property, id)');
        $this->addSql("UPDATE change_event SET text_before = IF(text_before = 'draft', 'open', text_before), text_after = IF(text_after = 'draft',
            'open', text_after)
            WHERE property = 'standing'");
        $this->addSql('CREATE TABLE said (topic VARCHAR(20) NOT NULL, topic_id INT UNSIGNED NOT NULL, property VARCHAR(20) NOT NULL,
            text MEDIUMTEXT NOT NULL, PRIMARY KEY (topic, topic_id, property)) '.self::TEXT);
        $this->addSql("INSERT INTO said (topic, topic_id, property, text) SELECT 'entry', id, 'jsonSchema', json_schema FROM entry WHERE json_schema <> ''");
    }

    private function findings(): void
    {
        $this->addSql('CREATE TABLE finding (id INT UNSIGNED AUTO_INCREMENT NOT NULL, identity CHAR(32) NOT NULL, check_name VARCHAR(40) NOT NULL,
            check_group VARCHAR(190) NOT NULL COLLATE `utf8mb4_nopad_bin`, gone TINYINT DEFAULT 0 NOT NULL, property VARCHAR(20) NOT NULL,
                title LONGTEXT NOT NULL,
            severity VARCHAR(12) NOT NULL, since DATETIME NOT NULL, ended_at DATETIME DEFAULT NULL, set_aside_at DATETIME DEFAULT NULL,
            source_id INT UNSIGNED NOT NULL, entry_id INT UNSIGNED NOT NULL, field_id INT UNSIGNED DEFAULT NULL, set_aside_by_id INT UNSIGNED DEFAULT NULL,
            UNIQUE INDEX UNIQ_A71913366A95E9C4 (identity), INDEX IDX_A7191336953C1C61 (source_id), INDEX IDX_A7191336BA364942 (entry_id),
            INDEX IDX_A7191336443707B0 (field_id), INDEX IDX_A71913369CF861BD (set_aside_by_id), INDEX finding_of (entry_id, ended_at),
            INDEX finding_group (source_id, check_name, ended_at), PRIMARY KEY (id)) '.self::TEXT);
        foreach (['FK_A7191336953C1C61' => 'source', 'FK_A7191336BA364942' => 'entry', 'FK_A7191336443707B0' => 'field'] as $key => $table) {
            $this->addSql("ALTER TABLE finding ADD CONSTRAINT $key FOREIGN KEY ({$table}_id) REFERENCES $table (id)");
        }
        $this->addSql('ALTER TABLE finding ADD CONSTRAINT FK_A71913369CF861BD FOREIGN KEY (set_aside_by_id) REFERENCES account (id)');
        $this->addSql("INSERT INTO finding (identity, check_name, check_group, gone, property, title, severity, since, set_aside_at, source_id,
            entry_id, field_id, set_aside_by_id)
            SELECT MD5(CONCAT('margin note ', m.id)), 'doubtful-text', '', e.gone_at IS NOT NULL, m.property, m.reason, 'attention', m.made_at,
                m.settled_at, e.source_id, m.entry_id, m.field_id, m.settled_by_id
            FROM margin_note m JOIN entry e ON e.id = m.entry_id");
        $this->addSql('DROP TABLE margin_note');
    }

    private function entries(): void
    {
        $this->addSql('ALTER TABLE entry DROP json_schema, CHANGE kind table_type VARCHAR(20) NOT NULL');
        $this->addSql("UPDATE entry SET standing = 'open' WHERE standing = 'draft'");
        $this->addSql("UPDATE entry SET facts = JSON_SET(JSON_REMOVE(facts, '$.traits'), '$.planned', TRUE)
            WHERE JSON_VALUE(facts, '$.traits[0]') LIKE 'planned%'");
    }

    private function joins(): void
    {
        $this->addSql("ALTER TABLE entry_join ADD identity CHAR(32) NOT NULL DEFAULT '', ADD names JSON DEFAULT NULL,
            ADD stated VARCHAR(12) NOT NULL DEFAULT '', ADD reason LONGTEXT NOT NULL DEFAULT '',
            CHANGE kind read_as VARCHAR(12) NOT NULL, DROP INDEX join_place");
        $this->addSql("UPDATE entry_join SET names = IF(name = '', '[]', JSON_ARRAY(name)), identity = LPAD(id, 32, '-')");
        $this->addSql("UPDATE entry_join SET stated = 'documented', read_as = '', names = '[]' WHERE read_as = 'documented'");
        $this->addSql('CREATE TABLE join_pair (position SMALLINT UNSIGNED NOT NULL, join_id INT UNSIGNED NOT NULL,
            from_field_id INT UNSIGNED NOT NULL, to_field_id INT UNSIGNED NOT NULL,
            INDEX IDX_980253F09DD3F874 (join_id), INDEX IDX_980253F02D8E72A (from_field_id), INDEX IDX_980253F0896E991E (to_field_id),
                PRIMARY KEY (join_id, position)) '.self::TEXT);
        $this->addSql("INSERT INTO join_pair (join_id, position, from_field_id, to_field_id)
            SELECT j.id, p.position - 1, f.id, t.id FROM entry_join j,
                JSON_TABLE(j.pairs, '$[*]' COLUMNS (position FOR ORDINALITY, near VARCHAR(700) PATH '$[0]', far VARCHAR(700) PATH '$[1]')) p,
                field f, field t
            WHERE f.entry_id = j.from_entry_id AND f.name = CONVERT(p.near USING utf8mb4) COLLATE utf8mb4_nopad_bin
                AND t.entry_id = j.to_entry_id AND t.name = CONVERT(p.far USING utf8mb4) COLLATE utf8mb4_nopad_bin");
        $this->addSql('ALTER TABLE join_pair ADD CONSTRAINT FK_980253F09DD3F874 FOREIGN KEY (join_id) REFERENCES entry_join (id) ON DELETE CASCADE,
            ADD CONSTRAINT FK_980253F02D8E72A FOREIGN KEY (from_field_id) REFERENCES field (id),
                ADD CONSTRAINT FK_980253F0896E991E FOREIGN KEY (to_field_id) REFERENCES field (id)');
        $this->addSql('ALTER TABLE entry_join DROP name, DROP pairs, CHANGE identity identity CHAR(32) NOT NULL, CHANGE names names JSON NOT NULL,
            CHANGE stated stated VARCHAR(12) NOT NULL,
            CHANGE reason reason LONGTEXT NOT NULL, ADD UNIQUE INDEX UNIQ_8C43A0C46A95E9C4 (identity)');
    }

    /** The identity of a join is not to be had in SQL; of two joins over the same pairs the older keeps the place, and takes in what the other has. */
    public function postUp(Schema $schema): void
    {
        $pairs = [];
        foreach ($this->connection->fetchAllAssociative('SELECT p.join_id, p.from_field_id, p.to_field_id
            FROM join_pair p JOIN entry_join j ON j.id = p.join_id ORDER BY j.gone_at IS NOT NULL, p.join_id, p.position') as $row) {
            $pairs[Row::int($row, 'join_id')][] = [Row::int($row, 'from_field_id'), Row::int($row, 'to_field_id')];
        }
        $first = [];
        foreach ($pairs as $join => $of) {
            $identity = Joins::identity($of);
            if (!isset($first[$identity])) {
                $first[$identity] = $join;
                $this->connection->executeStatement('UPDATE entry_join SET identity = ? WHERE id = ?', [$identity, $join]);
                continue;
            }
            $this->connection->executeStatement("UPDATE entry_join a JOIN entry_join b ON b.id = ? SET a.verb = IF(a.verb = '', b.verb, a.verb),
                a.verb_back = IF(a.verb_back = '', b.verb_back, a.verb_back),
                a.names = IF(b.gone_at IS NULL, JSON_MERGE_PRESERVE(a.names, b.names), a.names), a.stated = IF(a.stated = '', b.stated,
                    a.stated) WHERE a.id = ?", [$join, $first[$identity]]);
            $this->connection->executeStatement("UPDATE change_event SET topic_id = ? WHERE topic = 'join' AND topic_id = ?", [$first[$identity], $join]);
            $this->connection->executeStatement('DELETE FROM entry_join WHERE id = ?', [$join]);
        }
    }

    public function down(Schema $schema): void
    {
        $this->throwIrreversibleMigrationException('Restore the database as it was before the update.');
    }
}
