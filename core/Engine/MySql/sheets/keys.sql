-- Primary, unique and foreign keys, one row for each column, from the information_schema of MySQL and MariaDB.
-- One view alone: joining several of them takes minutes on a large server. What happens on delete is therefore not said.
SELECT k.TABLE_SCHEMA AS schema_name, k.TABLE_NAME AS table_name, k.CONSTRAINT_NAME AS constraint_name,
       CASE WHEN k.REFERENCED_TABLE_NAME IS NOT NULL THEN 'FOREIGN KEY' WHEN k.CONSTRAINT_NAME = 'PRIMARY' THEN 'PRIMARY KEY' ELSE 'UNIQUE' END AS constraint_kind,
       k.COLUMN_NAME AS column_name, k.ORDINAL_POSITION AS position, k.REFERENCED_TABLE_SCHEMA AS far_schema, k.REFERENCED_TABLE_NAME AS far_table,
       k.REFERENCED_COLUMN_NAME AS far_column
  FROM information_schema.KEY_COLUMN_USAGE k
 WHERE k.TABLE_SCHEMA NOT IN ('information_schema', 'mysql', 'performance_schema', 'sys')
 ORDER BY k.TABLE_SCHEMA, k.TABLE_NAME, k.CONSTRAINT_NAME, k.ORDINAL_POSITION
