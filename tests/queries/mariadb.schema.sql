-- What the queries in mariadb.sql read.
CREATE TABLE catchment (id int NOT NULL PRIMARY KEY, name varchar(60) NOT NULL, area_km2 decimal(8,2), parent_id int);
CREATE TABLE station (id int unsigned NOT NULL AUTO_INCREMENT PRIMARY KEY, code varchar(12) NOT NULL, name varchar(80), catchment_id int NOT NULL, opened_on date NOT NULL, closed_on date, height decimal(6,2), tags set('a','b','c'), attributes json, kind char(3), active tinyint(1) NOT NULL DEFAULT 1, FULLTEXT (name));
CREATE TABLE parameter (id smallint NOT NULL PRIMARY KEY, code char(4) NOT NULL, unit varchar(10), decimals tinyint unsigned);
CREATE TABLE reading (station_id int unsigned NOT NULL, parameter_id smallint NOT NULL, taken_at datetime(3) NOT NULL, value double, quality enum('good','suspect','bad'), raw blob, note text, PRIMARY KEY (station_id, parameter_id, taken_at));
CREATE TABLE visit (id bigint NOT NULL PRIMARY KEY, station_id int unsigned, began timestamp NOT NULL DEFAULT current_timestamp(), ended timestamp NULL, cost float, began_year year);
CREATE TABLE link (a int NOT NULL, b int NOT NULL, weight float, PRIMARY KEY (a, b));
CREATE TABLE `old reading` (`Station` int, `taken at` datetime, `Value` float, `select` bit(4), `tick``ed` varchar(5));
CREATE VIEW open_station AS SELECT id, code, name AS label, catchment_id FROM station WHERE closed_on IS NULL;
CREATE FUNCTION doubled(n int) RETURNS bigint DETERMINISTIC RETURN n * 2;
