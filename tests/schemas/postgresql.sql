-- A schema with everything that PostgreSQL has and others have not.
CREATE SCHEMA field;
CREATE SCHEMA shut;
CREATE TYPE field.flag AS ENUM ('good', 'suspect', 'it''s bad');
CREATE DOMAIN field.postcode AS varchar(8) CHECK (VALUE ~ '^[A-Z]{2}') CONSTRAINT long_enough CHECK (length(VALUE) > 4);
CREATE DOMAIN field.flagged AS field.flag;
CREATE TABLE field.catchment (id integer GENERATED ALWAYS AS IDENTITY, name varchar(80) NOT NULL, area numeric(8,2), boundary polygon, PRIMARY KEY (id), CONSTRAINT big CHECK (area > 0));
COMMENT ON TABLE field.catchment IS 'Land that drains to one place; it''s nested';
COMMENT ON COLUMN field.catchment.area IS 'in km²';
CREATE TABLE field.station (
  id serial PRIMARY KEY,
  catchment_id integer NOT NULL REFERENCES field.catchment ON DELETE CASCADE DEFERRABLE,
  code char(5) UNIQUE,
  "Mixed Name" text DEFAULT 'a;b' COLLATE "C",
  postcode field.postcode,
  state field.flag NOT NULL DEFAULT 'good',
  states field.flag[],
  odd field.flagged,
  tags text[] DEFAULT ARRAY[]::text[],
  opened timestamptz(3) DEFAULT now(),
  closed timestamp,
  hours interval,
  payload jsonb,
  height double precision CHECK (height < 9000),
  label text GENERATED ALWAYS AS (upper(code || ';')) STORED,
  UNIQUE (catchment_id, "Mixed Name")
);
CREATE INDEX station_label ON field.station (lower("Mixed Name"), opened DESC NULLS LAST) WHERE closed IS NULL;
CREATE INDEX station_payload ON field.station USING gin (payload);
COMMENT ON INDEX field.station_payload IS 'for searches';
CREATE TABLE field.reading (station_id integer NOT NULL REFERENCES field.station (id), at timestamptz NOT NULL, parameter varchar(12) NOT NULL, value numeric(10), PRIMARY KEY (station_id, at, parameter)) PARTITION BY RANGE (at);
CREATE TABLE field.reading_2024 PARTITION OF field.reading FOR VALUES FROM ('2024-01-01') TO ('2025-01-01');
CREATE TABLE field.reading_2025 PARTITION OF field.reading FOR VALUES FROM ('2025-01-01') TO ('2026-01-01') PARTITION BY LIST (parameter);
CREATE TABLE field.reading_2025_level PARTITION OF field.reading_2025 FOR VALUES IN ('level');
CREATE TABLE field.note (id bigserial PRIMARY KEY, station_id integer, at timestamptz, parameter varchar(12), FOREIGN KEY (station_id, at, parameter) REFERENCES field.reading ON UPDATE SET NULL, text text NOT NULL);
CREATE TABLE field.photo (width integer, taken date) INHERITS (field.note);
CREATE TABLE field.booking (room int, during tstzrange, CONSTRAINT no_overlap EXCLUDE USING gist (during WITH &&) WHERE (room > 0));
CREATE UNLOGGED TABLE field.scratch (a int, b int, CHECK (a < b));
ALTER TABLE field.note ENABLE ROW LEVEL SECURITY;
CREATE POLICY own_notes ON field.note USING (station_id > 0);
CREATE VIEW field.open_station AS SELECT s.id, s.code AS short, c.name, count(*) OVER () AS n FROM field.station s JOIN field.catchment c ON c.id = s.catchment_id WHERE s.closed IS NULL;
CREATE MATERIALIZED VIEW field.daily AS SELECT station_id, date_trunc('day', at) AS day, avg(value) AS mean FROM field.reading GROUP BY 1, 2;
COMMENT ON MATERIALIZED VIEW field.daily IS 'One row per station and day';
CREATE INDEX daily_day ON field.daily (day);
CREATE FUNCTION field.touch() RETURNS trigger LANGUAGE plpgsql AS $body$ BEGIN NEW.opened := now(); RETURN NEW; END; $body$;
CREATE TRIGGER touched BEFORE INSERT OR UPDATE ON field.station FOR EACH ROW EXECUTE FUNCTION field.touch();
CREATE TABLE shut.away (id int PRIMARY KEY, secret text);
