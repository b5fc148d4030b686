-- What the queries in sqlite.sql read.
CREATE TABLE catchment (id INTEGER PRIMARY KEY, name TEXT NOT NULL, area_km2 DECIMAL(8,2), parent_id INTEGER);
CREATE TABLE station (id INTEGER PRIMARY KEY, code VARCHAR(12) NOT NULL, name TEXT, catchment_id INTEGER NOT NULL, opened_on DATE NOT NULL, closed_on DATE, height REAL, tags, attributes JSON, active BOOLEAN);
CREATE TABLE parameter (id SMALLINT PRIMARY KEY, code CHAR(4) NOT NULL, unit TEXT);
CREATE TABLE reading (station_id INTEGER NOT NULL, parameter_id SMALLINT NOT NULL, taken_at DATETIME NOT NULL, value DOUBLE, quality TEXT, PRIMARY KEY (station_id, parameter_id, taken_at)) WITHOUT ROWID;
CREATE TABLE visit (id INTEGER PRIMARY KEY, station_id INTEGER, began DATETIME NOT NULL, ended DATETIME, cost NUMERIC);
CREATE TABLE link (a INTEGER NOT NULL, b INTEGER NOT NULL, weight REAL, PRIMARY KEY (a, b));
CREATE TABLE "old reading" ("Station" INT, [taken at] TEXT, `Value` REAL, "select" INT);
CREATE VIEW open_station AS SELECT id, code, name AS label, catchment_id FROM station WHERE closed_on IS NULL;
