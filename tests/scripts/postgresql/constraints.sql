-- @ primary keys
CREATE TABLE a (x int PRIMARY KEY);
CREATE TABLE b (x int, y int, PRIMARY KEY (y, x));
CREATE TABLE c (x int CONSTRAINT my_pk PRIMARY KEY);
CREATE TABLE d (x int, CONSTRAINT other_pk PRIMARY KEY (x));
CREATE TABLE e (x int, y int, PRIMARY KEY (x) INCLUDE (y) WITH (fillfactor = 70));
-- @ unique keys
CREATE TABLE t (a int UNIQUE, b int, c int, UNIQUE (b), UNIQUE (b, c), CONSTRAINT named UNIQUE (c, a), d int CONSTRAINT ud UNIQUE, UNIQUE NULLS NOT DISTINCT (d, a), UNIQUE (a, b) DEFERRABLE INITIALLY DEFERRED);
-- @ names that are made short
CREATE TABLE a_table_with_a_rather_long_name_that_goes_on_and_on (a_column_with_a_rather_long_name_too int UNIQUE, b int REFERENCES a_table_with_a_rather_long_name_that_goes_on_and_on (a_column_with_a_rather_long_name_too), id serial PRIMARY KEY, c int CHECK (c > 0), UNIQUE (a_column_with_a_rather_long_name_too, b));
-- @ names longer than the limit
CREATE TABLE a_name_that_is_longer_than_the_sixty_three_bytes_which_the_engine_keeps (another_name_that_is_longer_than_the_sixty_three_bytes_that_are_kept int);
-- @ names that are taken
CREATE TABLE t (a int UNIQUE, b int, UNIQUE (a), CHECK (a > 0), CHECK (a > 1), CHECK (a > b), CHECK (b > a), FOREIGN KEY (b) REFERENCES t (a), FOREIGN KEY (b) REFERENCES t (a));
CREATE INDEX ON t (a);
CREATE INDEX ON t (a);
CREATE INDEX ON t (a, b);
CREATE INDEX ON t (lower(a::text));
CREATE INDEX ON t ((a + b));
CREATE INDEX ON t (lower(a::text), b);
CREATE UNIQUE INDEX ON t (b);
-- @ foreign keys
CREATE TABLE p (id int PRIMARY KEY, u int UNIQUE, x int, y int, UNIQUE (x, y));
CREATE TABLE t (a int REFERENCES p, b int REFERENCES p (u) ON DELETE CASCADE ON UPDATE SET NULL, c int CONSTRAINT named REFERENCES p (id) MATCH FULL DEFERRABLE INITIALLY DEFERRED, d int, e int, FOREIGN KEY (d, e) REFERENCES p (x, y) ON DELETE SET DEFAULT, CONSTRAINT g FOREIGN KEY (d) REFERENCES p ON DELETE RESTRICT NOT DEFERRABLE, FOREIGN KEY (e, d) REFERENCES public.p (y, x) ON DELETE SET NULL (e) ON UPDATE NO ACTION);
-- @ a foreign key across schemas
CREATE SCHEMA s;
CREATE TABLE s.p (id int PRIMARY KEY);
CREATE TABLE t (a int REFERENCES s.p);
CREATE TABLE s.q (a int REFERENCES s.p (id), b int);
-- @ a foreign key onto its own table
CREATE TABLE t (id int PRIMARY KEY, parent int REFERENCES t ON DELETE CASCADE);
-- @ foreign keys that are added
CREATE TABLE p (id int PRIMARY KEY);
CREATE TABLE t (a int, b int);
ALTER TABLE t ADD FOREIGN KEY (a) REFERENCES p;
ALTER TABLE t ADD CONSTRAINT n FOREIGN KEY (b) REFERENCES p (id) NOT VALID;
ALTER TABLE ONLY t VALIDATE CONSTRAINT n;
ALTER TABLE t ALTER CONSTRAINT n DEFERRABLE INITIALLY DEFERRED;
-- @ checks that compare
CREATE TABLE t (a int, b int, n numeric(8,2), r real, v varchar(9), x text, d date, s timestamptz, o boolean, CHECK (a > 0), CHECK (a > b), CHECK (n > 0), CHECK (n >= 0.5), CHECK (r < 1.5), CHECK (v <> ''), CHECK (x = 'y'), CHECK (d > '2000-01-01'), CHECK (s < now()), CHECK (o), CHECK (o IS TRUE), CHECK (NOT o), CHECK (a > 1.5), CHECK (n < a), CHECK (a = -1), CHECK (n <> -1.5), CHECK (a != 3), CHECK (v = x), CHECK (d <= CURRENT_DATE), CHECK (a::numeric > n), CHECK (r > 0), CHECK (v >= 'a' AND v < 'z'));
-- @ checks with words
CREATE TABLE t (a int, v varchar(9), x text, CHECK (v IN ('a', 'b')), CHECK (x IN ('a', 'b')), CHECK (a IN (1, 2, 3)), CHECK (x NOT IN ('q', 'r')), CHECK (x IN ('one')), CHECK (a BETWEEN 1 AND 10), CHECK (a NOT BETWEEN 20 AND 30), CHECK (x LIKE 'a%'), CHECK (v LIKE '%b'), CHECK (x NOT LIKE '_c'), CHECK (x ILIKE 'D%'), CHECK (x ~ '^[a-z]+$'), CHECK (v ~* 'x'), CHECK (v !~ 'y'), CHECK (x IS NOT NULL), CHECK (x IS NULL OR a IS NULL), CHECK (x SIMILAR TO 'abc|def'), CHECK (a = ANY (ARRAY[1,2])), CHECK (x <> ALL (ARRAY['a','b'])), CHECK (v::text = ANY (ARRAY['a'::varchar, 'b'::varchar]::text[])), CHECK (a IS DISTINCT FROM 5), CHECK (x LIKE 'a!%' ESCAPE '!'));
-- @ checks that join conditions
CREATE TABLE t (a int, b int, c int, x text, CHECK (a > 0 AND b > 0), CHECK (a > 0 OR b > 0), CHECK (a > 0 AND b > 0 AND c > 0), CHECK ((a > 0 AND b > 0) OR c > 0), CHECK (a > 0 AND (b > 0 OR c > 0)), CHECK (NOT (a > 0 AND b > 0)), CHECK (NOT a > 3), CHECK ((((a)) > 4)), CHECK (a > 0 OR b > 0 OR c > 0 OR x = ''), CHECK ((a IS NULL) = (b IS NULL)), CHECK ((a IS NULL AND b IS NULL) OR (a IS NOT NULL AND b IS NOT NULL)), CHECK ((a > 1 AND b > 1) AND c > 1), CHECK (a > 1 AND (b > 1 AND c > 1)));
-- @ checks that compute
CREATE TABLE t (a int, b int, n numeric, v varchar(9), x text, r double precision, CHECK (a + b > 0), CHECK (a + b * 2 > 0), CHECK ((a + b) * 2 > 0), CHECK (a - b - 1 > 0), CHECK (a % 2 = 0), CHECK (-a < 0), CHECK (n * a > 0), CHECK (a / 2 > n), CHECK (v || x <> 'ab'), CHECK (x || 'z' <> ''), CHECK (a ^ 2 > 1), CHECK (@ a > 0), CHECK (a & 1 = 1), CHECK (r * 2 > 1), CHECK (r > a), CHECK (a + 1.5 > n), CHECK (n + 1 > 2), CHECK (- n < 1), CHECK (a << 2 > 1), CHECK (~a < 0), CHECK (|/ r > 1));
-- @ checks that call
CREATE TABLE t (a int, n numeric, v varchar(9), x text, c char(5), d date, s timestamp, j jsonb, l int[], CHECK (length(v) > 2), CHECK (length(x) > 2), CHECK (char_length(v) <= 5), CHECK (lower(v) = v), CHECK (upper(x) = x), CHECK (coalesce(a, 0) > 0), CHECK (coalesce(x, 'y') <> ''), CHECK (trim(x) <> ''), CHECK (trim(both from v) <> ''), CHECK (btrim(v, 'x') <> ''), CHECK (substring(x from 1 for 2) = 'ab'), CHECK (substr(v, 1, 1) = 'a'), CHECK (position('a' in x) > 0), CHECK (round(n, 2) = n), CHECK (abs(a) < 100), CHECK (extract(year from d) > 2000), CHECK (date_part('month', s) > 1), CHECK (date_trunc('day', s) = s), CHECK (nullif(x, '') IS NOT NULL), CHECK (greatest(a, 1) > 0), CHECK (j ? 'a'), CHECK (jsonb_typeof(j) = 'object'), CHECK (j ->> 'a' = 'b'), CHECK ((j -> 'n')::int > 0), CHECK (array_length(l, 1) > 0), CHECK (l[1] > 0), CHECK (cardinality(l) < 5), CHECK (a = ANY (l)), CHECK (concat(v, x) <> ''), CHECK (octet_length(x) < 100), CHECK (left(v, 1) = 'q'), CHECK (c = 'abc'), CHECK (length(c) = 5), CHECK (ltrim(v) = v), CHECK (overlay(x placing 'a' from 1) = x));
-- @ checks with casts and cases
CREATE TABLE t (a int, n numeric, v varchar(9), x text, d date, s timestamptz, CHECK (a::text <> ''), CHECK (cast(x as int) > 0), CHECK (v::int > 0), CHECK (a::bigint > 0), CHECK (x::date > d), CHECK (s::date = d), CHECK (CASE WHEN a > 0 THEN x = 'y' ELSE true END), CHECK (CASE a WHEN 1 THEN 'one' ELSE 'other' END = x), CHECK (CASE WHEN a = 1 THEN 1 WHEN a = 2 THEN 2 END = 2), CHECK (d + 1 > '2000-01-01'), CHECK (d - interval '1 day' < s), CHECK (s > timestamp '2000-01-01 00:00'), CHECK (n::int = a), CHECK (x::varchar(3) = v), CHECK ((a, n) <> (1, 2)), CHECK (n::numeric(5,1) = 1), CHECK (s AT TIME ZONE 'UTC' > '2000-01-01'), CHECK (v::text = x));
-- @ checks with names
CREATE TABLE t (a int CHECK (a > 0), b int CONSTRAINT named CHECK (b > 0), c int, CONSTRAINT c2 CHECK (c > 0) NO INHERIT, CHECK (c > 1) NOT VALID, CHECK (a > b), d text CHECK (d <> '') CHECK (length(d) < 9));
-- @ checks that refer to functions of one's own
CREATE FUNCTION ok(x int) RETURNS boolean LANGUAGE sql IMMUTABLE AS 'SELECT x > 0';
CREATE TABLE t (a int CHECK (ok(a)), b int DEFAULT 1, CHECK (public.ok(b)));
-- @ exclusions
CREATE TABLE t (a int, r tsrange, c circle, EXCLUDE USING gist (r WITH &&), CONSTRAINT ex EXCLUDE USING gist (c WITH &&) WHERE (a > 0), EXCLUDE (a WITH =));
-- @ constraints that come, go and change names
CREATE TABLE t (a int, b int CONSTRAINT c1 CHECK (b > 0), CONSTRAINT u1 UNIQUE (a));
ALTER TABLE t ADD CONSTRAINT c2 CHECK (a > 5), ADD PRIMARY KEY (a), ADD UNIQUE (b);
ALTER TABLE t DROP CONSTRAINT c1, DROP CONSTRAINT IF EXISTS nothing;
ALTER TABLE t RENAME CONSTRAINT u1 TO u2;
ALTER TABLE t RENAME CONSTRAINT t_pkey TO pk;
-- @ a key by an index that is there
CREATE TABLE t (a int NOT NULL, b int, c int);
CREATE UNIQUE INDEX ia ON t (a);
CREATE UNIQUE INDEX ib ON t (b);
CREATE UNIQUE INDEX ic ON t (c);
ALTER TABLE t ADD PRIMARY KEY USING INDEX ia;
ALTER TABLE t ADD CONSTRAINT ub UNIQUE USING INDEX ib;
ALTER TABLE t ADD UNIQUE USING INDEX ic DEFERRABLE;
-- @ dropping a key takes what leads to it
CREATE TABLE p (id int CONSTRAINT pk PRIMARY KEY);
CREATE TABLE t (a int REFERENCES p);
ALTER TABLE p DROP CONSTRAINT pk CASCADE;
-- @ dropping a table takes what leads to it
CREATE TABLE p (id int PRIMARY KEY);
CREATE TABLE t (a int REFERENCES p, b int);
CREATE VIEW v AS SELECT id FROM p;
CREATE VIEW w AS SELECT id FROM v;
DROP TABLE p CASCADE;
-- @ dropping a column takes what it is in
CREATE TABLE t (a int UNIQUE, b int, c int CHECK (c > 0), UNIQUE (b, c), CHECK (a > b), d int GENERATED ALWAYS AS (b + 1) STORED);
CREATE INDEX i ON t (b);
CREATE INDEX j ON t (a, b);
CREATE INDEX k ON t (a) WHERE b > 0;
CREATE INDEX l ON t (abs(b));
ALTER TABLE t DROP COLUMN b CASCADE;
-- @ dropping a column that others refer to
CREATE TABLE p (id int PRIMARY KEY, u int UNIQUE);
CREATE TABLE t (a int REFERENCES p (u));
CREATE VIEW v AS SELECT u FROM p;
ALTER TABLE p DROP COLUMN u CASCADE;
-- @ dropping a type takes its columns
CREATE TYPE e AS ENUM ('a');
CREATE TABLE t (a int, b e);
DROP TYPE e CASCADE;
-- @ dropping a schema takes all of it
CREATE SCHEMA s;
CREATE TABLE s.p (id int PRIMARY KEY);
CREATE TABLE t (a int REFERENCES s.p, b int);
DROP SCHEMA s CASCADE;
-- @ dropping a sequence takes the default
CREATE SEQUENCE s;
CREATE TABLE t (a int DEFAULT nextval('s'));
DROP SEQUENCE s CASCADE;
-- @ dropping a function takes its triggers
CREATE TABLE t (a int);
CREATE FUNCTION f() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN RETURN NEW; END';
CREATE TRIGGER tr BEFORE INSERT ON t FOR EACH ROW EXECUTE FUNCTION f();
DROP FUNCTION f() CASCADE;
-- @ indexes
CREATE TABLE t (a int, b text, c jsonb, d varchar(9), e int[], f tsvector, g int4range);
CREATE INDEX i1 ON t (a);
CREATE INDEX i2 ON t (a DESC, b);
CREATE UNIQUE INDEX i3 ON t (a, b);
CREATE INDEX i4 ON t USING gin (c);
CREATE INDEX i5 ON t USING gin (c jsonb_path_ops);
CREATE INDEX i6 ON t USING hash (b);
CREATE INDEX i7 ON t (lower(b));
CREATE INDEX i8 ON t (lower(d), a);
CREATE INDEX i9 ON t ((a + 1));
CREATE INDEX i10 ON t (a) WHERE b IS NOT NULL;
CREATE INDEX i11 ON t (b text_pattern_ops);
CREATE INDEX i12 ON t (a NULLS FIRST, b DESC NULLS LAST);
CREATE INDEX i13 ON t (a) INCLUDE (b);
CREATE INDEX i14 ON t USING brin (a) WITH (pages_per_range = 32);
CREATE INDEX i15 ON t USING gist (g);
CREATE INDEX IF NOT EXISTS i15 ON t (b);
CREATE INDEX CONCURRENTLY i16 ON t (b COLLATE "C");
CREATE INDEX i17 ON t ((c ->> 'x'));
CREATE INDEX i18 ON t (coalesce(b, ''));
CREATE INDEX i19 ON t USING gin (to_tsvector('english', b));
CREATE UNIQUE INDEX i20 ON t (lower(d)) WHERE a > 0 AND d IN ('x', 'y');
CREATE INDEX i21 ON ONLY public.t (a) TABLESPACE pg_default;
CREATE INDEX i22 ON t ((b || d));
CREATE INDEX i23 ON t ((a::text));
CREATE INDEX i24 ON t (upper((b)));
CREATE INDEX i25 ON t ((lower(b)));
CREATE UNIQUE INDEX i26 ON t (a) NULLS NOT DISTINCT;
-- @ indexes that go and change
CREATE TABLE t (a int, b int);
CREATE INDEX i1 ON t (a);
CREATE INDEX i2 ON t (b);
CREATE INDEX i3 ON t (a, b);
DROP INDEX i1;
DROP INDEX IF EXISTS i2, nothing CASCADE;
ALTER INDEX i3 RENAME TO i4;
ALTER INDEX i4 SET (fillfactor = 50);
REINDEX TABLE t;
CLUSTER t USING i4;
