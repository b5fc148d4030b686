-- Columns of every table and view, with their comments, from the DBC views of Teradata.
SELECT TRIM(c.DatabaseName) AS schema_name, TRIM(c.TableName) AS table_name, CASE t.TableKind WHEN 'V' THEN 'VIEW' ELSE 'TABLE' END AS table_kind, TRIM(c.ColumnName) AS column_name, c.ColumnId AS "position",
       CASE TRIM(c.ColumnType) WHEN 'CV' THEN 'varchar(' || TRIM(c.ColumnLength) || ')' WHEN 'CF' THEN 'char(' || TRIM(c.ColumnLength) || ')' WHEN 'I' THEN 'integer' WHEN 'I1' THEN 'byteint' WHEN 'I2' THEN 'smallint' WHEN 'I8' THEN 'bigint'
            WHEN 'D' THEN 'decimal(' || TRIM(c.DecimalTotalDigits) || ',' || TRIM(c.DecimalFractionalDigits) || ')' WHEN 'F' THEN 'float' WHEN 'DA' THEN 'date' WHEN 'TS' THEN 'timestamp' WHEN 'AT' THEN 'time' WHEN 'BV' THEN 'varbyte(' || TRIM(c.ColumnLength) || ')' WHEN 'JN' THEN 'json' ELSE TRIM(c.ColumnType) END AS native_type,
       CASE c.Nullable WHEN 'N' THEN 'YES' ELSE 'NO' END AS required, c.DefaultValue AS default_value, c.CommentString AS column_comment, t.CommentString AS table_comment
  FROM DBC.ColumnsV c
  JOIN DBC.TablesV t ON t.DatabaseName = c.DatabaseName AND t.TableName = c.TableName
 WHERE t.TableKind IN ('T', 'O', 'V') AND c.DatabaseName NOT IN ('DBC', 'SYSLIB', 'SYSUDTLIB', 'SystemFe', 'SYSSPATIAL', 'TD_SYSFNLIB')
 ORDER BY 1, 2, 5
