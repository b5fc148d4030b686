-- Columns of every table and view of the current database, from the catalog views of Microsoft SQL Server.
SELECT s.name AS schema_name, o.name AS table_name, CASE o.type WHEN 'V' THEN 'VIEW' ELSE 'TABLE' END AS table_kind, c.name AS column_name, c.column_id AS position,
       CASE WHEN t.name IN ('nvarchar', 'nchar') THEN CONCAT(t.name, '(', CASE c.max_length WHEN -1 THEN 'max' ELSE CAST(c.max_length / 2 AS varchar(10)) END, ')')
            WHEN t.name IN ('varchar', 'char', 'varbinary', 'binary') THEN CONCAT(t.name, '(', CASE c.max_length WHEN -1 THEN 'max' ELSE CAST(c.max_length AS varchar(10)) END, ')')
            WHEN t.name IN ('decimal', 'numeric') THEN CONCAT(t.name, '(', c.precision, ',', c.scale, ')')
            ELSE t.name END AS native_type,
       CASE c.is_nullable WHEN 1 THEN 'NO' ELSE 'YES' END AS required, CAST(d.definition AS nvarchar(4000)) AS default_value,
       CASE c.is_identity WHEN 1 THEN 'YES' ELSE 'NO' END AS numbered
  FROM sys.objects o
  JOIN sys.schemas s ON s.schema_id = o.schema_id
  JOIN sys.columns c ON c.object_id = o.object_id
  JOIN sys.types t ON t.user_type_id = c.user_type_id
  LEFT JOIN sys.default_constraints d ON d.object_id = c.default_object_id
 WHERE o.type IN ('U', 'V') AND o.is_ms_shipped = 0
 ORDER BY s.name, o.name, c.column_id
