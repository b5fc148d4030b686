-- @ a table with one column
CREATE TABLE t (a);
-- @ a type in quotes with a size
CREATE TABLE t (a "VARCHAR"(20), b 'TEXT');
-- @ a type with words that are also options elsewhere
CREATE TABLE t (a INTEGER UNSIGNED, b TEXT BINARY, c CHARACTER VARYING (30), d TIMESTAMP WITH TIME ZONE, e DATE TIME);
-- @ autoincrement in small letters
create table t (id integer not null primary key autoincrement, n text);
-- @ a key over a quoted column
CREATE TABLE t ("id" INTEGER NOT NULL, `n` TEXT, PRIMARY KEY ("id"), UNIQUE (`n`));
-- @ a key over an expression's column in brackets
CREATE TABLE t ([id] INTEGER PRIMARY KEY, [n n] TEXT UNIQUE);
-- @ a not null key over two columns
CREATE TABLE t (a INT NOT NULL, b INT NOT NULL, PRIMARY KEY (a, b));
-- @ a default that is a negative real
CREATE TABLE t (a REAL DEFAULT -0.5, b REAL DEFAULT +1.5, c DEFAULT .5, d DEFAULT -1e-3);
-- @ a default that is a blob
CREATE TABLE t (a BLOB DEFAULT X'00FF', b DEFAULT (x''));
-- @ a default with parentheses within
CREATE TABLE t (a DEFAULT ((1 + 2) * 3), b DEFAULT (coalesce(NULL, ')')), c DEFAULT ('('));
-- @ a default that is a time
CREATE TABLE t (a DEFAULT CURRENT_TIME, b DEFAULT (CURRENT_DATE), c TEXT NOT NULL DEFAULT CURRENT_TIMESTAMP);
-- @ two checks on a column
CREATE TABLE t (a INT CHECK (a > 0) CHECK (a < 9), b INT CONSTRAINT x CHECK (b > 0) CONSTRAINT y CHECK (b < 9));
-- @ a check with a subscript of json
CREATE TABLE t (a TEXT CHECK (a ->> '$.x' = 'y' AND json_type(a, '$.z') IS NOT NULL));
-- @ a check with a quoted name
CREATE TABLE t ("a b" INT CHECK ("a b" > 0), CHECK ([a b] < 9), CHECK (`a b` <> 5));
-- @ a check with a case
CREATE TABLE t (a INT, b INT, CHECK (CASE a WHEN 1 THEN b > 0 WHEN 2 THEN b < 0 ELSE b IS NULL END));
-- @ a check with dates
CREATE TABLE t (a TEXT CHECK (a IS strftime('%Y-%m-%d', a)), b TEXT CHECK (date(b) NOT NULL));
-- @ conflict clauses everywhere
CREATE TABLE t (a INT PRIMARY KEY ON CONFLICT ABORT, b INT UNIQUE ON CONFLICT REPLACE, c INT NOT NULL ON CONFLICT FAIL, UNIQUE (a, b) ON CONFLICT ROLLBACK);
-- @ references with several actions
CREATE TABLE p (id INTEGER PRIMARY KEY);
CREATE TABLE t (a INT REFERENCES p (id) ON UPDATE CASCADE ON DELETE RESTRICT, b INT REFERENCES p ON DELETE NO ACTION NOT DEFERRABLE INITIALLY IMMEDIATE);
-- @ a reference in quotes
CREATE TABLE "p q" ("i d" INTEGER PRIMARY KEY);
CREATE TABLE t (a INT REFERENCES "p q" ("i d"), b INT, FOREIGN KEY (b) REFERENCES [p q] ([i d]));
-- @ a reference in other letters
CREATE TABLE Parent (Id INTEGER PRIMARY KEY);
CREATE TABLE t (a INT REFERENCES parent (id), b INT REFERENCES PARENT);
-- @ a reference onto its own table
CREATE TABLE t (id INTEGER PRIMARY KEY, up INT REFERENCES t (id) ON DELETE CASCADE, other INT REFERENCES t);
-- @ a reference to a table that comes later
CREATE TABLE t (a INT REFERENCES later (id));
CREATE TABLE later (id INTEGER PRIMARY KEY);
-- @ a reference with a name
CREATE TABLE p (a INT PRIMARY KEY);
CREATE TABLE t (a INT, CONSTRAINT to_p FOREIGN KEY (a) REFERENCES p (a) ON DELETE SET NULL DEFERRABLE INITIALLY DEFERRED);
-- @ a table that is made and dropped and made
CREATE TABLE t (a INT);
DROP TABLE t;
CREATE TABLE t (b TEXT);
-- @ dropped with its indexes and triggers
CREATE TABLE t (a INT);
CREATE INDEX i ON t (a);
CREATE TRIGGER tr AFTER INSERT ON t BEGIN SELECT 1; END;
DROP TABLE main.t;
CREATE TABLE u (a INT);
CREATE INDEX i ON u (a);
-- @ dropped in other letters
CREATE TABLE Mixed (a INT);
CREATE TABLE other (a INT);
DROP TABLE MIXED;
-- @ an index of a table in other letters
CREATE TABLE Mixed (Aa INT);
CREATE INDEX i ON MIXED (AA);
-- @ an index with a schema and a collation
CREATE TABLE t (a TEXT, b TEXT);
CREATE UNIQUE INDEX main.i ON t (a COLLATE NOCASE ASC, b COLLATE RTRIM DESC);
-- @ an index over a quoted expression
CREATE TABLE t ("a b" TEXT, c TEXT);
CREATE INDEX i ON t (upper("a b"), c || 'x');
-- @ an index with a condition of several lines
CREATE TABLE t (a INT, b INT);
CREATE INDEX i ON t (a)
  WHERE b > 0
    AND a IS NOT NULL;
-- @ an index over json
CREATE TABLE t (a TEXT);
CREATE INDEX i ON t (a ->> '$.x');
-- @ an index over a sum
CREATE TABLE t (a INT, b INT);
CREATE INDEX i ON t (a + b, a * 2 DESC, -a);
-- @ an index over a comparison
CREATE TABLE t (a INT, b TEXT);
CREATE INDEX i ON t (a IS NULL, b LIKE 'x%');
-- @ a unique index beside a unique key
CREATE TABLE t (a INT UNIQUE, b INT);
CREATE UNIQUE INDEX i ON t (a);
CREATE UNIQUE INDEX j ON t (b);
-- @ a renamed table with a quoted name
CREATE TABLE "old one" (a INT, CHECK (a > 0));
CREATE TABLE t (a INT REFERENCES "old one" (a));
ALTER TABLE "old one" RENAME TO "new one";
-- @ a renamed table with a trigger
CREATE TABLE t (a INT);
CREATE TABLE u (a INT);
CREATE TRIGGER tr AFTER INSERT ON t BEGIN INSERT INTO u VALUES (new.a); END;
ALTER TABLE t RENAME TO v;
-- @ a renamed table to other letters
CREATE TABLE t (a INT);
ALTER TABLE t RENAME TO T2;
-- @ a column that comes with a reference
CREATE TABLE p (id INTEGER PRIMARY KEY);
CREATE TABLE t (a INT);
ALTER TABLE t ADD COLUMN p_id INT NULL REFERENCES p (id) ON DELETE SET NULL;
-- @ a column that comes with a quoted name
CREATE TABLE t (a INT);
ALTER TABLE t ADD "b c" TEXT DEFAULT '';
ALTER TABLE t ADD COLUMN `d e` INT NOT NULL DEFAULT 0;
-- @ a column that comes after a comment
CREATE TABLE t (a INT -- last
);
ALTER TABLE t ADD COLUMN b TEXT;
-- @ a column that comes computed
CREATE TABLE t (a INT);
ALTER TABLE t ADD COLUMN b INT GENERATED ALWAYS AS (a * 2) VIRTUAL;
-- @ a column that goes beside others
CREATE TABLE t (a INT, b TEXT DEFAULT 'a, b', c INT CHECK (c > 0), d INT);
ALTER TABLE t DROP COLUMN d;
-- @ a column that goes in the middle
CREATE TABLE t (a INT, "b b" INT, c TEXT COLLATE NOCASE);
ALTER TABLE t DROP COLUMN "b b";
-- @ a renamed column that is a key
CREATE TABLE t (a INT, b INT, PRIMARY KEY (a, b));
ALTER TABLE t RENAME COLUMN a TO z;
-- @ a renamed column that others refer to
CREATE TABLE p (id INTEGER PRIMARY KEY, u TEXT UNIQUE);
CREATE TABLE t (a TEXT REFERENCES p (u), b INT REFERENCES p);
ALTER TABLE p RENAME COLUMN u TO w;
-- @ a renamed column in an index over an expression
CREATE TABLE t (a TEXT, b INT);
CREATE INDEX i ON t (lower(a), b) WHERE a <> '';
ALTER TABLE t RENAME COLUMN a TO z;
-- @ a renamed column to a word
CREATE TABLE t (a INT CHECK (a > 0));
ALTER TABLE t RENAME COLUMN a TO "order";
-- @ a renamed column that a text is called like
CREATE TABLE t (a TEXT DEFAULT 'a' CHECK (a <> 'a'));
ALTER TABLE t RENAME COLUMN a TO b;
-- @ a table without row numbers
CREATE TABLE t (a TEXT, b INT, PRIMARY KEY (b, a)) WITHOUT ROWID;
-- @ strict with all types
CREATE TABLE t (id INTEGER PRIMARY KEY AUTOINCREMENT, a TEXT NOT NULL UNIQUE, b REAL DEFAULT 0.0, c BLOB, d INT REFERENCES t (id)) STRICT;
-- @ virtual tables without arguments and with odd ones
CREATE VIRTUAL TABLE f USING fts5(a, "b c", prefix='2 3', tokenize="unicode61 remove_diacritics 1");
-- @ a view of constants
CREATE VIEW v AS SELECT 1 AS one, 'x' AS text, NULL AS empty_one;
-- @ a view of all columns
CREATE TABLE t (a INT, b TEXT);
CREATE VIEW v AS SELECT * FROM t;
CREATE VIEW w AS SELECT t.*, a AS again FROM t;
-- @ a view with a union
CREATE TABLE t (a INT, b TEXT);
CREATE VIEW v AS SELECT a, b FROM t UNION ALL SELECT a, b FROM t WHERE a > 1;
-- @ a view over a view
CREATE TABLE t (a INT, b TEXT);
CREATE VIEW v AS SELECT a, b FROM t;
CREATE VIEW w AS SELECT b FROM v;
-- @ a view with a subquery
CREATE TABLE t (a INT, b TEXT);
CREATE VIEW v AS SELECT a, (SELECT max(b) FROM t) AS most, EXISTS (SELECT 1 FROM t) AS there FROM t;
-- @ a view with a recursive query
CREATE TABLE t (id INTEGER, up INT);
CREATE VIEW v AS WITH RECURSIVE r (id) AS (SELECT id FROM t WHERE up IS NULL UNION ALL SELECT t.id FROM t JOIN r ON t.up = r.id) SELECT id FROM r;
-- @ a view with names in quotes
CREATE TABLE "t t" ("a a" INT);
CREATE VIEW "v v" ("x x") AS SELECT "a a" FROM "t t";
-- @ a trigger of each kind
CREATE TABLE t (a INT);
CREATE TRIGGER a1 BEFORE DELETE ON t BEGIN SELECT 1; END;
CREATE TRIGGER a2 AFTER UPDATE ON t BEGIN SELECT 2; END;
CREATE TRIGGER a3 UPDATE OF a ON t BEGIN SELECT 3; END;
CREATE TRIGGER a4 INSERT ON t FOR EACH ROW BEGIN SELECT 4; END;
-- @ a trigger with a condition
CREATE TABLE t (a INT, b INT);
CREATE TRIGGER tr AFTER UPDATE OF a ON t FOR EACH ROW WHEN old.a <> new.a AND new.b = 'end' BEGIN UPDATE t SET b = 1 WHERE a = new.a; END;
-- @ a trigger that raises
CREATE TABLE t (a INT);
CREATE TRIGGER tr BEFORE INSERT ON t WHEN new.a < 0 BEGIN SELECT RAISE(ABORT, 'no; end'); END;
-- @ a trigger with nested cases
CREATE TABLE t (a INT, b INT);
CREATE TRIGGER tr AFTER INSERT ON t BEGIN
  UPDATE t SET b = CASE WHEN new.a > 0 THEN CASE new.b WHEN 1 THEN 2 ELSE 3 END ELSE 4 END;
  INSERT INTO t (a) SELECT 1 WHERE 0;
END;
CREATE TABLE u (a INT);
-- @ a trigger with quoted words
CREATE TABLE t ("end" INT, "begin" INT);
CREATE TRIGGER "case" AFTER INSERT ON t BEGIN UPDATE t SET "end" = new."begin"; END;
CREATE TABLE u (a INT);
-- @ statements on one line
CREATE TABLE a (x INT); CREATE TABLE b (y INT); CREATE INDEX i ON a (x); DROP TABLE b; CREATE TABLE c (z INT);
-- @ statements over many lines
CREATE
TABLE
t
(
a
INT
,
b
TEXT
DEFAULT
'x'
)
;
-- @ windows line ends
CREATE TABLE t (
  a INT,
  b TEXT DEFAULT 'x'
);
CREATE INDEX i ON t (a);
-- @ a comment before each statement
-- the first; really
CREATE TABLE t (a INT);
/* the second;
   it's long */
CREATE TABLE u (a INT); -- the end
-- @ a savepoint that is rolled back to nothing
SAVEPOINT a;
ROLLBACK TO a;
RELEASE a;
CREATE TABLE t (a INT);
-- @ rows in many forms
CREATE TABLE t (a, b);
INSERT OR IGNORE INTO t VALUES (1, 'x'); INSERT INTO t DEFAULT VALUES;
INSERT INTO t (a) VALUES (1) ON CONFLICT DO NOTHING;
INSERT INTO t SELECT 1, ';' UNION SELECT 2, '--';
DELETE FROM t WHERE b = 'CREATE TABLE x (a)';
-- @ a table of a query with a join
CREATE TABLE a (id INTEGER, n TEXT);
CREATE TABLE b (a_id INT, v REAL);
CREATE TABLE t AS SELECT a.n, b.v, CAST(b.v AS INTEGER) AS whole FROM a JOIN b ON b.a_id = a.id;
-- @ a table of a query over a table of a query
CREATE TABLE a (id INTEGER PRIMARY KEY, n VARCHAR(9) DEFAULT 'x');
CREATE TABLE b AS SELECT * FROM a;
CREATE TABLE c AS SELECT n FROM b;
-- @ a table in the temporary schema hides another
CREATE TABLE t (a INT);
CREATE TEMP TABLE t (z INT);
ALTER TABLE t ADD COLUMN y INT;
DROP TABLE temp.t;
-- @ pragmas with and without values
PRAGMA journal_mode = WAL;
PRAGMA user_version(7);
PRAGMA main.cache_size;
CREATE TABLE t (a INT);
-- @ a name with an apostrophe and a bracket
CREATE TABLE "it's [one]" ("a]b" INT, "c'd" INT);
-- @ names of other scripts
CREATE TABLE 表 (列 INT, "ключ" TEXT PRIMARY KEY);
-- @ a long list of keys
CREATE TABLE t (a INT, b INT, c INT, d INT, UNIQUE (a), UNIQUE (b), UNIQUE (c, d), UNIQUE (d, c), UNIQUE (a, b, c, d));
-- @ a rebuilt table with its data and indexes
CREATE TABLE t (id INTEGER PRIMARY KEY, a TEXT);
CREATE INDEX i ON t (a);
PRAGMA foreign_keys = 0;
CREATE TABLE temp_copy AS SELECT * FROM t;
DROP TABLE t;
CREATE TABLE t (id INTEGER PRIMARY KEY, a TEXT NOT NULL DEFAULT '', b INT);
INSERT INTO t (id, a) SELECT id, a FROM temp_copy;
DROP TABLE temp_copy;
CREATE INDEX i ON t (a, b);
PRAGMA foreign_keys = 1;
-- @ options of generated columns
CREATE TABLE t (a INT, b INT AS (a + 1) STORED UNIQUE, c INT NOT NULL AS (a + 2), d AS (a + 3) COLLATE NOCASE CHECK (d > 0));
-- @ a column that is called like its table
CREATE TABLE note (note TEXT, id INTEGER PRIMARY KEY);
CREATE INDEX note_note ON note (note);
-- @ a check that calls a function without arguments
CREATE TABLE t (a INT CHECK (a < random() OR changes() = 0));
-- @ a type that is a number of words in brackets
CREATE TABLE t (a [unsigned big] (5), b NATIONAL VARYING CHARACTER (20) NOT NULL);
-- @ two tables that refer to each other
CREATE TABLE a (id INTEGER PRIMARY KEY, b_id INT REFERENCES b (id));
CREATE TABLE b (id INTEGER PRIMARY KEY, a_id INT REFERENCES a (id) ON DELETE CASCADE);
