-- Columns of every table and view of the current database, with their comments, from Snowflake's information_schema.
SELECT c.table_schema AS schema_name, c.table_name AS table_name, t.table_type AS table_kind, c.column_name AS column_name, c.ordinal_position AS position,
       CASE WHEN c.data_type = 'TEXT' THEN 'varchar(' || c.character_maximum_length || ')' WHEN c.data_type = 'NUMBER' THEN 'number(' || c.numeric_precision || ',' || c.numeric_scale || ')' ELSE c.data_type END AS native_type,
       CASE c.is_nullable WHEN 'NO' THEN 'YES' ELSE 'NO' END AS required, c.column_default AS default_value, c.comment AS column_comment, t.comment AS table_comment
  FROM information_schema.columns c
  JOIN information_schema.tables t ON t.table_schema = c.table_schema AND t.table_name = c.table_name
 WHERE c.table_schema <> 'INFORMATION_SCHEMA'
 ORDER BY c.table_schema, c.table_name, c.ordinal_position
