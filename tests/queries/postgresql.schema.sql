-- What the queries in postgresql.sql read.
CREATE SCHEMA river;
CREATE SCHEMA "Old Season";
CREATE TYPE river.grade AS ENUM ('good', 'suspect', 'bad');
CREATE DOMAIN river.metres AS numeric(6,2) CHECK (VALUE > -100);
CREATE TYPE river.spot AS (easting integer, northing integer);
CREATE TABLE river.catchment (id integer PRIMARY KEY, name text NOT NULL, area_km2 numeric(8,2), parent_id integer REFERENCES river.catchment);
CREATE TABLE river.station (
  id integer GENERATED ALWAYS AS IDENTITY PRIMARY KEY, code varchar(12) NOT NULL UNIQUE, name varchar(80), catchment_id integer NOT NULL REFERENCES river.catchment,
  opened_on date NOT NULL, closed_on date, height river.metres, place river.spot, tags text[] NOT NULL DEFAULT '{}', attributes jsonb, kind char(3), active boolean
);
CREATE TABLE river.parameter (id smallint PRIMARY KEY, code char(4) NOT NULL, unit varchar(10), "decimals" smallint);
CREATE TABLE river.reading (
  station_id integer NOT NULL REFERENCES river.station, parameter_id smallint NOT NULL REFERENCES river.parameter, taken_at timestamptz NOT NULL, value double precision,
  quality river.grade, raw xml, payload json, noted_by name, PRIMARY KEY (station_id, parameter_id, taken_at)
);
CREATE TABLE river.visit (id bigint PRIMARY KEY, station_id integer REFERENCES river.station, began timestamp NOT NULL, ended timestamp, members integer[], during tsrange, cost money);
CREATE TABLE "Old Season"."Reading" ("Station" integer, "taken at" timestamp(3), "Value" real, "select" bit(4), mask varbit);
CREATE TABLE river.link (a integer NOT NULL, b integer NOT NULL, weight real, PRIMARY KEY (a, b));
CREATE VIEW river.open_station AS SELECT id, code, name AS label, catchment_id FROM river.station WHERE closed_on IS NULL;
CREATE FUNCTION river.readings_of(wanted integer) RETURNS SETOF river.reading LANGUAGE sql AS 'SELECT * FROM river.reading WHERE station_id = wanted';
CREATE FUNCTION river.totals() RETURNS TABLE (station integer, total numeric) LANGUAGE sql AS 'SELECT 1, 2.0';
CREATE FUNCTION river.doubled(integer) RETURNS bigint LANGUAGE sql AS 'SELECT 2::bigint * $1';
