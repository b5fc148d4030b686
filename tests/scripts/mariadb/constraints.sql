-- @ a primary key of one column
CREATE TABLE t (a INT PRIMARY KEY, b INT);
-- @ a primary key said as key
CREATE TABLE t (a INT KEY, b INT);
-- @ a primary key of several columns
CREATE TABLE t (a INT, b INT, c INT, PRIMARY KEY (c, a));
-- @ a primary key that is named
CREATE TABLE t (a INT, CONSTRAINT pk PRIMARY KEY (a));
-- @ a primary key with a method
CREATE TABLE t (a INT, PRIMARY KEY USING BTREE (a)) ENGINE=InnoDB;
-- @ a primary key over a part of a text
CREATE TABLE t (a VARCHAR(100), b INT, PRIMARY KEY (a(10), b));
-- @ a primary key with a comment
CREATE TABLE t (a INT, PRIMARY KEY (a) COMMENT 'the key');
-- @ a unique key of a column
CREATE TABLE t (a INT UNIQUE, b INT UNIQUE KEY, c INT NOT NULL UNIQUE);
-- @ unique keys with and without names
CREATE TABLE t (a INT, b INT, c INT, UNIQUE (a), UNIQUE KEY (a, b), UNIQUE INDEX named (b), CONSTRAINT c1 UNIQUE (c), CONSTRAINT c2 UNIQUE KEY inner_name (c, a), CONSTRAINT UNIQUE (c, b));
-- @ a unique key over a part of a text
CREATE TABLE t (a VARCHAR(100), b INT, UNIQUE KEY u (a(10)), UNIQUE KEY v (a(5), b), UNIQUE KEY w (b, a));
-- @ a unique key over a long text
CREATE TABLE t (a TEXT, b BLOB, UNIQUE (a), UNIQUE KEY x (b));
-- @ a part as long as the text
CREATE TABLE t (a VARCHAR(10), b CHAR(5), UNIQUE u (a(10)), KEY k (b(5)), KEY l (a(10), b(4)));
-- @ indexes of all kinds
CREATE TABLE t (a INT, b VARCHAR(20), c TEXT, d POINT NOT NULL, KEY (a), INDEX named (b), KEY two (a, b), FULLTEXT KEY ft (c), FULLTEXT (b, c), SPATIAL INDEX (d), SPATIAL KEY sp (d), INDEX part (b(5)), KEY long_part (c(20))) ENGINE=MyISAM;
-- @ indexes in both directions
CREATE TABLE t (a INT, b INT, KEY d (a DESC, b), KEY e (b ASC));
-- @ indexes with options
CREATE TABLE t (a INT, b INT, KEY x (a) USING BTREE, KEY y USING BTREE (b), KEY z (a, b) COMMENT 'both' KEY_BLOCK_SIZE=4, KEY i (b, a) IGNORED, KEY USING BTREE (b));
-- @ an index by hash
CREATE TABLE t (a INT, b INT, KEY x (a) USING HASH, UNIQUE KEY u (b) USING HASH) ENGINE=MEMORY;
-- @ two indexes without names over one column
CREATE TABLE t (a INT, b INT, KEY (a), KEY (a, b), KEY (a, b), UNIQUE (a));
-- @ an index that has a primary key's column
CREATE TABLE t (`PRIMARY_X` INT, a INT, KEY (`PRIMARY_X`));
-- @ foreign keys with all actions
CREATE TABLE p (id INT PRIMARY KEY);
CREATE TABLE t (a INT, b INT, c INT, d INT, e INT,
  FOREIGN KEY (a) REFERENCES p (id) ON DELETE CASCADE ON UPDATE CASCADE, CONSTRAINT f1 FOREIGN KEY (b) REFERENCES p (id) ON DELETE SET NULL, CONSTRAINT f2 FOREIGN KEY ix (c) REFERENCES p (id) ON UPDATE RESTRICT,
  FOREIGN KEY ix2 (d) REFERENCES p (id) ON DELETE NO ACTION, CONSTRAINT FOREIGN KEY (e) REFERENCES p (id) ON UPDATE SET NULL);
-- @ foreign keys that an index serves
CREATE TABLE p (id INT PRIMARY KEY, x INT, UNIQUE (x, id));
CREATE TABLE t (a INT, b INT, c INT, KEY k (a, b), CONSTRAINT f FOREIGN KEY (a) REFERENCES p (id), CONSTRAINT g FOREIGN KEY (c, a) REFERENCES p (x, id), CONSTRAINT h FOREIGN KEY (c) REFERENCES p (id));
-- @ an index that replaces the one made for a foreign key
CREATE TABLE p (id INT PRIMARY KEY);
CREATE TABLE t (a INT, b INT, CONSTRAINT f FOREIGN KEY (a) REFERENCES p (id));
CREATE INDEX mine ON t (a, b);
-- @ a later index that does not replace
CREATE TABLE p (id INT PRIMARY KEY);
CREATE TABLE t (a INT, b INT, CONSTRAINT f FOREIGN KEY (a) REFERENCES p (id));
CREATE INDEX mine ON t (b, a);
ALTER TABLE t ADD UNIQUE (a);
-- @ foreign keys without names, numbered
CREATE TABLE p (id INT PRIMARY KEY);
CREATE TABLE t (a INT, b INT, FOREIGN KEY (a) REFERENCES p (id), CONSTRAINT t_ibfk_7 FOREIGN KEY (b) REFERENCES p (id));
ALTER TABLE t ADD FOREIGN KEY (a) REFERENCES p (id);
-- @ a foreign key onto its own table
CREATE TABLE t (id INT PRIMARY KEY, parent INT, FOREIGN KEY (parent) REFERENCES t (id) ON DELETE SET NULL);
-- @ a foreign key to a table that comes later
SET FOREIGN_KEY_CHECKS=0;
CREATE TABLE t (id INT PRIMARY KEY, o INT, CONSTRAINT f FOREIGN KEY (o) REFERENCES other (id));
CREATE TABLE other (id INT PRIMARY KEY);
-- @ a foreign key to a table that is not there
SET FOREIGN_KEY_CHECKS=0;
CREATE TABLE t (id INT PRIMARY KEY, o INT, CONSTRAINT f FOREIGN KEY (o) REFERENCES nowhere (id));
-- @ foreign keys of the storage that has none
CREATE TABLE p (id INT PRIMARY KEY) ENGINE=MyISAM;
CREATE TABLE t (a INT, b INT, CONSTRAINT f FOREIGN KEY (a) REFERENCES p (id), FOREIGN KEY (b) REFERENCES p (id)) ENGINE=MyISAM;
-- @ checks of a table
CREATE TABLE t (a INT, b INT, c VARCHAR(10), CHECK (a < b), CONSTRAINT positive CHECK (a > 0 AND b > 0), CHECK (c IN ('x', 'y') OR c IS NULL), CHECK (a BETWEEN 1 AND 10), CHECK (c LIKE 'a%'), CHECK (c NOT LIKE '%z'), CHECK (NOT (a = 5)), CHECK (c REGEXP '^[a-z]+$'));
-- @ checks with functions and sums
CREATE TABLE t (a INT, b INT, c VARCHAR(10), CHECK (a + b > 0), CHECK (a * (b + 1) <= 100), CHECK (LENGTH(c) > 2), CHECK (COALESCE(a, 0) >= 0), CHECK (a % 2 = 0), CHECK (a DIV 2 < 5), CHECK (a MOD 3 <> 1), CHECK (a != b), CHECK (-a < 0), CHECK (a IS NOT NULL), CHECK (c = UPPER(c)), CHECK (a = 1 XOR b = 1), CHECK (a > 0 && b > 0 || a < -5), CHECK (CONCAT(c, 'x') <> 'yx'));
-- @ checks with casts, cases and times
CREATE TABLE t (a INT, c VARCHAR(10), d DATE, e DATETIME, CHECK (CAST(c AS UNSIGNED) > 0), CHECK (CASE WHEN a > 0 THEN c = 'x' ELSE TRUE END), CHECK (d > '2000-01-01'), CHECK (YEAR(d) > 1999), CHECK (e > d + INTERVAL 1 DAY), CHECK (CAST(c AS CHAR(3)) = 'abc'), CHECK (IF(a = 1, 1, 0) = 1), CHECK (a <=> 3), CHECK (c = _utf8mb4'x'), CHECK (d >= DATE '2000-01-01'), CHECK (a IN (1) OR a NOT IN (2, 3)), CHECK (DATEDIFF(d, e) < 3), CHECK (EXTRACT(YEAR FROM d) > 3));
-- @ the order of words in checks
CREATE TABLE t (a INT, b INT, c INT, CHECK ((a > 0 AND b > 0) OR c > 0), CHECK (a > 0 AND (b > 0 OR c > 0)), CHECK (a - (b - c) > 0), CHECK ((a - b) - c > 0), CHECK (NOT a > 3 AND b = 2), CHECK (NOT (a > 3 OR b = 2)), CHECK (((a)) = 1), CHECK ((a = 1) = (b = 1)), CHECK (a & 4 = 4), CHECK (a | b > 0), CHECK (a << 2 > 0), CHECK (a ^ b = 0), CHECK (~a <> 0), CHECK (!(a = 2)));
-- @ unnamed checks are numbered
CREATE TABLE t (a INT CHECK (a > 1), b INT, CHECK (a > 2), CONSTRAINT CONSTRAINT_1 CHECK (b > 3), CHECK (b > 4));
-- @ a check that is added and one that goes
CREATE TABLE t (a INT, CONSTRAINT x CHECK (a > 1), CHECK (a > 2));
ALTER TABLE t DROP CONSTRAINT x, ADD CHECK (a > 3), ADD CONSTRAINT y CHECK (a < 99);
-- @ a check with a text that holds signs
CREATE TABLE t (a VARCHAR(30), CHECK (a <> 'it''s; (done'), CHECK (a <> "x\"y"), CHECK (a NOT IN ('a\\b', 'c\nd')));
