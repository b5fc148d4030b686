-- Primary and unique keys and foreign keys, one row for each column, from the DBC views of Teradata.
SELECT TRIM(i.DatabaseName) AS schema_name, TRIM(i.TableName) AS table_name, COALESCE(TRIM(i.IndexName), TRIM(i.TableName) || '_' || TRIM(i.IndexNumber)) AS constraint_name,
       CASE i.IndexType WHEN 'K' THEN 'PRIMARY KEY' ELSE 'UNIQUE' END AS constraint_kind, TRIM(i.ColumnName) AS column_name, i.ColumnPosition AS "position",
       CAST(NULL AS VARCHAR(128)) AS far_schema, CAST(NULL AS VARCHAR(128)) AS far_table, CAST(NULL AS VARCHAR(128)) AS far_column, CAST(NULL AS VARCHAR(20)) AS on_delete, CAST(NULL AS VARCHAR(20)) AS on_update
  FROM DBC.IndicesV i WHERE i.IndexType IN ('K', 'U')
 UNION ALL
SELECT TRIM(r.ChildDB), TRIM(r.ChildTable), COALESCE(TRIM(r.IndexName), 'fk_' || TRIM(r.IndexID)), 'FOREIGN KEY', TRIM(r.ChildKeyColumn), 1, TRIM(r.ParentDB), TRIM(r.ParentTable), TRIM(r.ParentKeyColumn), NULL, NULL
  FROM DBC.All_RI_ChildrenV r
 ORDER BY 1, 2, 3, 6
