-- @ mariadb, postgresql, sqlite: a generated column over one whose type changes
-- = before
CREATE TABLE sample (id integer NOT NULL PRIMARY KEY, litres decimal(6,2) NOT NULL, millilitres decimal(12,2) GENERATED ALWAYS AS (litres * 1000) STORED);
-- = rows
INSERT INTO sample (id, litres) VALUES (1, 2.50), (2, 0.75);
-- = after
CREATE TABLE sample (id integer NOT NULL PRIMARY KEY, litres decimal(10,3) NOT NULL, millilitres decimal(12,2) GENERATED ALWAYS AS (litres * 1000) STORED);
-- = holds
SELECT id, millilitres * 1 FROM sample ORDER BY id; -- 1 2500, 2 750
-- = warns
none
-- @ mariadb, postgresql, sqlite: text becomes a required whole number, with a value for what cannot be turned
-- = before
CREATE TABLE visit (id integer NOT NULL PRIMARY KEY, weather varchar(20) NOT NULL);
-- = rows
INSERT INTO visit (id, weather) VALUES (1, '3'), (2, 'rain'), (3, '7');
-- = after
CREATE TABLE visit (id integer NOT NULL PRIMARY KEY, weather integer NOT NULL);
-- = said
filled visit.weather = 9
-- = holds
SELECT id, weather FROM visit ORDER BY id; -- 1 3, 2 9, 3 7
-- @ mariadb, postgresql, sqlite: text that may be empty becomes a required whole number
-- = before
CREATE TABLE visit (id integer NOT NULL PRIMARY KEY, weather varchar(20));
-- = rows
INSERT INTO visit (id, weather) VALUES (1, '3'), (2, 'rain'), (3, NULL), (4, ''), (5, ' 8');
-- = after
CREATE TABLE visit (id integer NOT NULL PRIMARY KEY, weather integer NOT NULL);
-- = said
filled visit.weather = 9
-- = holds
SELECT id, weather FROM visit WHERE id < 5 ORDER BY id; -- 1 3, 2 9, 3 9, 4 9
-- @ mariadb, postgresql, sqlite: a renamed field that a view reads
-- = before
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(12) NOT NULL, reach varchar(20));
CREATE VIEW station_list AS SELECT s.id, s.code, s.reach FROM station s WHERE s.code > 'a';
-- = rows
INSERT INTO station (id, code, reach) VALUES (1, 'b1', 'upper'), (2, 'c1', NULL);
-- = after
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, station_code varchar(12) NOT NULL, reach varchar(20));
CREATE VIEW station_list AS SELECT s.id, s.station_code AS code, s.reach FROM station s WHERE s.station_code > 'a';
-- = said
formerly station.station_code = code
-- = holds
SELECT id, code FROM station_list ORDER BY id; -- 1 b1, 2 c1
-- @ mariadb, postgresql, sqlite: a view that still says the name before
-- = before
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(12) NOT NULL, reach varchar(20));
CREATE VIEW station_list AS SELECT s.id, s.code, s.reach FROM station s WHERE s.code > 'a';
-- = rows
INSERT INTO station (id, code, reach) VALUES (1, 'b1', 'upper'), (2, 'c1', NULL);
-- = after
CREATE TABLE gauge (id integer NOT NULL PRIMARY KEY, station_code varchar(12) NOT NULL, reach varchar(20));
CREATE VIEW station_list AS SELECT s.id, s.code, s.reach FROM station s WHERE s.code > 'a';
-- = said
taken gauge = station
formerly gauge.station_code = code
-- = holds
SELECT id, code FROM station_list ORDER BY id; -- 1 b1, 2 c1
-- @ mariadb, postgresql, sqlite: a view over a view over a field that is renamed
-- = before
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(12) NOT NULL);
CREATE VIEW inner_list AS SELECT id, code FROM station;
CREATE VIEW a_list AS SELECT id, code AS c FROM inner_list;
-- = rows
INSERT INTO station (id, code) VALUES (1, 'b1');
-- = after
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, station_code varchar(12) NOT NULL);
CREATE VIEW inner_list AS SELECT id, station_code AS code FROM station;
CREATE VIEW a_list AS SELECT id, code AS c FROM inner_list;
-- = said
formerly station.station_code = code
-- = holds
SELECT id, c FROM a_list ORDER BY id; -- 1 b1
-- @ mariadb: a list of values that is narrowed, with rows that break it
-- = before
CREATE TABLE parent (id integer NOT NULL PRIMARY KEY);
CREATE TABLE reading (id integer NOT NULL PRIMARY KEY, flag enum('good', 'bad', 'odd') NOT NULL, parent_id integer,
    CONSTRAINT reading_parent FOREIGN KEY (parent_id) REFERENCES parent (id));
-- = rows
INSERT INTO parent VALUES (1);
INSERT INTO reading VALUES (1, 'good', 1), (2, 'odd', 1);
-- = after
CREATE TABLE parent (id integer NOT NULL PRIMARY KEY);
CREATE TABLE reading (id integer NOT NULL PRIMARY KEY, flag enum('good', 'bad') NOT NULL, parent_id integer,
    CONSTRAINT reading_parent FOREIGN KEY (parent_id) REFERENCES parent (id) ON DELETE CASCADE);
-- = refuses
reading.flag
-- @ mariadb, postgresql, sqlite: a list as a condition that is narrowed, with rows that break it
-- = before
CREATE TABLE reading (id integer NOT NULL PRIMARY KEY, flag varchar(10) NOT NULL, CONSTRAINT flag_list CHECK (flag IN ('good', 'bad', 'odd')));
-- = rows
INSERT INTO reading VALUES (1, 'good'), (2, 'odd'), (3, 'odd');
-- = after
CREATE TABLE reading (id integer NOT NULL PRIMARY KEY, flag varchar(10) NOT NULL, CONSTRAINT flag_list CHECK (flag IN ('good', 'bad')));
-- = refuses
check:reading.flag_list
-- @ mariadb, postgresql, sqlite: a key is widened, and its children are with it
-- = before
CREATE TABLE reach (id smallint NOT NULL PRIMARY KEY);
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, reach_id smallint, CONSTRAINT station_reach FOREIGN KEY (reach_id) REFERENCES reach (id));
-- = rows
INSERT INTO reach VALUES (1), (2);
INSERT INTO station VALUES (1, 1), (2, NULL);
-- = after
CREATE TABLE reach (id bigint NOT NULL PRIMARY KEY);
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, reach_id bigint, CONSTRAINT station_reach FOREIGN KEY (reach_id) REFERENCES reach (id));
-- = holds
SELECT id, reach_id FROM station ORDER BY id; -- 1 1, 2 -
-- = warns
none
-- @ mariadb, postgresql, sqlite: two rows have the same of what is to be one of its kind
-- = before
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(12) NOT NULL);
-- = rows
INSERT INTO station VALUES (1, 'a'), (2, 'b'), (3, 'a');
-- = after
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, code varchar(12) NOT NULL, CONSTRAINT station_code UNIQUE (code));
-- = refuses
unique:station.code
-- @ mariadb, postgresql, sqlite: rows lead to what is not there
-- = before
CREATE TABLE reach (id integer NOT NULL PRIMARY KEY);
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, reach_id integer);
-- = rows
INSERT INTO reach VALUES (1);
INSERT INTO station VALUES (1, 1), (2, 7), (3, NULL);
-- = after
CREATE TABLE reach (id integer NOT NULL PRIMARY KEY);
CREATE TABLE station (id integer NOT NULL PRIMARY KEY, reach_id integer, CONSTRAINT station_reach FOREIGN KEY (reach_id) REFERENCES reach (id));
-- = refuses
reference:station.reach_id
-- @ mariadb, postgresql, sqlite: an index and a condition over a field that is renamed and retyped
-- = before
CREATE TABLE visit (id integer NOT NULL PRIMARY KEY, depth smallint NOT NULL, width integer, CONSTRAINT deep CHECK (depth > 0));
CREATE INDEX visit_depth ON visit (depth);
-- = rows
INSERT INTO visit VALUES (1, 3, 4), (2, 5, NULL);
-- = after
CREATE TABLE visit (id integer NOT NULL PRIMARY KEY, water_depth integer NOT NULL, width bigint, CONSTRAINT deep CHECK (water_depth > 0));
CREATE INDEX visit_depth ON visit (water_depth);
-- = said
formerly visit.water_depth = depth
-- = holds
SELECT id, water_depth, width FROM visit ORDER BY id; -- 1 3 4, 2 5 -
-- = warns
none
-- @ mariadb, postgresql, sqlite: types said in other letters are the same
-- = before
CREATE TABLE visit (id integer NOT NULL PRIMARY KEY, depth INTEGER, label VARCHAR(20));
-- = after
CREATE TABLE visit (id INTEGER NOT NULL PRIMARY KEY, depth integer, label varchar(20));
-- = steps
0
