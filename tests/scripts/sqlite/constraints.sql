-- @ primary keys of a table
CREATE TABLE a (x INT, y INT, PRIMARY KEY (x, y));
CREATE TABLE b (x INT, CONSTRAINT named PRIMARY KEY (x));
CREATE TABLE c (x INT, y INT, PRIMARY KEY (x COLLATE NOCASE DESC, y ASC) ON CONFLICT REPLACE);
-- @ a primary key with the counter
CREATE TABLE t (id INTEGER, PRIMARY KEY (id AUTOINCREMENT));
-- @ unique keys of a table
CREATE TABLE t (a INT, b INT, c TEXT, UNIQUE (a), CONSTRAINT named UNIQUE (b, a), UNIQUE (c COLLATE NOCASE) ON CONFLICT IGNORE, UNIQUE (b DESC));
-- @ checks of a table
CREATE TABLE t (a INT, b INT, CHECK (a < b), CONSTRAINT named CHECK (a > 0 AND b > 0), CHECK (a IN (1, 2, 3)), CHECK (a BETWEEN 1 AND 10), CHECK (b NOT NULL), CHECK (b ISNULL OR b NOTNULL), CHECK (CASE WHEN a > 1 THEN b ELSE 1 END), CHECK (a NOT LIKE 'x%' ESCAPE '!'), CHECK (a GLOB '*'), CHECK (a IS NOT b), CHECK (a == b OR a <> b), CHECK (a COLLATE NOCASE = 'X'), CHECK (json_valid(a)), CHECK (a REGEXP 'x' OR 1));
-- @ foreign keys of a table
CREATE TABLE p (a INT, b INT, PRIMARY KEY (a, b));
CREATE TABLE t (x INT, y INT, z INT, FOREIGN KEY (x, y) REFERENCES p (a, b) ON DELETE CASCADE ON UPDATE NO ACTION, CONSTRAINT named FOREIGN KEY (y, x) REFERENCES p, FOREIGN KEY (z) REFERENCES t (x));
-- @ constraints without commas
CREATE TABLE t (a INT, b INT, PRIMARY KEY (a) UNIQUE (b) CHECK (a > b));
-- @ checks whose texts hold signs
CREATE TABLE t (a TEXT CHECK (a <> 'it''s; (done'), b TEXT CHECK (b NOT IN ('x--y', '/*', ')')), CHECK (a <> ',' AND b <> '('));
-- @ indexes
CREATE TABLE t (a INT, b TEXT, c TEXT);
CREATE INDEX i1 ON t (a);
CREATE UNIQUE INDEX i2 ON t (a, b);
CREATE INDEX i3 ON t (a DESC, b ASC);
CREATE INDEX i4 ON t (lower(b));
CREATE INDEX i5 ON t (a + 1, b);
CREATE INDEX i6 ON t (b COLLATE NOCASE);
CREATE INDEX i7 ON t (a) WHERE b IS NOT NULL;
CREATE INDEX IF NOT EXISTS i7 ON t (b);
CREATE INDEX main.i8 ON t (c);
CREATE INDEX "i 9" ON t ("c", [b]);
CREATE UNIQUE INDEX i10 ON t (lower(b), c) WHERE a > 0 AND c <> 'x';
CREATE INDEX i11 ON t (json_extract(c, '$.a'));
CREATE INDEX i12 ON t ((a));
CREATE INDEX i13 ON t (a||b);
CREATE INDEX i14 ON t (CASE WHEN a THEN b END DESC);
-- @ indexes that go
CREATE TABLE t (a INT, b INT);
CREATE INDEX i1 ON t (a);
CREATE INDEX i2 ON t (b);
DROP INDEX i1;
DROP INDEX IF EXISTS missing;
DROP INDEX IF EXISTS main.i2;
-- @ a partial index over words
CREATE TABLE t (a INT, b INT);
CREATE UNIQUE INDEX i ON t (a) WHERE b = 1 OR (a IS NULL AND b IS NULL);
