-- @ a table without columns
CREATE TABLE t ();
-- @ many tables in schemas of one's own
CREATE SCHEMA "My Schema";
CREATE TABLE "My Schema"."My Table" ("My Column" int PRIMARY KEY, other text DEFAULT 'x');
CREATE TABLE u (a int REFERENCES "My Schema"."My Table" ("My Column"));
-- @ a domain over a domain
CREATE DOMAIN a AS integer CHECK (VALUE > 0);
CREATE DOMAIN b AS a CHECK (VALUE < 10);
CREATE TABLE t (x b);
-- @ a domain over an enumeration
CREATE TYPE e AS ENUM ('p', 'q');
CREATE DOMAIN d AS e DEFAULT 'p';
CREATE TABLE t (x d NOT NULL);
-- @ checks over an enumeration and a domain
CREATE TYPE e AS ENUM ('p', 'q');
CREATE DOMAIN d AS varchar(5);
CREATE TABLE t (x e, y d, CHECK (x = 'p'), CHECK (y <> ''), CHECK (x IN ('p', 'q')), CHECK (x <> 'q' OR y IS NULL));
-- @ checks over lists and documents
CREATE TABLE t (a int[], b text[], j jsonb, CHECK (1 = ANY (a)), CHECK (b @> ARRAY['x']), CHECK (b @> '{x}'), CHECK (j @> '{"a":1}'), CHECK (j -> 'a' ->> 'b' = 'c'), CHECK (jsonb_array_length(j) > 0), CHECK (a[1:2] IS NOT NULL), CHECK (array_position(b, 'x') IS NULL), CHECK (b && ARRAY['y', 'z']), CHECK (cardinality(b) = 0 OR b[1] = 'x'));
-- @ checks over ranges and addresses
CREATE TABLE t (r int4range, p tstzrange, i inet, CHECK (r @> 5), CHECK (NOT isempty(p)), CHECK (lower(r) > 0), CHECK (i << '10.0.0.0/8'), CHECK (upper_inf(p)), CHECK (family(i) = 4), CHECK (r && int4range(1, 5)));
-- @ checks over times
CREATE TABLE t (a date, b timestamp, c timestamptz, d time, e interval, CHECK (b > a), CHECK (c - b > interval '1 day'), CHECK (a + interval '1 month' > b), CHECK (d > '08:00'), CHECK (e < '2 hours'), CHECK (age(b) > e), CHECK (extract(dow from a) NOT IN (0, 6)), CHECK (b::date = a), CHECK (to_char(b, 'YYYY') = '2020'), CHECK (make_date(2020, 1, 1) < a), CHECK (date_trunc('month', b) = b), CHECK (isfinite(a)), CHECK (b BETWEEN '2000-01-01' AND '2100-01-01'), CHECK (c < CURRENT_TIMESTAMP), CHECK (a >= DATE '1900-01-01'));
-- @ checks over texts of several kinds
CREATE TABLE t (a varchar(9), b char(3), c text, d name, CHECK (a = b), CHECK (b = c), CHECK (a || b || c <> ''), CHECK (d <> 'x'), CHECK (a IN (b, 'x')), CHECK (lower(a) || 'y' = c), CHECK (a LIKE b || '%'), CHECK (strpos(a, 'x') > 0), CHECK (c COLLATE "C" > 'a'), CHECK (left(c, 2) = upper(left(c, 2))), CHECK (regexp_replace(a, 'x', 'y') = a), CHECK (c ~ ('^' || a)), CHECK (split_part(c, ',', 1) <> ''), CHECK (format('%s', a) <> c), CHECK (md5(c) = a), CHECK (reverse(a) = c), CHECK (repeat('x', 3) <> c), CHECK (a::char(2) = b), CHECK (initcap(c) = c), CHECK (translate(a, 'x', 'y') = a), CHECK (starts_with(c, 'x')));
-- @ checks over numbers of several kinds
CREATE TABLE t (a smallint, b int, c bigint, d numeric(8,2), e real, f double precision, CHECK (a < b), CHECK (b < c), CHECK (a + b < c), CHECK (c > 5), CHECK (a = 1), CHECK (d > e), CHECK (e > f), CHECK (f > d), CHECK (a / 2 = 1), CHECK (b * 1.5 > d), CHECK (c % 10 = 0), CHECK (power(f, 2) > 1), CHECK (round(d) = d), CHECK (mod(b, 2) = 0), CHECK (abs(d) < 10), CHECK (ceil(f) = 1), CHECK (greatest(a, b, c) > 0), CHECK (least(d, 1) = 1), CHECK (b BETWEEN a AND c), CHECK (c > 3000000000), CHECK (e = 1.5), CHECK (f <> 'NaN'), CHECK (d IN (1, 2.5)), CHECK (c IN (1, 2)), CHECK (a IN (1, 2)), CHECK (sqrt(d) > 1), CHECK (b::text ~ '^\d+$'), CHECK (-b > -5), CHECK (b - -1 > 0), CHECK (d = 0.0), CHECK (d > 1e3), CHECK (trunc(d, 1) = d), CHECK (width_bucket(d, 0, 10, 5) > 0));
-- @ checks over truths
CREATE TABLE t (a boolean, b boolean, c int, CHECK (a), CHECK (NOT a OR b), CHECK (a = true), CHECK (a <> b), CHECK (a IS NOT TRUE), CHECK ((c = 1) = a), CHECK (a IS NOT NULL AND b), CHECK (coalesce(a, false)), CHECK (c::boolean), CHECK (a::int + b::int = 1), CHECK (num_nonnulls(a, b, c) = 1), CHECK (CASE WHEN a THEN b ELSE c > 0 END), CHECK ((a AND b) OR (NOT a AND NOT b)), CHECK (a IS UNKNOWN));
-- @ defaults of lists and of documents
CREATE TABLE t (a text[] DEFAULT ARRAY['a', 'b']::text[], b int[] DEFAULT '{1,2}'::int[], c jsonb DEFAULT '{"b":1,"a":[1,2],"ccc":null}', d json DEFAULT '{"b":1}'::json, e varchar(3)[] DEFAULT ARRAY['x']::varchar(3)[], f numeric[] DEFAULT ARRAY[1, 2.5], g text DEFAULT array_to_string(ARRAY['a'], ','), h jsonb DEFAULT to_jsonb('x'::text), i jsonb DEFAULT '"x"', j uuid DEFAULT '00000000-0000-0000-0000-000000000000', k uuid[] DEFAULT '{}'::uuid[]);
-- @ defaults that say types twice
CREATE TABLE t (a varchar(5) DEFAULT 'x'::varchar(5), b text DEFAULT ('x')::text, c numeric(5,2) DEFAULT 1.5::numeric, d numeric(5,2) DEFAULT 0.00, e int DEFAULT '7'::int, f bigint DEFAULT 5::bigint, g real DEFAULT '1.5'::real, h double precision DEFAULT 0.0, i char(2) DEFAULT 'x'::bpchar, j date DEFAULT '2001-01-01'::date, k timestamp DEFAULT '2001-01-01 10:00:00'::timestamp, l boolean DEFAULT 'yes'::boolean, m smallint DEFAULT 1::smallint, n bytea DEFAULT decode('00', 'hex'), o timestamptz DEFAULT '2001-01-01 10:00:00+02', p interval DEFAULT '1 day 02:03:04', q interval DEFAULT '90 minutes', r time DEFAULT '10:00', s interval DEFAULT '1 year 2 months', t numeric(4) DEFAULT 3, u text DEFAULT 3::text, v varchar DEFAULT 'a' || 'b');
-- @ defaults by functions of one's own
CREATE FUNCTION new_id() RETURNS text LANGUAGE sql AS $$ SELECT 'x' $$;
CREATE SCHEMA s;
CREATE FUNCTION s.other(a int) RETURNS int LANGUAGE sql AS $$ SELECT a $$;
CREATE TABLE t (a text DEFAULT new_id(), b int DEFAULT s.other(5), c text DEFAULT upper(new_id()), d int DEFAULT s.other(1) + 1);
-- @ generated columns of many kinds
CREATE TABLE t (a int, b text, c date, d numeric(8,2), e text GENERATED ALWAYS AS (coalesce(b, 'none')) STORED, f int GENERATED ALWAYS AS (extract(year from c)) STORED, g numeric GENERATED ALWAYS AS (round(d * 1.2, 2)) STORED, h boolean GENERATED ALWAYS AS (a IS NOT NULL AND a > 0) STORED, i text GENERATED ALWAYS AS (CASE WHEN a > 0 THEN 'p' ELSE 'n' END) STORED, j varchar(9) GENERATED ALWAYS AS (left(b, 9)) STORED, k int GENERATED ALWAYS AS (length(b)) STORED);
-- @ indexes over expressions of many kinds
CREATE TABLE t (a int, b text, c date, d jsonb, e varchar(9), f boolean, s text[]);
CREATE INDEX ON t (lower(b), upper(e));
CREATE INDEX ON t ((a % 10));
CREATE INDEX ON t (date_trunc('month', c::timestamp));
CREATE INDEX ON t ((d ->> 'x'), (d -> 'y'));
CREATE INDEX ON t ((d #>> '{a,b}'));
CREATE INDEX ON t (((a + 1) * 2));
CREATE INDEX ON t (coalesce(b, e));
CREATE INDEX ON t ((CASE WHEN f THEN a END));
CREATE INDEX ON t ((b || e));
CREATE INDEX ON t (md5(b));
CREATE INDEX ON t (extract(year from c));
CREATE INDEX ON t USING gin (s);
CREATE INDEX ON t (b varchar_pattern_ops, a DESC NULLS LAST);
CREATE INDEX named ON t (lower(b) text_pattern_ops);
CREATE INDEX ON t ((f IS TRUE));
CREATE INDEX ON t ((a::text));
CREATE INDEX ON t (substring(b from 1 for 3));
CREATE INDEX ON t ((c + 1));
CREATE INDEX ON t (greatest(a, 1));
-- @ indexes with conditions of many kinds
CREATE TABLE t (a int, b text, c boolean, d timestamptz, e varchar(9));
CREATE INDEX i1 ON t (a) WHERE c;
CREATE INDEX i2 ON t (a) WHERE NOT c;
CREATE INDEX i3 ON t (a) WHERE d IS NULL;
CREATE UNIQUE INDEX i4 ON t (a, b) WHERE d IS NULL AND e = 'x';
CREATE INDEX i5 ON t (a) WHERE b IN ('x', 'y');
CREATE INDEX i6 ON t (a) WHERE b LIKE 'x%';
CREATE INDEX i7 ON t (a) WHERE a > 5 AND (b = 'x' OR c = true);
CREATE INDEX i8 ON t (a) WHERE e <> '';
CREATE INDEX i9 ON t (a) WHERE c IS TRUE;
CREATE INDEX i10 ON t (a) WHERE d > '2020-01-01';
-- @ a function with a default of each kind
CREATE FUNCTION f(a int DEFAULT 5, b text DEFAULT 'x', c boolean DEFAULT NULL, d numeric DEFAULT 1.5, VARIADIC e text[] DEFAULT '{}') RETURNS int LANGUAGE sql AS 'SELECT 1';
-- @ functions that return rows and types of one's own
CREATE TYPE pair AS (a int, b text);
CREATE TABLE t (x int);
CREATE FUNCTION f1() RETURNS pair LANGUAGE sql AS $$ SELECT 1, 'x' $$;
CREATE FUNCTION f3() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RETURN NULL; END $$;
CREATE FUNCTION f4(INOUT a int, b int) LANGUAGE sql AS $$ SELECT 1 $$;
CREATE FUNCTION f5(a int, OUT b int) RETURNS int LANGUAGE sql AS $$ SELECT 1 $$;
CREATE FUNCTION f6(anyelement) RETURNS anyelement LANGUAGE sql AS $$ SELECT $1 $$;
-- @ a window function and a set-returning one
CREATE FUNCTION g(n int) RETURNS SETOF text LANGUAGE sql ROWS 10 SET search_path TO 'public' SECURITY DEFINER AS $$ SELECT 'x' $$;
-- @ a do block with a function in it
DO LANGUAGE plpgsql $do$ BEGIN PERFORM 1; EXCEPTION WHEN others THEN NULL; END $do$;
CREATE TABLE t (a int);
-- @ quoted names of constraints and indexes
CREATE TABLE t (a int CONSTRAINT "Must Be" CHECK (a > 0), b int, CONSTRAINT "The Key" PRIMARY KEY (a), CONSTRAINT "Only One" UNIQUE (b));
CREATE INDEX "An Index" ON t (b);
-- @ keys in the order of the statement
CREATE TABLE t (a int, b int, c int, UNIQUE (c), UNIQUE (b), UNIQUE (a), CHECK (c > 0), CHECK (b > 0));
-- @ a primary key added with a column
CREATE TABLE t (a int);
ALTER TABLE t ADD COLUMN id bigserial PRIMARY KEY;
ALTER TABLE t ADD COLUMN code text UNIQUE NOT NULL DEFAULT '';
-- @ a reference added with a column
CREATE TABLE p (id int PRIMARY KEY);
CREATE TABLE t (a int);
ALTER TABLE t ADD COLUMN p_id int REFERENCES p ON DELETE CASCADE, ADD COLUMN q_id int NOT NULL CONSTRAINT named REFERENCES p (id);
-- @ a type that changes twice
CREATE TABLE t (a int);
ALTER TABLE t ALTER a TYPE bigint;
ALTER TABLE t ALTER a TYPE numeric(10,2) USING a::numeric, ALTER a SET DEFAULT 0;
-- @ a column that is renamed twice
CREATE TABLE t (a int UNIQUE);
ALTER TABLE t RENAME a TO b;
ALTER TABLE t RENAME b TO c;
CREATE INDEX ON t (c);
-- @ a name that is used again
CREATE TABLE t (a int PRIMARY KEY);
ALTER TABLE t RENAME TO old_t;
CREATE TABLE t (a int PRIMARY KEY, b int UNIQUE);
-- @ a sequence with a name of its own
CREATE SEQUENCE "My Seq" START 5;
CREATE TABLE t (a int DEFAULT nextval('"My Seq"'), b text DEFAULT 'A-' || nextval('"My Seq"'));
-- @ comments that are taken back
CREATE TABLE t (a int);
COMMENT ON TABLE t IS 'x';
COMMENT ON TABLE t IS NULL;
COMMENT ON COLUMN t.a IS '';
-- @ a table like one in another schema
CREATE SCHEMA s;
CREATE TABLE s.p (id int PRIMARY KEY, n text NOT NULL DEFAULT 'x');
CREATE TABLE t (LIKE s.p INCLUDING DEFAULTS, extra int);
-- @ statements with and without blanks
CREATE TABLE t(a int,b text DEFAULT'x',c int[]DEFAULT'{}',PRIMARY KEY(a));CREATE INDEX i ON t(b);
-- @ capitals throughout
CREATE TABLE T (A INTEGER NOT NULL, B VARCHAR(9) DEFAULT 'X', CONSTRAINT T_PK PRIMARY KEY (A), CONSTRAINT T_CK CHECK (B <> 'Y'));
CREATE INDEX T_IX ON T (B);
