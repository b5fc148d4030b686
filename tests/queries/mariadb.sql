-- Hard definitions of views for MariaDB. Below each stand the fields that it names.

--- plain fields and aliases
SELECT s.id, s.code AS 'Code of it', s.name label, s.opened_on AS "from" FROM station AS s
--> station.id station.code station.name station.opened_on
--- every field of two tables by a comma
SELECT s.*, c.name AS catchment FROM station s, catchment c WHERE s.catchment_id = c.id
--> station.id station.code station.name station.catchment_id station.opened_on station.closed_on station.height station.tags station.attributes station.kind station.active catchment.name catchment.id
--- using merges the field
SELECT station_id, v.id, r.value FROM visit v JOIN reading r USING (station_id)
--> visit.station_id reading.station_id visit.id reading.value
--- star after using
SELECT * FROM link JOIN (SELECT a, name FROM link JOIN catchment ON catchment.id = link.a) x USING (a)
--> link.a link.b link.weight catchment.id catchment.name
--- natural join
SELECT * FROM (SELECT id, name FROM catchment) a NATURAL JOIN (SELECT id, code FROM station) b
--> catchment.id catchment.name station.id station.code
--- right join using
SELECT station_id, cost FROM visit RIGHT JOIN reading USING (station_id)
--> visit.station_id reading.station_id visit.cost
--- joins in parentheses and straight ones
SELECT s.code, v.id, r.value FROM station s LEFT JOIN (visit v STRAIGHT_JOIN reading r ON r.station_id = v.station_id) ON v.station_id = s.id
--> station.code visit.id reading.value reading.station_id visit.station_id station.id
--- commas in parentheses
SELECT s.code, c.name FROM station s LEFT JOIN (catchment c, parameter p) ON c.id = s.catchment_id AND p.id = 1
--> station.code catchment.name catchment.id station.catchment_id parameter.id
--- cross joins without conditions
SELECT a.id, b.id AS other FROM parameter a JOIN parameter b INNER JOIN link CROSS JOIN visit
--> parameter.id
--- hints for indexes
SELECT r.value FROM reading r USE INDEX (PRIMARY) WHERE r.station_id = 1
--> reading.value reading.station_id
--- aggregates of all kinds
SELECT station_id, count(*) AS n, count(DISTINCT parameter_id, quality) AS kinds, sum(value), avg(value), max(taken_at) AS last, group_concat(DISTINCT note ORDER BY taken_at DESC SEPARATOR '; ') AS notes, bit_or(parameter_id), std(value), sum(parameter_id) AS ids, avg(parameter_id) AS mean FROM reading GROUP BY station_id HAVING n > 3 AND last IS NOT NULL
--> reading.station_id reading.parameter_id reading.quality reading.value reading.taken_at reading.note
--- with rollup
SELECT quality, parameter_id, sum(value) AS total FROM reading GROUP BY quality, parameter_id WITH ROLLUP
--> reading.quality reading.parameter_id reading.value
--- grouped by the name of an output, and ordered by one
SELECT year(taken_at) AS y, month(taken_at) m, count(*) FROM reading GROUP BY y, m ORDER BY y DESC, m
--> reading.taken_at
--- windows
SELECT station_id, row_number() OVER w AS n, lag(value, 1) OVER w AS before_it, avg(value) OVER (PARTITION BY parameter_id ORDER BY taken_at ROWS BETWEEN 3 PRECEDING AND CURRENT ROW) AS mean, first_value(quality) OVER (ORDER BY value) AS first FROM reading WINDOW w AS (PARTITION BY station_id ORDER BY taken_at)
--> reading.station_id reading.value reading.parameter_id reading.taken_at reading.quality
--- ordered sets
SELECT DISTINCT parameter_id, median(value) OVER (PARTITION BY parameter_id) AS middle, percentile_cont(0.9) WITHIN GROUP (ORDER BY value) OVER (PARTITION BY station_id) AS high FROM reading
--> reading.parameter_id reading.value reading.station_id
--- one value from a query
SELECT s.code, (SELECT max(r.taken_at) FROM reading r WHERE r.station_id = s.id) AS latest, (SELECT count(*) FROM visit WHERE station_id = s.id) AS visits FROM station s
--> station.code reading.taken_at reading.station_id station.id visit.station_id
--- exists and not exists
SELECT code FROM station s WHERE EXISTS (SELECT 1 FROM visit v WHERE v.station_id = s.id AND v.ended > v.began) AND NOT EXISTS (SELECT 1 FROM link WHERE a = s.id)
--> station.code visit.station_id station.id visit.ended visit.began link.a
--- in a query, and any and all of one
SELECT code FROM station WHERE id IN (SELECT station_id FROM visit) AND height >= ALL (SELECT area_km2 FROM catchment) OR catchment_id = ANY (SELECT a FROM link) OR (id, catchment_id) IN (SELECT a, b FROM link) OR (id, kind) = (1, 'x')
--> station.code station.id visit.station_id station.height catchment.area_km2 station.catchment_id link.a link.b station.kind
--- common tables, one over the other
WITH good AS (SELECT * FROM link WHERE weight > 1), pairs (x, n) AS (SELECT a, count(*) FROM good GROUP BY a) SELECT c.name, p.n FROM pairs p JOIN catchment c ON c.id = p.x
--> link.a link.b link.weight catchment.name catchment.id
--- a name that covers a table
WITH station AS (SELECT a AS id, 'x' AS code FROM link) SELECT id, code FROM station
--> link.a
--- recursion down a tree
WITH RECURSIVE up(id, name, depth) AS (SELECT id, name, 0 FROM catchment WHERE parent_id IS NULL UNION ALL SELECT c.id, c.name, up.depth + 1 FROM catchment c JOIN up ON up.id = c.parent_id) SELECT * FROM up
--> catchment.id catchment.name catchment.parent_id
--- recursion with a cycle
WITH RECURSIVE walk AS (SELECT a, b FROM link UNION SELECT l.a, l.b FROM link l JOIN walk w ON w.b = l.a) CYCLE a, b RESTRICT SELECT a, b FROM walk
--> link.a link.b
--- union of different widths
SELECT id, code, kind FROM station UNION ALL SELECT id, code, unit FROM parameter
--> station.id station.code station.kind parameter.id parameter.code parameter.unit
--- sets in parentheses
(SELECT id FROM parameter EXCEPT SELECT a FROM link) INTERSECT (SELECT b FROM link UNION SELECT a FROM link) ORDER BY 1 LIMIT 10
--> parameter.id link.a link.b
--- union with texts and nothing
SELECT 'station' AS what, id, NULL AS note FROM station UNION SELECT 'visit', id, NULL FROM visit
--> station.id visit.id
--- values
SELECT * FROM (VALUES (1, 'a'), (2, 'bc')) AS v
-->
--- rows out of json
SELECT s.id, j.n, j.owner, j.deep FROM station s, JSON_TABLE(s.attributes, '$.owners[*]' COLUMNS (n FOR ORDINALITY, owner varchar(20) PATH '$.name' DEFAULT 'none' ON EMPTY NULL ON ERROR, has int EXISTS PATH '$.x', NESTED PATH '$.more[*]' COLUMNS (deep decimal(5,1) PATH '$.d'))) AS j
--> station.id station.attributes
--- json functions
SELECT JSON_VALUE(attributes, '$.a') AS a, JSON_EXTRACT(attributes, '$.b', '$.c') AS b, JSON_UNQUOTE(JSON_EXTRACT(attributes, '$.d')) AS d, JSON_OBJECT('id', id, 'code', code) AS o, JSON_ARRAYAGG(code ORDER BY id DESC LIMIT 2) AS codes FROM station GROUP BY id
--> station.attributes station.id station.code
--- case of all kinds
SELECT CASE WHEN height > 10 THEN 'high' WHEN height IS NULL THEN NULL ELSE 'low' END AS level, CASE kind WHEN 'abc' THEN 1 ELSE 2.5 END AS n, IF(active, code, name) AS shown, IFNULL(name, code) AS named, NULLIF(code, 'x') AS code2, COALESCE(closed_on, opened_on) AS on_day FROM station
--> station.height station.kind station.active station.code station.name station.closed_on station.opened_on
--- casts in every notation
SELECT CAST(value AS decimal(10,3)) AS d, CONVERT(value, signed) AS i, CONVERT(note USING utf8mb4) AS t, CAST(taken_at AS date) AS day, CAST(note AS char(10)) AS c, CAST(value AS unsigned integer) AS u, BINARY note AS b, CAST(note AS char CHARACTER SET latin1) AS l FROM reading
--> reading.value reading.note reading.taken_at
--- times
SELECT taken_at + INTERVAL 1 DAY AS next, DATE_SUB(taken_at, INTERVAL '1:30' MINUTE_SECOND) AS earlier, TIMESTAMPDIFF(HOUR, taken_at, now()) AS age, EXTRACT(YEAR_MONTH FROM taken_at) AS ym, DATE_FORMAT(taken_at, '%Y-%m') AS month, date '2026-01-01' AS day, {d '2026-02-01'} AS other, INTERVAL 2 HOUR + taken_at AS later FROM reading
--> reading.taken_at
--- texts of every kind
SELECT "double ""quoted""" AS a, 'it\'s' AS b, 'a' 'b' AS c, _utf8mb4'x' AS d, x'4142' AS e, 0x4142 AS f, b'101' AS g, N'n' AS h, _latin1 x'4D' AS j, 'ß' COLLATE utf8mb4_bin AS i FROM station
-->
--- operators of this family
SELECT id DIV 2 AS half, id MOD 3 AS rest, id % 4 AS r4, code <=> name AS same, NOT active AS idle, !active AS idle2, active && id > 1 AS both_, active || id AS either, active XOR id AS one, id << 2 AS shifted, id & 1 | 2 ^ 1 AS bits, ~id AS inv, -height AS neg, code REGEXP '^a' AS r, code NOT RLIKE 'b' AS nr, name SOUNDS LIKE 'x' AS s FROM station
--> station.id station.code station.name station.active station.height
--- words between arguments
SELECT SUBSTRING(name FROM 2 FOR 3) AS part, POSITION('a' IN name) AS at, TRIM(LEADING 'x' FROM name) AS bare, CHAR(65 USING utf8mb4) AS a, LOCATE('a', name, 2) AS l, MATCH (name) AGAINST ('river' IN BOOLEAN MODE) AS score, WEIGHT_STRING(code AS CHAR(4)) AS w FROM station
--> station.name station.code
--- names that must be quoted
SELECT `Station`, o.`taken at`, `Value` AS `the "value"`, `select` + 0 AS bits, `tick``ed` FROM `old reading` o
--> old reading.Station old reading.taken at old reading.Value old reading.select old reading.tick`ed
--- a view over a view
SELECT o.label, c.name FROM open_station o JOIN catchment c ON c.id = o.catchment_id
--> open_station.label catchment.name catchment.id open_station.catchment_id
--- names in other cases
SELECT S.ID, Code FROM station S WHERE S.CLOSED_ON IS NULL
--> station.id station.code station.closed_on
--- comments of three kinds
SELECT id, # the key '
 code -- what "
 , /*! name, */ /* not read */ kind /*M!100000 , active */ FROM station
--> station.id station.code station.name station.kind station.active
--- limits and locks
SELECT id, code FROM station ORDER BY code LIMIT 5, 10
--> station.id station.code
--- fetch with ties
SELECT id, weight FROM link JOIN parameter ON parameter.id = link.a ORDER BY weight OFFSET 2 ROWS FETCH NEXT 3 ROWS WITH TIES
--> parameter.id link.weight link.a
--- a query within a query within a query
SELECT q.id FROM (SELECT p.id FROM (SELECT id, kind FROM station WHERE kind = 'abc') p WHERE p.id > (SELECT avg(id) FROM catchment)) q
--> station.id station.kind catchment.id
--- many joins of one table
SELECT a.name AS one, b.name AS two, l.weight FROM link l JOIN catchment a ON a.id = l.a LEFT JOIN catchment b ON b.id = l.b AND b.id <> a.id
--> catchment.name link.weight catchment.id link.a link.b
--- functions people wrote
SELECT doubled(id) AS d, concat(code, '-', id) AS k, concat_ws(', ', code, name) AS w, upper(code) AS u, length(name) AS n FROM station
--> station.id station.code station.name
--- numbers
SELECT 1 AS a, 1.50 AS b, 1e3 AS c, -1 AS d, 18446744073709551615 AS e, round(height, 1) AS f, ceil(height) AS g, height * 2 AS h, height / 3 AS i, id + 1 AS j, value + 1 AS k, abs(height) AS l, greatest(height, 1) AS m, mod(id, 3) AS n, truncate(value, 2) AS o FROM station JOIN reading ON station_id = id
--> station.height station.id reading.value reading.station_id
--- correlated two levels down
SELECT c.name FROM catchment c WHERE EXISTS (SELECT 1 FROM station s WHERE s.catchment_id = c.id AND EXISTS (SELECT 1 FROM reading r WHERE r.station_id = s.id AND r.value > c.area_km2))
--> catchment.name station.catchment_id catchment.id reading.station_id station.id reading.value catchment.area_km2
--- distinct rows
SELECT DISTINCT tags, quality FROM station JOIN reading ON reading.station_id = station.id WHERE FIND_IN_SET('a', tags) AND quality IN ('good', 'suspect')
--> station.tags reading.quality reading.station_id station.id
