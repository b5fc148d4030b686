-- @ a table that is there already
CREATE TABLE t (a INT);
CREATE TABLE IF NOT EXISTS t (b INT);
CREATE TABLE IF NOT EXISTS u (b INT);
-- @ temporary tables
CREATE TEMP TABLE x (a INT);
CREATE TEMPORARY TABLE y (a INT);
CREATE TABLE temp.z (a INT);
CREATE TABLE main.t (a INT);
-- @ tables that go
CREATE TABLE a (x INT);
CREATE TABLE b (x INT);
CREATE INDEX i ON a (x);
DROP TABLE a;
DROP TABLE IF EXISTS missing;
-- @ tables that change their names
CREATE TABLE a (id INTEGER PRIMARY KEY, self INT REFERENCES a (id));
CREATE TABLE b (x INT REFERENCES a (id));
CREATE INDEX i ON a (self);
ALTER TABLE a RENAME TO aa;
-- @ columns that change their names
CREATE TABLE p (id INTEGER PRIMARY KEY, n TEXT CHECK (n <> ''), g INT AS (id + 1), UNIQUE (n));
CREATE TABLE t (a INT REFERENCES p (id));
CREATE INDEX i ON p (lower(n)) WHERE id > 0;
ALTER TABLE p RENAME COLUMN id TO ident;
ALTER TABLE p RENAME n TO "N n";
-- @ columns that come
CREATE TABLE t (a INT);
ALTER TABLE t ADD COLUMN b TEXT NOT NULL DEFAULT 'x' COLLATE NOCASE;
ALTER TABLE t ADD c INT REFERENCES t (a);
ALTER TABLE t ADD COLUMN d INT CHECK (d > 0);
ALTER TABLE t ADD COLUMN e AS (a + 1);
-- @ columns that come to a table with constraints
CREATE TABLE t (a INT, b INT, PRIMARY KEY (a), CHECK (b > 0));
ALTER TABLE t ADD COLUMN c TEXT DEFAULT 'y';
-- @ columns that go
CREATE TABLE t (a INT, b INT, c TEXT DEFAULT 'x, y', d INT);
ALTER TABLE t DROP COLUMN b;
ALTER TABLE t DROP d;
-- @ columns that go and come
CREATE TABLE t (a INT, b INT);
ALTER TABLE t DROP COLUMN a;
ALTER TABLE t ADD COLUMN a TEXT;
ALTER TABLE t RENAME COLUMN b TO c;
-- @ tables that are rebuilt
CREATE TABLE t (a INT, b INT);
CREATE TABLE t_new (a INT NOT NULL, b TEXT);
INSERT INTO t_new SELECT a, b FROM t;
DROP TABLE t;
ALTER TABLE t_new RENAME TO t;
CREATE INDEX i ON t (a);
-- @ rebuilt in the other order
PRAGMA foreign_keys=off;
CREATE TABLE p (id INTEGER PRIMARY KEY);
CREATE TABLE t (a INT REFERENCES p (id));
CREATE TABLE p_new (id INTEGER PRIMARY KEY, n TEXT);
DROP TABLE p;
ALTER TABLE p_new RENAME TO p;
PRAGMA foreign_keys=on;
-- @ a table made of a query
CREATE TABLE p (id INTEGER PRIMARY KEY, n VARCHAR(9) NOT NULL, d DECIMAL(8,2), e TEXT COLLATE NOCASE);
CREATE TABLE t AS SELECT id, n AS name, d * 2 AS double, count(*) AS c, e, lower(n), 'x' FROM p GROUP BY id;
CREATE TABLE u AS SELECT * FROM p;
CREATE TABLE IF NOT EXISTS v AS VALUES (1, 'a');
-- @ a table made of a query with equal names
CREATE TABLE p (a INT, b TEXT);
CREATE TABLE t AS SELECT a, a, b AS a, 1 + 1 FROM p;
-- @ full text
CREATE VIRTUAL TABLE f USING fts5(title, body UNINDEXED, tokenize = 'porter');
CREATE VIRTUAL TABLE IF NOT EXISTS g USING fts4(a, "b c", content="");
CREATE TABLE t (a INT);
-- @ an rtree
CREATE VIRTUAL TABLE r USING rtree(id, minx, maxx, miny, maxy);
-- @ full text over a table
CREATE TABLE t (id INTEGER PRIMARY KEY, body TEXT);
CREATE VIRTUAL TABLE f USING fts5(body, content='t', content_rowid='id');
CREATE TRIGGER ai AFTER INSERT ON t BEGIN INSERT INTO f(rowid, body) VALUES (new.id, new.body); END;
-- @ transactions and pragmas
PRAGMA foreign_keys = ON;
BEGIN TRANSACTION;
CREATE TABLE t (a INT, b TEXT);
INSERT INTO t VALUES (1, 'it''s; CREATE TABLE x (y INT);'), (2, '-- no');
UPDATE t SET a = 3;
DELETE FROM t WHERE a = 3;
SAVEPOINT s;
RELEASE s;
COMMIT;
ANALYZE;
VACUUM;
REINDEX t;
-- @ what the shell writes
PRAGMA foreign_keys=OFF;
BEGIN TRANSACTION;
CREATE TABLE t (a INTEGER PRIMARY KEY AUTOINCREMENT, b TEXT);
INSERT INTO t VALUES(1,'x');
DELETE FROM sqlite_sequence;
INSERT INTO sqlite_sequence VALUES('t',1);
CREATE TABLE IF NOT EXISTS "u v" (a INT);
COMMIT;
-- @ another database
ATTACH DATABASE ':memory:' AS other;
CREATE TABLE other.x (a INT);
CREATE TABLE t (a INT);
DETACH DATABASE other;
-- @ meta commands
.bail off
CREATE TABLE t (a INT);
.print 'it''s CREATE TABLE'
CREATE TABLE u (a INT);
-- @ a missing semicolon at the end
CREATE TABLE t (a INT);
CREATE TABLE u (a INT)
-- @ empty statements
;;
CREATE TABLE t (a INT);;
;
-- @ explain and others
CREATE TABLE t (a INT);
EXPLAIN SELECT * FROM t;
SELECT 1;
WITH x AS (SELECT 1) SELECT * FROM x;
REPLACE INTO t VALUES (1);
VALUES (1);
