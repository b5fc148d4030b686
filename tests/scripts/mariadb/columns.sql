-- @ whole numbers of every width
CREATE TABLE t (a TINYINT, b SMALLINT, c MEDIUMINT, d INT, e BIGINT, f INTEGER, g INT1, h INT2, i INT3, j INT4, k INT8, l MIDDLEINT);
-- @ whole numbers with widths, signs and zeroes
CREATE TABLE t (a TINYINT(1), b INT(5) UNSIGNED, c INT ZEROFILL, d BIGINT UNSIGNED, e SMALLINT(3) ZEROFILL, f INT SIGNED, g MEDIUMINT UNSIGNED ZEROFILL);
-- @ decimals by all their names
CREATE TABLE t (a DECIMAL, b DECIMAL(8), c DECIMAL(8,2), d DEC(5,1), e NUMERIC(4), f FIXED(7,3), g DECIMAL(10,2) UNSIGNED);
-- @ floats
CREATE TABLE t (a FLOAT, b FLOAT(7,3), c FLOAT(20), d FLOAT(30), e DOUBLE, f DOUBLE PRECISION, g DOUBLE(12,4), h REAL, i FLOAT UNSIGNED, j REAL(8,2), k FLOAT4, l FLOAT8);
-- @ bits and truths
CREATE TABLE t (a BIT, b BIT(8), c BOOL, d BOOLEAN DEFAULT TRUE, e BOOLEAN NOT NULL DEFAULT FALSE);
-- @ texts of fixed and of varying length
CREATE TABLE t (a CHAR, b CHAR(10), c VARCHAR(255), d CHARACTER(5), e CHARACTER VARYING(20), f CHAR VARYING(30), g NATIONAL CHAR(4), h NCHAR(3),
  i NATIONAL VARCHAR(9), j NVARCHAR(8), k VARCHARACTER(7), m NATIONAL CHARACTER VARYING(5), n NCHAR VARCHAR(3));
-- @ long texts
CREATE TABLE t (a TINYTEXT, b TEXT, c MEDIUMTEXT, d LONGTEXT, e TEXT(100), f TEXT(70000), g LONG, h LONG VARCHAR);
-- @ bytes
CREATE TABLE t (a BINARY, b BINARY(16), c VARBINARY(64), d TINYBLOB, e BLOB, f MEDIUMBLOB, g LONGBLOB, h BLOB(300), i LONG VARBINARY, j CHAR BYTE, k BLOB(100000));
-- @ times
CREATE TABLE t (a DATE, b TIME, c TIME(3), d DATETIME, e DATETIME(6), f YEAR, g YEAR(4), h TIMESTAMP NULL, i TIMESTAMP(2) NULL, j DATETIME(0));
-- @ the first timestamp sets itself
CREATE TABLE t (a TIMESTAMP, b TIMESTAMP NOT NULL DEFAULT CURRENT_TIMESTAMP, c INT);
-- @ enumerations and sets
CREATE TABLE t (a ENUM('x','y', 'z'), b SET( 'a' , 'b' ), c ENUM('it''s','a,b') NOT NULL DEFAULT 'a,b', d SET('p','q') DEFAULT 'p,q', e ENUM('trailing ', 'A'));
-- @ types of their own
CREATE TABLE t (a INET6, b UUID, c INET4, d JSON, e GEOMETRY, f POINT NOT NULL, g POLYGON, h LINESTRING, i MULTIPOINT, j GEOMETRYCOLLECTION);
-- @ a number that counts by itself
CREATE TABLE t (id SERIAL, n INT);
-- @ a number that counts by itself, said as a default
CREATE TABLE t (id INT NOT NULL SERIAL DEFAULT VALUE, n INT);
-- @ auto_increment with a key elsewhere
CREATE TABLE t (id INT UNSIGNED AUTO_INCREMENT, a INT, PRIMARY KEY (a, id), KEY (id));
-- @ defaults of numbers
CREATE TABLE t (a INT DEFAULT 0, b INT DEFAULT '5', c DECIMAL(8,2) DEFAULT 0, d DECIMAL(8,2) DEFAULT '1.5', e FLOAT(7,2) DEFAULT 0, f DOUBLE DEFAULT 1e3, g INT DEFAULT -1, h INT DEFAULT +3,
  i DOUBLE(6,3) DEFAULT 2, j FLOAT DEFAULT '0.1', k BIGINT DEFAULT 0x1F, l DECIMAL(5,1) DEFAULT -2.5, m DECIMAL(8,3) DEFAULT 1e2, n INT DEFAULT 1.0, o DOUBLE DEFAULT 0.10);
-- @ defaults of texts
CREATE TABLE t (a VARCHAR(20) DEFAULT '', b VARCHAR(20) DEFAULT 'it''s', c VARCHAR(20) DEFAULT 'back\\slash', d VARCHAR(20) DEFAULT "double", e CHAR(3) DEFAULT 'ab', f VARCHAR(20) DEFAULT 'a "quoted" one',
  g VARCHAR(20) DEFAULT 'line\nend', h VARCHAR(9) DEFAULT 0, i VARCHAR(9) DEFAULT 12.50, j VARCHAR(9) DEFAULT _utf8mb4'x', k VARCHAR(9) DEFAULT N'y', l VARCHAR(9) DEFAULT 'a' 'b', m VARCHAR(9) DEFAULT TRUE);
-- @ defaults of times
CREATE TABLE t (a DATETIME DEFAULT CURRENT_TIMESTAMP, b DATETIME(3) DEFAULT NOW(3), c TIMESTAMP NOT NULL DEFAULT '2001-02-03 04:05:06', d DATE DEFAULT '2001-02-03', e DATE DEFAULT (CURRENT_DATE), f TIME DEFAULT '10:00',
  g DATETIME DEFAULT LOCALTIMESTAMP, h DATETIME DEFAULT LOCALTIME(), i DATETIME(6) DEFAULT CURRENT_TIMESTAMP(6), j YEAR DEFAULT 2001, k DATE DEFAULT 20010203, l DATETIME DEFAULT '2001-02-03', m YEAR DEFAULT '99');
-- @ what is set when the row changes
CREATE TABLE t (a DATETIME ON UPDATE CURRENT_TIMESTAMP, b TIMESTAMP NOT NULL DEFAULT CURRENT_TIMESTAMP ON UPDATE CURRENT_TIMESTAMP, c DATETIME(3) DEFAULT NOW(3) ON UPDATE NOW(3), d TIMESTAMP NULL DEFAULT NULL ON UPDATE NOW());
-- @ defaults that are expressions
CREATE TABLE t (a VARCHAR(40) DEFAULT (UUID()), b INT DEFAULT (1 + 2), c TEXT DEFAULT ('abc'), d DATE DEFAULT (CURRENT_DATE + INTERVAL 1 DAY), e INT DEFAULT (RAND() * 10), f BLOB DEFAULT 'x', g VARCHAR(9) DEFAULT UPPER('q'), h INT DEFAULT (a IS NULL), i CHAR(36) DEFAULT UUID());
-- @ a default of nothing
CREATE TABLE t (a INT NULL DEFAULT NULL, b VARCHAR(5) DEFAULT NULL, c TEXT DEFAULT (NULL), d INT NOT NULL, e TIMESTAMP NULL);
-- @ defaults of bits, bytes and enumerations
CREATE TABLE t (a BIT(4) DEFAULT b'101', b BIT(1) DEFAULT 1, c BINARY(3) DEFAULT 'a', d VARBINARY(5) DEFAULT x'4142', e ENUM('a','b') DEFAULT 'b', f BIT(8) DEFAULT 0b11, h BOOL DEFAULT '1');
-- @ comments on columns and tables
CREATE TABLE t (a INT COMMENT 'What''s left', b INT COMMENT "double", c INT COMMENT 'a;b', d INT COMMENT 'tab\there') COMMENT='The whole; of it';
-- @ a comment without an equals sign
CREATE TABLE t (a INT) COMMENT 'said so', ENGINE InnoDB;
-- @ character sets and collations of columns
CREATE TABLE t (a VARCHAR(9) CHARACTER SET latin1, b VARCHAR(9) CHARSET ascii COLLATE ascii_bin, c VARCHAR(9) COLLATE utf8mb4_bin, d TEXT CHARACTER SET utf8mb3, e VARCHAR(9) BINARY, f CHAR(4) ASCII, g CHAR(4) UNICODE, h VARCHAR(5) CHARACTER SET binary, i TEXT CHARACTER SET latin1 COLLATE latin1_swedish_ci);
-- @ a column of the table's own collation
CREATE TABLE t (a VARCHAR(9) COLLATE utf8mb4_unicode_ci, b VARCHAR(9), c VARCHAR(5) CHARACTER SET utf8mb4) DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_unicode_ci;
-- @ a table of a character set
CREATE TABLE t (a VARCHAR(9), b TEXT, c VARCHAR(3) CHARACTER SET utf8mb4, d ENUM('ä','b')) DEFAULT CHARSET=latin1;
-- @ utf8 by its short name
CREATE TABLE t (a VARCHAR(9), b VARCHAR(9) CHARACTER SET utf8 COLLATE utf8_bin, c CHAR(3) COLLATE utf8_unicode_ci) DEFAULT CHARACTER SET = utf8 COLLATE = utf8_general_ci;
-- @ a table of the default collation of its set
CREATE TABLE t (a VARCHAR(9)) CHARSET utf8mb4;
CREATE TABLE u (a VARCHAR(9)) COLLATE utf8mb4_bin;
CREATE TABLE v (a VARCHAR(9)) CHARACTER SET ascii;
-- @ columns that are computed
CREATE TABLE t (a INT, b INT, c INT AS (a + b), d INT GENERATED ALWAYS AS (a * 2) STORED, e INT AS (a - b) PERSISTENT, f VARCHAR(30) AS (CONCAT(a, '-', b)) VIRTUAL COMMENT 'both', g INT GENERATED ALWAYS AS (ABS(a)) VIRTUAL);
-- @ computed columns with functions
CREATE TABLE t (n VARCHAR(20), d DATE, j LONGTEXT, a VARCHAR(20) AS (UPPER(n)), b INT AS (YEAR(d)), c VARCHAR(50) AS (JSON_VALUE(j, '$.x')), e INT AS (LENGTH(n)), f INT AS (CASE WHEN n IS NULL THEN 0 ELSE 1 END), g INT AS (IF(n = 'a', 1, 0)), h VARCHAR(9) AS (SUBSTRING(n, 1, 3)), i VARCHAR(9) AS (LEFT(n, 2)), k INT AS (CHAR_LENGTH(n)), l VARCHAR(30) AS (TRIM(n)), m VARCHAR(40) AS (COALESCE(n, 'none')), o VARCHAR(40) AS (CONCAT_WS(' ', n, d)));
-- @ invisible columns
CREATE TABLE t (a INT, b INT INVISIBLE, c INT INVISIBLE DEFAULT 5);
-- @ names that need quoting
CREATE TABLE `a b` (`c.d` INT, `e``f` INT, `select` INT, `ümläut` INT, `1st` INT, `order` VARCHAR(3) DEFAULT 'x');
-- @ names that begin with a digit
CREATE TABLE 2nd (1a INT, 2b3 VARCHAR(5), 4_c INT, KEY 5k (1a));
-- @ names in capitals
CREATE TABLE MixedCase (CamelCase INT, lower INT, KEY MyKey (CamelCase));
-- @ names that are words of the language
CREATE TABLE t (`key` INT, value INT, type INT, status INT, `comment` INT, name VARCHAR(5), date DATE, time TIME, level INT, text TEXT, user INT, role INT, enum INT, position INT, `index` INT, `check` INT, `unique` INT, end INT, begin INT, action INT, data INT);
-- @ without a space
CREATE TABLE t(a INT(5)UNSIGNED NOT NULL,b VARCHAR(3)DEFAULT'x',PRIMARY KEY(a));
-- @ null said and said again
CREATE TABLE t (a INT NULL NULL, b INT NOT NULL UNIQUE KEY COMMENT 'x' DEFAULT 3, c INT DEFAULT 4 NOT NULL, d VARCHAR(3) NOT NULL DEFAULT '' COMMENT 'late');
-- @ compressed and other attributes
CREATE TABLE t (a TEXT COMPRESSED, b VARCHAR(200) COMPRESSED=zlib, c INT WITHOUT SYSTEM VERSIONING);
-- @ versioned by the system
CREATE TABLE t (a INT, b VARCHAR(5)) WITH SYSTEM VERSIONING;
-- @ versioned with its own columns
CREATE TABLE t (a INT, s TIMESTAMP(6) GENERATED ALWAYS AS ROW START, e TIMESTAMP(6) GENERATED ALWAYS AS ROW END, PERIOD FOR SYSTEM_TIME(s, e)) WITH SYSTEM VERSIONING;
-- @ with a period of its own
CREATE TABLE t (a INT, s DATE, e DATE, PERIOD FOR valid_time (s, e));
-- @ with unique without overlaps
CREATE TABLE t (a INT, s DATE, e DATE, PERIOD FOR p (s, e), UNIQUE k (a, p WITHOUT OVERLAPS));
-- @ comments of all kinds in a definition
CREATE TABLE t ( # the first
 a INT, -- the second; really
 /* a ' quote */ b INT /*!40101 NOT NULL */, /*! c INT, */ d /* a
 line */ INT);
-- @ a conditional table option
CREATE TABLE t (a INT) /*!50100 ENGINE=MyISAM */ /*M!100100 COMMENT='only here' */;
-- @ a reference that a column says
CREATE TABLE p (id INT PRIMARY KEY);
CREATE TABLE t (a INT REFERENCES p (id), b INT REFERENCES p (id) ON DELETE CASCADE);
-- @ a column check
CREATE TABLE t (a INT CHECK (a > 0), b INT CHECK (b < 10), c VARCHAR(5) NOT NULL DEFAULT 'x' CHECK (c <> ''), d INT DEFAULT 1 CHECK (d IN (1,2,3)));
-- @ json is checked
CREATE TABLE t (a JSON, b JSON NOT NULL, c JSON CHECK (JSON_LENGTH(c) > 0), d JSON DEFAULT '{}', e LONGTEXT CHECK (JSON_VALID(e)));
-- @ defaults of long texts that hold a quotation mark
CREATE TABLE said (id INT PRIMARY KEY, short VARCHAR(40) DEFAULT 'o''clock\\', t TEXT DEFAULT 'o''clock\\', l LONGTEXT DEFAULT 'o''clock', b BLOB DEFAULT 'o''c');
