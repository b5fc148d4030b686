-- What SQLite allows and others do not: columns without a type, tables without a row number, names in any quotes.
CREATE TABLE catchment (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL COLLATE NOCASE, area REAL CHECK (area > 0));
CREATE TABLE "odd one" (anything, "a ""quoted"" name" VARCHAR(20) DEFAULT 'it''s', [in brackets] INT DEFAULT (1 + 2), `tick` BLOB, UNIQUE ("in brackets", tick), CHECK ("in brackets" < 9));
CREATE TABLE loose (a INT PRIMARY KEY, b UNSIGNED BIG INT NOT NULL, c DOUBLE PRECISION, d DATETIME DEFAULT CURRENT_TIMESTAMP, e DECIMAL(6, 2));
CREATE TABLE pair (station_id INTEGER, day TEXT, value REAL, doubled REAL GENERATED ALWAYS AS (value * 2) VIRTUAL, kept REAL AS (value + 1) STORED, PRIMARY KEY (station_id, day), CONSTRAINT to_station FOREIGN KEY (station_id) REFERENCES catchment ON DELETE CASCADE) WITHOUT ROWID;
CREATE TABLE strict_one (id INTEGER PRIMARY KEY, what TEXT REFERENCES "odd one" ([in brackets])) STRICT;
CREATE UNIQUE INDEX one_name ON catchment (name DESC) WHERE area IS NOT NULL;
CREATE INDEX by_expression ON pair (lower(day), value);
CREATE VIEW doubled_pair AS SELECT p.station_id, c.name AS catchment, p.doubled * 2 AS quadruple FROM pair p JOIN catchment c ON c.id = p.station_id; -- a comment; with a semicolon
CREATE TRIGGER keep_name AFTER UPDATE OF name ON catchment WHEN new.name <> '' BEGIN UPDATE catchment SET area = CASE WHEN area > 1 THEN 1 ELSE area END WHERE id = new.id; DELETE FROM loose; END;
CREATE VIRTUAL TABLE note USING fts5(title, body);
