-- Columns of every table and view, with their comments, from the catalogs of PostgreSQL.
SELECT n.nspname AS schema_name, c.relname AS table_name, CASE c.relkind WHEN 'v' THEN 'VIEW' WHEN 'm' THEN 'MATERIALIZED VIEW' ELSE 'TABLE' END AS table_kind,
       a.attname AS column_name, a.attnum AS position, pg_catalog.format_type(a.atttypid, a.atttypmod) AS native_type,
       CASE WHEN a.attnotnull THEN 'YES' ELSE 'NO' END AS required, pg_catalog.pg_get_expr(d.adbin, d.adrelid) AS default_value,
       CASE WHEN a.attidentity <> '' THEN 'YES' ELSE 'NO' END AS numbered, pg_catalog.col_description(c.oid, a.attnum) AS column_comment,
       pg_catalog.obj_description(c.oid, 'pg_class') AS table_comment
  FROM pg_catalog.pg_attribute a
  JOIN pg_catalog.pg_class c ON c.oid = a.attrelid
  JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
  LEFT JOIN pg_catalog.pg_attrdef d ON d.adrelid = a.attrelid AND d.adnum = a.attnum
 WHERE a.attnum > 0 AND NOT a.attisdropped AND c.relkind IN ('r', 'p', 'f', 'v', 'm') AND NOT c.relispartition
   AND n.nspname NOT LIKE 'pg\_%' AND n.nspname <> 'information_schema'
 ORDER BY n.nspname, c.relname, a.attnum
