-- Columns of every table and view, from the standard information_schema.
SELECT c.table_schema AS schema_name, c.table_name AS table_name, t.table_type AS table_kind, c.column_name AS column_name,
       c.ordinal_position AS position,
       CASE WHEN c.character_maximum_length IS NOT NULL THEN CONCAT(c.data_type, '(', c.character_maximum_length, ')')
            WHEN c.data_type IN ('numeric', 'decimal', 'NUMERIC', 'DECIMAL') AND c.numeric_precision IS NOT NULL THEN CONCAT(c.data_type, '(', c.numeric_precision, ',', c.numeric_scale, ')')
            ELSE c.data_type END AS native_type,
       CASE WHEN c.is_nullable = 'NO' THEN 'YES' ELSE 'NO' END AS required, c.column_default AS default_value
  FROM information_schema.columns c
  JOIN information_schema.tables t ON t.table_schema = c.table_schema AND t.table_name = c.table_name
 WHERE LOWER(c.table_schema) NOT IN ('information_schema', 'pg_catalog', 'mysql', 'performance_schema', 'sys')
 ORDER BY c.table_schema, c.table_name, c.ordinal_position
