-- Hard definitions of views for SQLite. Below each stand the fields that it names.

--- plain fields and aliases
SELECT s.id, s.code AS 'Code of it', s.name label, s.opened_on AS [from] FROM main.station AS s
--> station.id station.code station.name station.opened_on
--- names for the columns of the view, a star and a comma
SELECT s.*, c.name AS catchment FROM link s, catchment c WHERE s.a = c.id
--> link.a link.b link.weight catchment.name catchment.id
--- using merges the field
SELECT * FROM visit JOIN link ON link.a = visit.id JOIN (SELECT id AS b, code FROM station) USING (b)
--> visit.id visit.station_id visit.began visit.ended visit.cost link.a link.b link.weight station.id station.code
--- natural join
SELECT * FROM (SELECT id, name FROM catchment) a NATURAL LEFT OUTER JOIN (SELECT id, code FROM station) b
--> catchment.id catchment.name station.id station.code
--- right and full joins
SELECT v.cost, r.value, p.unit FROM visit v RIGHT JOIN reading r ON r.station_id = v.station_id FULL OUTER JOIN parameter p ON p.id = r.parameter_id
--> visit.cost reading.value parameter.unit reading.station_id visit.station_id parameter.id reading.parameter_id
--- joins in parentheses
SELECT s.code, v.id, r.value FROM station s LEFT JOIN (visit v JOIN reading r ON r.station_id = v.station_id) ON v.station_id = s.id
--> station.code visit.id reading.value reading.station_id visit.station_id station.id
--- hints for indexes
SELECT r.value FROM reading r NOT INDEXED WHERE r.station_id = 1
--> reading.value reading.station_id
--- aggregates of all kinds
SELECT station_id, count(*) AS n, count(DISTINCT parameter_id), total(value), avg(value) FILTER (WHERE quality = 'good') AS good, group_concat(quality, '; ') FROM reading GROUP BY station_id HAVING n > 3
--> reading.station_id reading.parameter_id reading.value reading.quality
--- bare columns beside an aggregate, and an alias in WHERE
SELECT station_id AS st, max(value), taken_at FROM reading WHERE st > 3 GROUP BY st
--> reading.station_id reading.value reading.taken_at
--- windows
SELECT station_id, row_number() OVER w AS n, lag(value, 1, 0) OVER w AS before_it, sum(value) OVER (w2 GROUPS BETWEEN 3 PRECEDING AND CURRENT ROW EXCLUDE TIES), first_value(quality) OVER (ORDER BY value) AS f FROM reading WINDOW w AS (PARTITION BY station_id ORDER BY taken_at), w2 AS (ORDER BY parameter_id)
--> reading.station_id reading.value reading.parameter_id reading.taken_at reading.quality
--- one value from a query
SELECT s.code, (SELECT max(r.taken_at) FROM reading r WHERE r.station_id = s.id) AS latest, (SELECT name FROM catchment WHERE id = catchment_id LIMIT 1) FROM station s
--> station.code reading.taken_at reading.station_id station.id catchment.name catchment.id station.catchment_id
--- exists and not exists
SELECT code FROM station s WHERE EXISTS (SELECT 1 FROM visit v WHERE v.station_id = s.id) AND NOT EXISTS (SELECT 1 FROM link WHERE a = s.id)
--> station.code visit.station_id station.id link.a
--- in a table, in nothing, and in a list
SELECT code FROM station WHERE catchment_id IN (SELECT id FROM catchment) AND id NOT IN () AND (id, code) IN (VALUES (1, 'a')) AND height IN (1, 2.5, NULL)
--> station.code station.catchment_id catchment.id station.id station.height
--- common tables, one over the other
WITH good AS NOT MATERIALIZED (SELECT * FROM link WHERE weight > 1), pairs (x, n) AS (SELECT a, count(*) FROM good GROUP BY a) SELECT c.name, p.n FROM pairs p JOIN catchment c ON c.id = p.x
--> link.a link.b link.weight catchment.name catchment.id
--- recursion down a tree, in order
WITH RECURSIVE up(id, name, depth) AS (SELECT id, name, 0 FROM catchment WHERE parent_id IS NULL UNION ALL SELECT c.id, c.name, up.depth + 1 FROM catchment c JOIN up ON up.id = c.parent_id ORDER BY 3 DESC) SELECT substr('..........', 1, depth * 3) || name AS tree FROM up
--> catchment.id catchment.name catchment.parent_id
--- counting without a table
WITH RECURSIVE n(x) AS (VALUES(1) UNION ALL SELECT x+1 FROM n WHERE x < 10) SELECT x FROM n
-->
--- sets from the left
SELECT id FROM parameter UNION SELECT a FROM link EXCEPT SELECT b FROM link INTERSECT SELECT id FROM station ORDER BY 1 LIMIT 10 OFFSET 2
--> parameter.id link.a link.b station.id
--- rows out of json
SELECT s.id, j.key, j.value, t.fullkey FROM station s, json_each(s.attributes, '$.owners') AS j, json_tree(s.attributes) t WHERE j.type = 'text'
--> station.id station.attributes
--- json operators
SELECT attributes -> '$.a' AS a, attributes ->> 'b' || '!' AS b, json_extract(attributes, '$.c') AS c, json_group_array(code) AS d FROM station
--> station.attributes station.code
--- case of all kinds
SELECT CASE WHEN height > 10 THEN 'high' ELSE 'low' END AS level, CASE code WHEN 'abc' THEN 1 ELSE 2.5 END AS n, iif(active, code, name) AS shown, ifnull(name, code) AS named, nullif(code, 'x') AS c2, coalesce(closed_on, opened_on) AS d FROM station
--> station.height station.code station.active station.name station.closed_on station.opened_on
--- casts and literals
SELECT CAST(value AS INTEGER) AS i, CAST(taken_at AS TEXT) AS t, x'4142' AS blob, 'it''s' AS s, "no such name" AS text_after_all, 1e3, .5, 0x1F, TRUE AS yes, CURRENT_TIMESTAMP AS now FROM reading
--> reading.value reading.taken_at
--- operators of its own
SELECT id % 2 == 0 AS even, code IS NOT name AS differs, name ISNULL AS unnamed, code NOTNULL AS coded, name NOT NULL AS named, code GLOB 'A*' AS g, name LIKE 'a!%' ESCAPE '!' AS l, ~id AS inv, id << 2 | 1 AS bits, name COLLATE NOCASE AS n, -height AS below, height IS DISTINCT FROM 1 AS d FROM station
--> station.id station.code station.name station.height
--- the number of a row
SELECT s.rowid, s._rowid_ AS r, (SELECT oid FROM link) AS o, l.rowid AS lr FROM station s JOIN link l ON l.a = s.rowid
--> station.id link.a
--- names that must be quoted
SELECT "Station", o.[taken at], `Value` AS 'the value', "select" FROM "old reading" o
--> old reading.Station old reading.taken at old reading.Value old reading.select
--- names in other cases
SELECT S.ID, Code FROM STATION s WHERE s.CLOSED_ON IS NULL
--> station.id station.code station.closed_on
--- a view over a view
SELECT o.label, c.name FROM open_station o JOIN catchment c ON c.id = o.catchment_id
--> open_station.label catchment.name catchment.id open_station.catchment_id
--- comments
SELECT id, -- the key '
 code /* what " is */ FROM station
--> station.id station.code
--- times
SELECT date(taken_at, 'start of month', '+1 month') AS next, strftime('%Y', taken_at) AS y, julianday('now') - julianday(taken_at) AS age FROM reading WHERE taken_at BETWEEN '2026-01-01' AND date('now')
--> reading.taken_at
--- many joins of one table
SELECT a.name AS one, b.name AS two, l.weight FROM link l JOIN catchment a ON a.id = l.a LEFT JOIN catchment b ON b.id = l.b AND b.id <> a.id
--> catchment.name link.weight catchment.id link.a link.b
--- values alone
VALUES (1, 'one'), (2, NULL)
-->
--- distinct rows of a query within a query
SELECT DISTINCT q.id FROM (SELECT p.id FROM (SELECT id, code FROM station WHERE code = 'abc') AS p WHERE p.id > (SELECT avg(id) FROM catchment)) AS q
--> station.id station.code catchment.id
