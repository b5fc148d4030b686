-- Primary, unique and foreign keys, one row for each column, from the catalogs of PostgreSQL.
SELECT n.nspname AS schema_name, c.relname AS table_name, k.conname AS constraint_name,
       CASE k.contype WHEN 'p' THEN 'PRIMARY KEY' WHEN 'u' THEN 'UNIQUE' ELSE 'FOREIGN KEY' END AS constraint_kind,
       a.attname AS column_name, o.position AS position, fn.nspname AS far_schema, fc.relname AS far_table, fa.attname AS far_column,
       CASE k.confdeltype WHEN 'c' THEN 'CASCADE' WHEN 'n' THEN 'SET NULL' WHEN 'd' THEN 'SET DEFAULT' WHEN 'r' THEN 'RESTRICT' ELSE 'NO ACTION' END AS on_delete,
       CASE k.confupdtype WHEN 'c' THEN 'CASCADE' WHEN 'n' THEN 'SET NULL' WHEN 'd' THEN 'SET DEFAULT' WHEN 'r' THEN 'RESTRICT' ELSE 'NO ACTION' END AS on_update
  FROM pg_catalog.pg_constraint k
  JOIN pg_catalog.pg_class c ON c.oid = k.conrelid
  JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
  JOIN LATERAL unnest(k.conkey, k.confkey) WITH ORDINALITY AS o(own, far, position) ON true
  JOIN pg_catalog.pg_attribute a ON a.attrelid = k.conrelid AND a.attnum = o.own
  LEFT JOIN pg_catalog.pg_class fc ON fc.oid = k.confrelid
  LEFT JOIN pg_catalog.pg_namespace fn ON fn.oid = fc.relnamespace
  LEFT JOIN pg_catalog.pg_attribute fa ON fa.attrelid = k.confrelid AND fa.attnum = o.far
 WHERE k.contype IN ('p', 'u', 'f') AND k.conparentid = 0 AND NOT c.relispartition AND n.nspname NOT LIKE 'pg\_%' AND n.nspname <> 'information_schema'
 ORDER BY n.nspname, c.relname, k.conname, o.position
