-- Columns of every table and view, with their comments, from the catalog views of IBM Db2.
SELECT c.tabschema AS schema_name, c.tabname AS table_name, CASE t.type WHEN 'V' THEN 'VIEW' ELSE 'TABLE' END AS table_kind, c.colname AS column_name, c.colno + 1 AS position,
       CASE WHEN c.typename IN ('VARCHAR', 'CHARACTER', 'VARGRAPHIC', 'GRAPHIC', 'VARBINARY', 'BINARY') THEN c.typename || '(' || c.length || ')'
            WHEN c.typename = 'DECIMAL' THEN 'DECIMAL(' || c.length || ',' || c.scale || ')'
            ELSE c.typename END AS native_type,
       CASE c.nulls WHEN 'N' THEN 'YES' ELSE 'NO' END AS required, c.default AS default_value, c.remarks AS column_comment, t.remarks AS table_comment
  FROM syscat.columns c
  JOIN syscat.tables t ON t.tabschema = c.tabschema AND t.tabname = c.tabname
 WHERE t.type IN ('T', 'V') AND c.tabschema NOT LIKE 'SYS%'
 ORDER BY c.tabschema, c.tabname, c.colno
