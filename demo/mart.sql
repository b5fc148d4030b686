-- The analytics database: two facts at different grains, four dimensions, one of them snowflaked and one in two roles.
-- In words that SQLite and PostgreSQL both understand, so that tests make the same of it in either.
CREATE TABLE catchment (catchment_id integer PRIMARY KEY, catchment_name varchar(80) NOT NULL);
CREATE TABLE reach (reach_id integer PRIMARY KEY, reach_name varchar(80) NOT NULL, catchment_id integer NOT NULL REFERENCES catchment (catchment_id));
CREATE TABLE station (station_id integer PRIMARY KEY, station_code varchar(12) NOT NULL UNIQUE, station_name varchar(80) NOT NULL, reach_id integer NOT NULL REFERENCES reach (reach_id), opened date);
CREATE TABLE day (day_id integer PRIMARY KEY, day_date date NOT NULL UNIQUE, year integer NOT NULL, month integer NOT NULL CHECK (month BETWEEN 1 AND 12), season varchar(10) NOT NULL);
CREATE TABLE parameter (parameter_id integer PRIMARY KEY, parameter_code varchar(12) NOT NULL UNIQUE, parameter_name varchar(60) NOT NULL, unit varchar(12) NOT NULL);
CREATE TABLE species (species_id integer PRIMARY KEY, species_code char(5) NOT NULL UNIQUE, common_name varchar(60) NOT NULL, protected integer DEFAULT 0 NOT NULL);
CREATE TABLE reading_day (
  day_id integer NOT NULL REFERENCES day (day_id),
  station_id integer NOT NULL REFERENCES station (station_id),
  parameter_id integer NOT NULL REFERENCES parameter (parameter_id),
  readings integer NOT NULL,
  least numeric(10,2),
  mean numeric(10,2),
  greatest numeric(10,2),
  PRIMARY KEY (day_id, station_id, parameter_id)
);
CREATE TABLE sighting (
  sighting_id integer PRIMARY KEY,
  day_seen_id integer NOT NULL REFERENCES day (day_id),
  day_confirmed_id integer REFERENCES day (day_id),
  station_id integer NOT NULL REFERENCES station (station_id),
  species_id integer NOT NULL REFERENCES species (species_id),
  individuals integer NOT NULL CHECK (individuals > 0)
);
CREATE TABLE month_summary (year integer NOT NULL, month integer NOT NULL, station_id integer NOT NULL, readings integer, sightings integer);
CREATE TABLE instrument_stock (
  day_id integer NOT NULL REFERENCES day (day_id),
  parameter_id integer NOT NULL REFERENCES parameter (parameter_id),
  in_store integer NOT NULL,
  PRIMARY KEY (day_id, parameter_id)
);
CREATE TABLE species_group (species_id integer NOT NULL, group_name varchar(30) NOT NULL);
CREATE INDEX reading_day_station ON reading_day (station_id, day_id);
CREATE INDEX sighting_species ON sighting (species_id);
CREATE VIEW station_place AS SELECT s.station_id, s.station_code, s.station_name, r.reach_name, c.catchment_name FROM station s JOIN reach r ON r.reach_id = s.reach_id JOIN catchment c ON c.catchment_id = r.catchment_id;
CREATE VIEW reading_month AS SELECT d.year, d.month, f.station_id, f.parameter_id, SUM(f.readings) AS readings, MIN(f.least) AS least, MAX(f.greatest) AS greatest FROM reading_day f JOIN day d ON d.day_id = f.day_id GROUP BY d.year, d.month, f.station_id, f.parameter_id;
CREATE VIEW reading_month_place AS SELECT m.year, m.month, p.station_name, p.catchment_name, m.parameter_id, m.readings FROM reading_month m JOIN station_place p ON p.station_id = m.station_id;
CREATE VIEW sighting_season AS
  SELECT d.year, d.season, p.common_name, sum(s.individuals) AS individuals, count(DISTINCT s.station_id) AS stations
  FROM sighting s JOIN day d ON d.day_id = s.day_seen_id JOIN species p ON p.species_id = s.species_id
  WHERE s.day_confirmed_id IS NOT NULL
  GROUP BY d.year, d.season, p.common_name;
