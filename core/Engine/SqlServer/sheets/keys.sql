-- Primary, unique and foreign keys, one row for each column, from the catalog views of Microsoft SQL Server.
SELECT s.name AS schema_name, o.name AS table_name, k.name AS constraint_name, CASE k.type WHEN 'PK' THEN 'PRIMARY KEY' ELSE 'UNIQUE' END AS constraint_kind,
       c.name AS column_name, i.key_ordinal AS position, NULL AS far_schema, NULL AS far_table, NULL AS far_column, NULL AS on_delete, NULL AS on_update
  FROM sys.key_constraints k
  JOIN sys.objects o ON o.object_id = k.parent_object_id
  JOIN sys.schemas s ON s.schema_id = o.schema_id
  JOIN sys.index_columns i ON i.object_id = o.object_id AND i.index_id = k.unique_index_id
  JOIN sys.columns c ON c.object_id = o.object_id AND c.column_id = i.column_id
 UNION ALL
SELECT s.name, o.name, k.name, 'FOREIGN KEY', c.name, f.constraint_column_id, fs.name, fo.name, fc.name, REPLACE(k.delete_referential_action_desc, '_', ' '), REPLACE(k.update_referential_action_desc, '_', ' ')
  FROM sys.foreign_keys k
  JOIN sys.objects o ON o.object_id = k.parent_object_id
  JOIN sys.schemas s ON s.schema_id = o.schema_id
  JOIN sys.foreign_key_columns f ON f.constraint_object_id = k.object_id
  JOIN sys.columns c ON c.object_id = f.parent_object_id AND c.column_id = f.parent_column_id
  JOIN sys.objects fo ON fo.object_id = f.referenced_object_id
  JOIN sys.schemas fs ON fs.schema_id = fo.schema_id
  JOIN sys.columns fc ON fc.object_id = f.referenced_object_id AND fc.column_id = f.referenced_column_id
 ORDER BY 1, 2, 3, 6
