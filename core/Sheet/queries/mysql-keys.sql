-- Primary, unique and foreign keys, one row for each column, from the information_schema of MySQL and MariaDB.
SELECT k.TABLE_SCHEMA AS schema_name, k.TABLE_NAME AS table_name, k.CONSTRAINT_NAME AS constraint_name, t.CONSTRAINT_TYPE AS constraint_kind,
       k.COLUMN_NAME AS column_name, k.ORDINAL_POSITION AS position, k.REFERENCED_TABLE_SCHEMA AS far_schema, k.REFERENCED_TABLE_NAME AS far_table,
       k.REFERENCED_COLUMN_NAME AS far_column, r.DELETE_RULE AS on_delete, r.UPDATE_RULE AS on_update
  FROM information_schema.KEY_COLUMN_USAGE k
  JOIN information_schema.TABLE_CONSTRAINTS t ON t.CONSTRAINT_SCHEMA = k.CONSTRAINT_SCHEMA AND t.TABLE_NAME = k.TABLE_NAME AND t.CONSTRAINT_NAME = k.CONSTRAINT_NAME
  LEFT JOIN information_schema.REFERENTIAL_CONSTRAINTS r ON r.CONSTRAINT_SCHEMA = k.CONSTRAINT_SCHEMA AND r.TABLE_NAME = k.TABLE_NAME AND r.CONSTRAINT_NAME = k.CONSTRAINT_NAME
 WHERE k.TABLE_SCHEMA NOT IN ('information_schema', 'mysql', 'performance_schema', 'sys') AND t.CONSTRAINT_TYPE IN ('PRIMARY KEY', 'UNIQUE', 'FOREIGN KEY')
 ORDER BY k.TABLE_SCHEMA, k.TABLE_NAME, k.CONSTRAINT_NAME, k.ORDINAL_POSITION
