-- Columns of every table and view, with their comments, from the information_schema of MySQL and MariaDB.
SELECT c.TABLE_SCHEMA AS schema_name, c.TABLE_NAME AS table_name, t.TABLE_TYPE AS table_kind, c.COLUMN_NAME AS column_name, c.ORDINAL_POSITION AS position,
       c.COLUMN_TYPE AS native_type, CASE c.IS_NULLABLE WHEN 'NO' THEN 'YES' ELSE 'NO' END AS required, c.COLUMN_DEFAULT AS default_value,
       CASE WHEN c.EXTRA LIKE '%auto_increment%' THEN 'YES' ELSE 'NO' END AS numbered, c.COLUMN_COMMENT AS column_comment,
       CASE t.TABLE_TYPE WHEN 'VIEW' THEN '' ELSE t.TABLE_COMMENT END AS table_comment
  FROM information_schema.COLUMNS c
  JOIN information_schema.TABLES t ON t.TABLE_SCHEMA = c.TABLE_SCHEMA AND t.TABLE_NAME = c.TABLE_NAME
 WHERE c.TABLE_SCHEMA NOT IN ('information_schema', 'mysql', 'performance_schema', 'sys')
 ORDER BY c.TABLE_SCHEMA, c.TABLE_NAME, c.ORDINAL_POSITION
