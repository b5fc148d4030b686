-- Primary, unique and foreign keys, one row for each column, from the standard information_schema.
SELECT k.table_schema AS schema_name, k.table_name AS table_name, k.constraint_name AS constraint_name, t.constraint_type AS constraint_kind,
       k.column_name AS column_name, k.ordinal_position AS position,
       f.table_schema AS far_schema, f.table_name AS far_table, f.column_name AS far_column, r.delete_rule AS on_delete, r.update_rule AS on_update
  FROM information_schema.key_column_usage k
  JOIN information_schema.table_constraints t ON t.constraint_schema = k.constraint_schema AND t.constraint_name = k.constraint_name AND t.table_name = k.table_name
  LEFT JOIN information_schema.referential_constraints r ON r.constraint_schema = k.constraint_schema AND r.constraint_name = k.constraint_name AND t.constraint_type = 'FOREIGN KEY'
  LEFT JOIN information_schema.key_column_usage f ON f.constraint_schema = r.unique_constraint_schema AND f.constraint_name = r.unique_constraint_name AND f.ordinal_position = k.position_in_unique_constraint
 WHERE t.constraint_type IN ('PRIMARY KEY', 'UNIQUE', 'FOREIGN KEY')
 ORDER BY k.table_schema, k.table_name, k.constraint_name, k.ordinal_position
