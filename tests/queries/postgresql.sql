-- Hard definitions of views, one to each form that the documentation of SELECT, of table expressions and of value expressions
-- describes. Each begins with a line that names it.

--- plain fields and aliases
SELECT s.id, s.code AS "Code of it", s.name label, s.opened_on AS from_day FROM river.station AS s
--- every field of two tables
SELECT * FROM river.station s, river.catchment c(c_id, c_name, c_area, c_parent) WHERE s.catchment_id = c_id
--- qualified star beside others
SELECT r.*, s.code, r.value * 2 AS doubled FROM river.reading r JOIN river.station s ON s.id = r.station_id
--- using merges the field
SELECT id, station_id, began, value FROM river.visit JOIN river.reading USING (station_id)
--- using with an alias for what is merged
SELECT j.station_id, v.id FROM river.visit v JOIN river.reading r USING (station_id) AS j
--- star after using
SELECT * FROM river.visit v FULL JOIN (SELECT station_id, taken_at FROM river.reading) r USING (station_id)
--- natural join
SELECT * FROM (SELECT id, name FROM river.catchment) a NATURAL LEFT JOIN (SELECT id, code FROM river.station) b
--- right join using
SELECT station_id, members FROM river.visit RIGHT JOIN river.reading USING (station_id)
--- joins in parentheses under one name
SELECT j.code, j.area_km2 FROM (river.station s JOIN river.catchment c ON c.id = s.catchment_id) AS j (id, code, name, catchment_id, opened_on, closed_on, height, place, tags, attributes, kind, active, cid)
--- conditions nested to the right
SELECT s.code, v.id, r.value FROM river.station s LEFT JOIN river.visit v JOIN river.reading r ON r.station_id = v.station_id ON v.station_id = s.id
--- lateral query
SELECT s.code, last.value, last.taken_at FROM river.station s LEFT JOIN LATERAL (SELECT value, taken_at FROM river.reading r WHERE r.station_id = s.id ORDER BY taken_at DESC LIMIT 1) last ON true
--- lateral by a comma
SELECT s.id, t.tag, t.n FROM river.station s, unnest(s.tags) WITH ORDINALITY AS t(tag, n)
--- cross join of a function
SELECT s.code, m.key, m.value FROM river.station s CROSS JOIN jsonb_each_text(s.attributes) m
--- a function without an alias
SELECT generate_series FROM generate_series(1, 10)
--- a function of days with a name
SELECT d::date AS day, extract(dow FROM d) AS weekday FROM generate_series('2026-01-01'::timestamp, now()::timestamp, interval '1 day') AS d
--- rows from several functions
SELECT f.a, f.b, f.ordinality FROM ROWS FROM (unnest(ARRAY[1,2]), generate_series(1::bigint, 3)) WITH ORDINALITY AS f(a, b)
--- a function with a list of columns
SELECT x.id, x.label FROM json_to_recordset('[{"id":1,"label":"a"}]') AS x(id integer, label varchar(10))
--- a function that gives rows of a table
SELECT r.value, r.quality FROM river.readings_of(1) r
--- a function that lists its columns
SELECT t.station, t.total / 2 AS half FROM river.totals() t
--- members of a composite value
SELECT (s.place).easting, (place).northing AS n FROM river.station s
--- a row as a value
SELECT s.id, to_jsonb(s) AS everything, row_to_json(c.*) AS of FROM river.station s JOIN river.catchment c ON c.id = s.catchment_id
--- a member of the row of a table
SELECT (r).value, (r).taken_at FROM river.reading r
--- a list of fields as a row
SELECT ROW(s.id, s.code) = ROW(1, s.name) AS same, (s.id, s.name) < (1, 'a') AS before FROM river.station s
--- aggregates of all kinds
SELECT station_id, count(*), count(DISTINCT parameter_id) AS parameters, sum(value), avg(value) FILTER (WHERE quality = 'good') AS good, max(taken_at), string_agg(noted_by, ', ' ORDER BY taken_at), bool_and(value > 0), array_agg(quality ORDER BY value DESC NULLS LAST) FROM river.reading GROUP BY station_id HAVING count(*) > 3
--- ordered sets
SELECT parameter_id, percentile_cont(0.5) WITHIN GROUP (ORDER BY value) AS median, percentile_disc(ARRAY[0.1, 0.9]) WITHIN GROUP (ORDER BY value), mode() WITHIN GROUP (ORDER BY quality) FROM river.reading GROUP BY 1
--- grouping sets
SELECT station_id, parameter_id, GROUPING(station_id, parameter_id) AS g, min(value) FROM river.reading GROUP BY GROUPING SETS ((station_id), (parameter_id, station_id), ())
--- rollup and cube
SELECT c.name, s.kind, count(*) FROM river.station s JOIN river.catchment c ON c.id = s.catchment_id GROUP BY ROLLUP (c.name), CUBE (s.kind)
--- grouped by the name of an output
SELECT date_trunc('month', taken_at) AS month, count(*) AS n FROM river.reading GROUP BY month ORDER BY n DESC, month
--- grouped by a key and showing what depends on it
SELECT s.id, s.name, s.code, count(r.value) FROM river.station s LEFT JOIN river.reading r ON r.station_id = s.id GROUP BY s.id
--- windows
SELECT station_id, value, row_number() OVER w, lag(value, 1, 0.0) OVER w AS before, avg(value) OVER (w ROWS BETWEEN 3 PRECEDING AND CURRENT ROW), first_value(quality) OVER (PARTITION BY parameter_id ORDER BY value) FROM river.reading WINDOW w AS (PARTITION BY station_id ORDER BY taken_at)
--- a frame with exclusion
SELECT id, sum(weight) OVER (ORDER BY weight RANGE BETWEEN UNBOUNDED PRECEDING AND 1 FOLLOWING EXCLUDE TIES), ntile(4) OVER (ORDER BY a) FROM river.link JOIN river.catchment ON id = a
--- one value from a query
SELECT s.code, (SELECT max(taken_at) FROM river.reading r WHERE r.station_id = s.id) AS latest, (SELECT name FROM river.catchment c WHERE c.id = s.catchment_id) FROM river.station s
--- exists and not exists
SELECT code FROM river.station s WHERE EXISTS (SELECT 1 FROM river.visit v WHERE v.station_id = s.id AND v.ended > v.began) AND NOT EXISTS (TABLE river.link)
--- in a query, and any and all of one
SELECT code FROM river.station WHERE id IN (SELECT station_id FROM river.visit) AND height >= ALL (SELECT height FROM river.station) OR catchment_id = ANY (ARRAY[1, 2]) OR (id, catchment_id) NOT IN (SELECT a, b FROM river.link)
--- an array from a query
SELECT s.id, ARRAY(SELECT v.id FROM river.visit v WHERE v.station_id = s.id ORDER BY v.began) AS visits, s.tags[1] AS first_tag, s.tags[2:3] AS more, array_length(s.tags, 1) FROM river.station s
--- common tables, one over the other
WITH good AS (SELECT * FROM river.reading WHERE quality = 'good'), daily (station, day, mean) AS (SELECT station_id, taken_at::date, avg(value) FROM good GROUP BY 1, 2) SELECT s.code, d.day, d.mean FROM daily d JOIN river.station s ON s.id = d.station
--- a common table that nobody uses
WITH unused AS MATERIALIZED (SELECT cost FROM river.visit) SELECT 1 AS one
--- a name that covers a table
WITH station AS (SELECT a AS id, 'x'::text AS code FROM river.link) SELECT id, code FROM station
--- recursion down a tree
WITH RECURSIVE up(id, name, depth, path) AS (SELECT id, name, 0, ARRAY[id] FROM river.catchment WHERE parent_id IS NULL UNION ALL SELECT c.id, c.name, up.depth + 1, path || c.id FROM river.catchment c JOIN up ON up.id = c.parent_id) SELECT * FROM up
--- recursion with search and cycle
WITH RECURSIVE walk(a, b) AS (SELECT a, b FROM river.link UNION SELECT w.a, l.b FROM river.link l, walk w WHERE l.a = w.b) SEARCH DEPTH FIRST BY a, b SET ordering CYCLE a, b SET looped USING route SELECT a, b, looped FROM walk ORDER BY ordering
--- union of different widths
SELECT id, code, kind FROM river.station UNION ALL SELECT id, code, unit FROM river.parameter
--- union with texts and nothing
SELECT 'station' AS what, id, NULL AS note FROM river.station UNION SELECT 'visit', id, NULL FROM river.visit
--- sets in parentheses
(SELECT id FROM river.station EXCEPT SELECT station_id FROM river.visit) INTERSECT (SELECT a FROM river.link UNION ALL SELECT b FROM river.link) ORDER BY 1 LIMIT 10
--- values as a table
SELECT v.code, v.n + 1 AS next FROM (VALUES ('a', 1), ('b', 2.5)) AS v(code, n)
--- values alone
VALUES (1, 'one'), (2, NULL)
--- distinct on
SELECT DISTINCT ON (station_id, date_trunc('day', taken_at)) station_id, taken_at, value FROM river.reading ORDER BY station_id, date_trunc('day', taken_at), taken_at DESC
--- case of all kinds
SELECT CASE WHEN height > 10 THEN 'high' WHEN height IS NULL THEN NULL ELSE 'low' END AS level, CASE kind WHEN 'abc' THEN 1 ELSE 2.5 END, CASE WHEN active THEN code ELSE name END AS shown FROM river.station
--- casts in every notation
SELECT CAST(value AS numeric(10,3)) AS v, value::integer, '12'::smallint AS n, date '2026-01-01' AS d, double precision '1.5' AS x, timestamp(0) with time zone '2026-01-01' AS t, interval '1 hour' AS i, int4(value) FROM river.reading
--- json
SELECT attributes -> 'owner' ->> 'name' AS owner, attributes #>> '{a,b}' AS deep, attributes ? 'x' AS has, attributes @> '{"a":1}' AS contains, jsonb_path_query_first(attributes, '$.a[*] ? (@ > 1)') AS found, payload ->> 0 AS zero FROM river.station JOIN river.reading ON station_id = id
--- xml
SELECT xmlelement(name reading, xmlattributes(taken_at AS at), value) AS x, xmlforest(value AS v, quality), xpath('/a', raw) AS found, xmlexists('/a' PASSING BY REF raw) AS has FROM river.reading
--- rows out of xml
SELECT x.n, x.label, x.pos FROM river.reading r, XMLTABLE('/a/b' PASSING r.raw COLUMNS pos FOR ORDINALITY, n integer PATH '@n', label text PATH 'label' DEFAULT 'none') AS x
--- words between arguments
SELECT substring(name FROM 2 FOR 3) AS part, position('a' IN name) AS at, trim(BOTH ' ' FROM name) AS bare, overlay(name PLACING 'x' FROM 1 FOR 2) AS laid, extract(epoch FROM opened_on) AS seconds, (opened_on, closed_on) OVERLAPS (date '2026-01-01', date '2026-02-01') AS over FROM river.station
--- times and zones
SELECT taken_at AT TIME ZONE 'UTC' AS utc, (taken_at AT TIME ZONE 'UTC')::date AS day, now() - taken_at AS age, age(taken_at) AS words, date_part('year', taken_at) AS year FROM river.reading
--- names that must be quoted
SELECT "Station", "taken at", "Value" AS "the ""value""", "select", o."select" & B'1010' AS masked, mask || B'1' AS longer FROM "Old Season"."Reading" o
--- names in capitals fold
SELECT S.ID, Code, "code" AS c2 FROM RIVER.STATION S WHERE S.Closed_On IS NULL
--- ranges and money
SELECT during, lower(during) AS began, during && tsrange('2026-01-01', '2026-02-01') AS meets, cost * 2 AS twice, upper(during) - lower(during) AS lasts, members || 5 AS more FROM river.visit
--- domains and enumerations
SELECT height, height * 2 AS doubled, coalesce(height, 0) AS height0, quality, quality::text AS words, quality > 'good' AS worse, greatest(quality, 'bad') AS worst FROM river.station JOIN river.reading ON station_id = id
--- a view over a view
SELECT o.label, c.name FROM river.open_station o JOIN river.catchment c ON c.id = o.catchment_id
--- is distinct from, is true, between symmetric
SELECT id, name IS DISTINCT FROM code AS differs, active IS NOT TRUE AS idle, height BETWEEN SYMMETRIC 5 AND 1 AS mid, name IS NOT NULL AS named, name SIMILAR TO 'a%' AS similar, name !~* 'x' AS unlike FROM river.station
--- an operator by its full name
SELECT id OPERATOR(pg_catalog.+) 1 AS next, -height AS below, @ height AS size, |/ 25.0 AS root, 2 ^ 3 AS cube, id % 2 = 0 AS even FROM river.station
--- a sample, only, and locking
SELECT t.id FROM ONLY river.station AS t TABLESAMPLE SYSTEM (10) REPEATABLE (1) WHERE t.id = 1
--- limits in the words of the standard
SELECT id, code FROM river.station ORDER BY code COLLATE "C" USING < OFFSET 2 ROWS FETCH FIRST 3 ROWS WITH TIES
--- a query within a query within a query
SELECT q.id FROM (SELECT p.id FROM (SELECT id, kind FROM river.station WHERE kind = 'abc') p WHERE p.id > (SELECT avg(id) FROM river.catchment)) q
--- comments and odd blanks
SELECT /* what ' is */ id, -- the key "
  code /* nested /* twice */ */ AS c FROM river.station
--- texts of every kind
SELECT E'it\'s' AS escaped, $tag$dollar 'quoted'$tag$ AS dollars, U&'\00e9t\00e9' AS unicode, 'a' 
  'b' AS joined, N'national' AS n, X'1F' AS hex FROM river.station
--- a whole row compared, and tested
SELECT s.id FROM river.station s WHERE s IS NOT NULL AND s.* IS DISTINCT FROM NULL
--- functions people wrote
SELECT river.doubled(s.id) AS d, pg_catalog.upper(s.code) AS u, format('%s-%s', s.code, s.id) AS f, concat_ws('-', s.code, s.name) AS c FROM river.station s
--- many joins of one table
SELECT a.name AS one, b.name AS two, l.weight FROM river.link l JOIN river.catchment a ON a.id = l.a JOIN river.catchment b ON b.id = l.b AND b.id <> a.id
--- functions of the set in the list
SELECT id, unnest(tags) AS tag, generate_series(1, id) AS n FROM river.station
--- correlated two levels down
SELECT c.name FROM river.catchment c WHERE EXISTS (SELECT 1 FROM river.station s WHERE s.catchment_id = c.id AND EXISTS (SELECT 1 FROM river.reading r WHERE r.station_id = s.id AND r.value > c.area_km2))
--- greatest and nullif and least
SELECT greatest(opened_on, closed_on) AS later, least(1, 2.5, id) AS least, nullif(code, 'x') AS code, nullif(id, 0) AS n, num_nulls(name, code) AS missing FROM river.station
--- no fields at all
SELECT FROM river.station
