-- @ a view
CREATE TABLE t (a int NOT NULL, b varchar(9), n numeric(8,2));
CREATE VIEW v AS SELECT a, b AS named, a + 1 AS more, n * 2 AS double FROM t WHERE a > 0;
CREATE OR REPLACE VIEW w (x, y) AS SELECT a, b FROM t;
-- @ views with groups and joins
CREATE TABLE p (id int PRIMARY KEY, n text);
CREATE TABLE t (p_id int REFERENCES p, v numeric(8,2), at timestamptz);
CREATE VIEW s AS SELECT p.n, count(*) AS c, sum(t.v) AS total, avg(t.v) AS mean, max(t.at)::date AS latest FROM p LEFT JOIN t ON t.p_id = p.id GROUP BY p.id ORDER BY p.n;
CREATE VIEW u AS WITH x AS (SELECT id FROM p) SELECT x.id, row_number() OVER (ORDER BY x.id) AS nr FROM x UNION ALL SELECT 1, 2;
-- @ materialized views
CREATE TABLE t (a int, b text);
CREATE MATERIALIZED VIEW m AS SELECT a, count(*) AS c FROM t GROUP BY a WITH NO DATA;
CREATE MATERIALIZED VIEW IF NOT EXISTS k (x) AS SELECT b FROM t;
CREATE UNIQUE INDEX mi ON m (a);
REFRESH MATERIALIZED VIEW m;
-- @ views that go and change
CREATE TABLE t (a int, b int);
CREATE VIEW v AS SELECT a FROM t;
CREATE VIEW w AS SELECT a FROM t;
CREATE MATERIALIZED VIEW m AS SELECT a FROM t;
CREATE OR REPLACE VIEW v AS SELECT a, b FROM t;
DROP VIEW w;
ALTER VIEW v RENAME TO vv;
ALTER VIEW vv RENAME COLUMN b TO bb;
ALTER MATERIALIZED VIEW m RENAME TO mm;
ALTER VIEW vv OWNER TO CURRENT_USER;
ALTER VIEW vv ALTER COLUMN a SET DEFAULT 5;
DROP MATERIALIZED VIEW IF EXISTS nothing;
-- @ a view with options
CREATE TABLE t (a int);
CREATE VIEW v WITH (security_barrier) AS SELECT a FROM t WITH LOCAL CHECK OPTION;
CREATE TEMP VIEW w AS SELECT a FROM t;
CREATE RECURSIVE VIEW r (n) AS VALUES (1) UNION ALL SELECT n + 1 FROM r WHERE n < 5;
-- @ a function
CREATE FUNCTION add(a int, b int DEFAULT 1) RETURNS int LANGUAGE sql IMMUTABLE AS $$ SELECT a + b $$;
COMMENT ON FUNCTION add(int, int) IS 'adds';
-- @ functions in many forms
CREATE FUNCTION f1() RETURNS void AS 'SELECT 1' LANGUAGE sql;
CREATE FUNCTION f2(OUT a int, OUT b text) LANGUAGE sql AS $$ SELECT 1, 'x' $$;
CREATE FUNCTION f3() RETURNS TABLE (a int, b text) LANGUAGE sql AS $$ SELECT 1, 'x' $$;
CREATE FUNCTION f4() RETURNS SETOF int LANGUAGE sql AS $$ SELECT 1 $$;
CREATE FUNCTION f5(VARIADIC x int[]) RETURNS int[] LANGUAGE sql STABLE STRICT PARALLEL SAFE COST 10 AS $$ SELECT x $$;
CREATE FUNCTION f6(x varchar(5), y timestamptz) RETURNS varchar LANGUAGE sql AS $$ SELECT x $$;
CREATE FUNCTION f7(int, text) RETURNS bool LANGUAGE sql RETURN $1 > 0;

-- @ functions with bodies of all kinds
CREATE FUNCTION f1() RETURNS int LANGUAGE plpgsql AS $body$
DECLARE x int; -- it's begin; case
BEGIN
  /* $$ not the end; case */
  IF true THEN x := 1; END IF;
  EXECUTE 'SELECT ''a;b''' ;
  PERFORM $q$ ; end begin $q$;
  RETURN CASE WHEN x = 1 THEN 2 END;
END;
$body$;
CREATE FUNCTION f2() RETURNS text LANGUAGE plpgsql AS 'BEGIN RETURN ''it''''s; begin''; END';
CREATE TABLE t (a int);
-- @ functions that replace and share names
CREATE FUNCTION f(x int) RETURNS int LANGUAGE sql AS 'SELECT 1';
CREATE FUNCTION f(x text) RETURNS int LANGUAGE sql AS 'SELECT 2';
CREATE OR REPLACE FUNCTION f(x int) RETURNS int LANGUAGE sql AS 'SELECT 3';
CREATE FUNCTION g() RETURNS int LANGUAGE sql AS 'SELECT 4';
DROP FUNCTION f(text);
DROP FUNCTION IF EXISTS nothing(int), g;
-- @ functions that change
CREATE SCHEMA s;
CREATE FUNCTION f(x int) RETURNS int LANGUAGE sql AS 'SELECT 1';
CREATE FUNCTION g(x int) RETURNS int LANGUAGE sql AS 'SELECT 2';
ALTER FUNCTION f(int) RENAME TO ff;
ALTER FUNCTION g(int) SET SCHEMA s;
ALTER FUNCTION ff(int) OWNER TO CURRENT_USER;
ALTER FUNCTION ff(int) STABLE;
-- @ procedures
CREATE PROCEDURE p(a int, INOUT b int) LANGUAGE plpgsql AS $$ BEGIN b := a; COMMIT; END $$;
CREATE OR REPLACE PROCEDURE q() LANGUAGE sql AS $$ SELECT 1 $$;
DROP PROCEDURE q;
-- @ aggregates
CREATE FUNCTION add_up(a numeric, b numeric) RETURNS numeric LANGUAGE sql IMMUTABLE AS 'SELECT coalesce(a, 0) + coalesce(b, 0)';
CREATE AGGREGATE total(numeric) (SFUNC = add_up, STYPE = numeric, INITCOND = '0');
CREATE AGGREGATE other(x int) (SFUNC = int4pl, STYPE = int);
COMMENT ON AGGREGATE total(numeric) IS 'adds up';
DROP AGGREGATE other(int);
-- @ triggers
CREATE TABLE t (a int, b text);
CREATE FUNCTION f() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RETURN NEW; END $$;
CREATE TRIGGER t1 BEFORE INSERT OR UPDATE ON t FOR EACH ROW EXECUTE FUNCTION f();
CREATE TRIGGER t2 AFTER DELETE ON t FOR EACH STATEMENT EXECUTE PROCEDURE f('arg', 2);
CREATE TRIGGER t3 AFTER UPDATE OF a, b ON t FOR EACH ROW WHEN (OLD.a IS DISTINCT FROM NEW.a) EXECUTE FUNCTION f();
CREATE CONSTRAINT TRIGGER t4 AFTER INSERT ON t DEFERRABLE INITIALLY DEFERRED FOR EACH ROW EXECUTE FUNCTION f();
CREATE TRIGGER t5 AFTER INSERT ON t REFERENCING NEW TABLE AS n FOR EACH STATEMENT EXECUTE FUNCTION public.f();
CREATE OR REPLACE TRIGGER t1 BEFORE DELETE OR TRUNCATE ON t EXECUTE FUNCTION f();
-- @ triggers that go and change
CREATE TABLE t (a int);
CREATE VIEW v AS SELECT a FROM t;
CREATE FUNCTION f() RETURNS trigger LANGUAGE plpgsql AS $$ BEGIN RETURN NEW; END $$;
CREATE TRIGGER t1 BEFORE INSERT ON t FOR EACH ROW EXECUTE FUNCTION f();
CREATE TRIGGER t2 INSTEAD OF INSERT ON v FOR EACH ROW EXECUTE FUNCTION f();
CREATE TRIGGER t3 AFTER INSERT ON t FOR EACH ROW EXECUTE FUNCTION f();
ALTER TRIGGER t1 ON t RENAME TO t9;
DROP TRIGGER t3 ON t;
DROP TRIGGER IF EXISTS nothing ON t;
ALTER TABLE t DISABLE TRIGGER t9;
ALTER TABLE t ENABLE TRIGGER ALL;
-- @ an event trigger and a language
CREATE FUNCTION f() RETURNS event_trigger LANGUAGE plpgsql AS $$ BEGIN END $$;
CREATE EVENT TRIGGER et ON ddl_command_start EXECUTE FUNCTION f();
DROP EVENT TRIGGER et;
CREATE TABLE t (a int);
-- @ operators and casts of one's own
CREATE FUNCTION eq(a point, b point) RETURNS boolean LANGUAGE sql IMMUTABLE AS 'SELECT true';
CREATE OPERATOR === (LEFTARG = point, RIGHTARG = point, FUNCTION = eq);
CREATE TABLE t (a point, b point, CHECK (a === b));
-- @ sequences
CREATE SEQUENCE s;
CREATE SEQUENCE IF NOT EXISTS s2 AS integer INCREMENT BY 2 MINVALUE 1 CYCLE OWNED BY NONE;
ALTER SEQUENCE s RESTART WITH 5;
ALTER SEQUENCE s RENAME TO s3;
CREATE TABLE t (a int DEFAULT nextval('s3'));
SELECT setval('s3', 10);
DROP SEQUENCE IF EXISTS s2;
-- @ a renamed sequence that a column uses
CREATE TABLE t (id serial);
ALTER SEQUENCE t_id_seq RENAME TO other_seq;
-- @ a renamed table keeps its sequence
CREATE TABLE t (id serial PRIMARY KEY, b int UNIQUE);
ALTER TABLE t RENAME TO u;
ALTER TABLE u RENAME COLUMN id TO ident;
-- @ what the dump tool writes
SET check_function_bodies = false;
SELECT pg_catalog.set_config('search_path', '', false);
CREATE TYPE public.mood AS ENUM (
    'a',
    'b'
);
CREATE FUNCTION public.f() RETURNS trigger
    LANGUAGE plpgsql
    AS $$
begin return new; end$$;
CREATE TABLE public.t (
    id integer NOT NULL,
    m public.mood DEFAULT 'a'::public.mood NOT NULL,
    n character varying(9) DEFAULT 'x'::character varying,
    CONSTRAINT t_n_check CHECK (((n)::text <> ''::text))
);
CREATE SEQUENCE public.t_id_seq
    AS integer
    START WITH 1
    INCREMENT BY 1
    NO MINVALUE
    NO MAXVALUE
    CACHE 1;
ALTER TABLE public.t_id_seq OWNER TO fasti;
ALTER SEQUENCE public.t_id_seq OWNED BY public.t.id;
ALTER TABLE ONLY public.t ALTER COLUMN id SET DEFAULT nextval('public.t_id_seq'::regclass);
ALTER TABLE ONLY public.t
    ADD CONSTRAINT t_pkey PRIMARY KEY (id);
CREATE INDEX t_n ON public.t USING btree (n);
CREATE TRIGGER tr BEFORE INSERT ON public.t FOR EACH ROW EXECUTE FUNCTION public.f();
