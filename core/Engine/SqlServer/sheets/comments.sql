-- Descriptions kept as extended properties, from the catalog views of Microsoft SQL Server.
SELECT s.name AS schema_name, o.name AS table_name, c.name AS column_name, CAST(e.value AS nvarchar(4000)) AS comment_text
  FROM sys.extended_properties e
  JOIN sys.objects o ON o.object_id = e.major_id
  JOIN sys.schemas s ON s.schema_id = o.schema_id
  LEFT JOIN sys.columns c ON c.object_id = e.major_id AND c.column_id = e.minor_id
 WHERE e.class = 1 AND e.name = 'MS_Description' AND o.type IN ('U', 'V')
