-- @ types as they are written
CREATE TABLE t (a INT, b INTEGER, c TINYINT, d UNSIGNED BIG INT, e VARCHAR(255), f NATIVE CHARACTER(70), g DOUBLE PRECISION, h DECIMAL(10,5), i BOOLEAN, j DATETIME, k "quoted type", l [bracket type], m BLOB, n REAL, o NUMERIC);
-- @ no types
CREATE TABLE t (a, b, c PRIMARY KEY, d NOT NULL, e DEFAULT 5, f UNIQUE);
-- @ odd types
CREATE TABLE t (a VARYING CHARACTER(255), b LONG VARCHAR, c FLOATING POINT, d a b c d(3), e NUMBER(10, 2), f DECIMAL ( 5 , 1 ), g NVARCHAR (9), j INT UNSIGNED, k decimal(+5,-2));
-- @ types in small letters
CREATE TABLE t (a int, b text, c varchar(9), d Integer, e TEXT);
-- @ an integer key numbers itself
CREATE TABLE t (id INTEGER PRIMARY KEY, a);
CREATE TABLE u (id INTEGER PRIMARY KEY AUTOINCREMENT, a);
CREATE TABLE v (id INT PRIMARY KEY, a);
CREATE TABLE w (id INTEGER, PRIMARY KEY (id));
CREATE TABLE x (id INTEGER PRIMARY KEY DESC);
CREATE TABLE y (id integer primary key not null);
CREATE TABLE z (id INTEGER, b, PRIMARY KEY (id DESC));
-- @ keys that may be empty
CREATE TABLE t (a TEXT PRIMARY KEY, b);
CREATE TABLE u (a TEXT, b INT, PRIMARY KEY (a, b));
CREATE TABLE v (a TEXT PRIMARY KEY NOT NULL);
CREATE TABLE w (a TEXT PRIMARY KEY) WITHOUT ROWID;
CREATE TABLE x (a TEXT PRIMARY KEY) STRICT;
-- @ defaults
CREATE TABLE t (a DEFAULT 0, b DEFAULT -1, c DEFAULT 1.5, d DEFAULT 'x', e DEFAULT 'it''s', f DEFAULT "double", g DEFAULT NULL, h DEFAULT TRUE, i DEFAULT CURRENT_TIMESTAMP, j DEFAULT (1 + 2), k DEFAULT x'4142', l DEFAULT word, m DEFAULT +3, n DEFAULT (datetime('now')), o DEFAULT '', p DEFAULT current_date, q DEFAULT 1e3, r DEFAULT ('a' || 'b'), s DEFAULT false, t DEFAULT null);
-- @ defaults before and after
CREATE TABLE t (a INT DEFAULT 5 NOT NULL, b INT NOT NULL DEFAULT 6 CHECK (b > 0), c TEXT DEFAULT 'x' COLLATE NOCASE UNIQUE);
-- @ not null and null
CREATE TABLE t (a INT NOT NULL ON CONFLICT REPLACE, b INT NULL, c INT CONSTRAINT nn NOT NULL, d INT NOT NULL NOT NULL);
-- @ collations
CREATE TABLE t (a TEXT COLLATE NOCASE, b TEXT COLLATE BINARY, c TEXT COLLATE RTRIM NOT NULL, d TEXT COLLATE "nocase");
-- @ computed columns
CREATE TABLE t (a INT, b INT, c INT AS (a + b), d INT GENERATED ALWAYS AS (a * 2) STORED, e GENERATED ALWAYS AS (a || 'x') VIRTUAL, f TEXT AS (lower(a)) NOT NULL);
-- @ checks of columns
CREATE TABLE t (a INT CHECK (a > 0), b INT CONSTRAINT named CHECK (b < 10), c TEXT CHECK (c IN ('x', 'y')) CHECK (length(c) = 1), d CHECK (typeof(d) = 'integer' OR d IS NULL));
-- @ references of columns
CREATE TABLE p (id INTEGER PRIMARY KEY, u TEXT UNIQUE);
CREATE TABLE t (a REFERENCES p, b INT REFERENCES p (id) ON DELETE CASCADE, c TEXT REFERENCES p (u) ON UPDATE SET NULL DEFERRABLE INITIALLY DEFERRED, d INT CONSTRAINT named REFERENCES p (id) MATCH FULL NOT DEFERRABLE, e INT NOT NULL REFERENCES p ON DELETE SET DEFAULT ON UPDATE RESTRICT);
-- @ references to what is not there
CREATE TABLE t (a REFERENCES nowhere, b INT REFERENCES missing (id), c INT, FOREIGN KEY (c) REFERENCES gone);
-- @ a reference to a table without a key
CREATE TABLE p (x INT);
CREATE TABLE t (a INT REFERENCES p, b INT REFERENCES p (x));
-- @ quoted names of all kinds
CREATE TABLE "a b" ("c.d" INT, `e` INT, [f g] INT, 'h' TEXT, "with ""quote" INT, [select] INT, "ümläut" INT, PRIMARY KEY ("c.d", [f g]));
-- @ names that are words
CREATE TABLE t (key INT, value, type TEXT, abort INT, action, after, asc_ INT, before, "by", cast_, column_ INT, conflict, "current", database, "desc", each, "end", explain, fail, filter, first, following, "for", full, generated, glob, groups, "if", ignore, instead, key_, last, "left", match, natural, no, nulls, of, offset, over, plan, pragma, query, raise, "range", recursive, regexp, reindex, rename, replace, "restrict", row, rows, savepoint, temp, ties, "trigger", vacuum, "view", virtual, "with", without);
-- @ names with a dollar and other letters
CREATE TABLE größe (größe INT, a$b INT, _x INT);
-- @ comments everywhere
CREATE TABLE t ( -- the first ' quote
  a INT, /* block ' */ b INT -- last; really
  , c INT CHECK (c > 0 /* inside */), -- after
  d TEXT DEFAULT 'x' -- says 'x'
);
-- @ blanks and line ends
CREATE   TABLE
	t	(
  a   INT  ,
b INT

)  ;
-- @ without spaces
CREATE TABLE t(a INT,b TEXT DEFAULT'x',c INT CHECK(c>0),PRIMARY KEY(a));
-- @ many columns on a line
CREATE TABLE t (a1, a2, a3, a4, a5, a6, a7, a8, a9, b1 INT, b2 INT, b3 INT, "b4" INT, b5 TEXT, b6 TEXT);
-- @ a column with everything
CREATE TABLE p (id INTEGER PRIMARY KEY);
CREATE TABLE t (a INTEGER CONSTRAINT k PRIMARY KEY ON CONFLICT IGNORE AUTOINCREMENT CONSTRAINT nn NOT NULL CONSTRAINT u UNIQUE CONSTRAINT c CHECK (a > 0) CONSTRAINT d DEFAULT 5 CONSTRAINT r REFERENCES p (id));
-- @ a strict table
CREATE TABLE t (a INT, b INTEGER, c REAL, d TEXT, e BLOB, f ANY) STRICT;
-- @ strict without row numbers
CREATE TABLE t (a INTEGER PRIMARY KEY, b TEXT) STRICT, WITHOUT ROWID;
CREATE TABLE u (a INT, b INT, PRIMARY KEY (a, b)) WITHOUT ROWID, STRICT;
-- @ json and functions in defaults
CREATE TABLE t (a TEXT DEFAULT (json('{}')), b TEXT DEFAULT (lower(hex(randomblob(16)))), c INT DEFAULT (strftime('%s','now')), d DEFAULT (CURRENT_TIMESTAMP), e DEFAULT ((1)));
-- @ names with commas in keys
CREATE TABLE p ("a, b" INTEGER NOT NULL, "c" INTEGER NOT NULL, PRIMARY KEY ("a, b", "c"));
CREATE TABLE t (x INTEGER, y INTEGER, FOREIGN KEY (x, y) REFERENCES p ("a, b", "c"));
