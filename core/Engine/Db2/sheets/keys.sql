-- Primary, unique and foreign keys, one row for each column, from the catalog views of IBM Db2.
SELECT k.tabschema AS schema_name, k.tabname AS table_name, k.constname AS constraint_name,
       CASE t.type WHEN 'P' THEN 'PRIMARY KEY' WHEN 'U' THEN 'UNIQUE' ELSE 'FOREIGN KEY' END AS constraint_kind, k.colname AS column_name, k.colseq AS position,
       r.reftabschema AS far_schema, r.reftabname AS far_table, f.colname AS far_column,
       CASE r.deleterule WHEN 'C' THEN 'CASCADE' WHEN 'N' THEN 'SET NULL' WHEN 'R' THEN 'RESTRICT' ELSE 'NO ACTION' END AS on_delete, CASE r.updaterule WHEN 'R' THEN 'RESTRICT' ELSE 'NO ACTION' END AS on_update
  FROM syscat.keycoluse k
  JOIN syscat.tabconst t ON t.tabschema = k.tabschema AND t.tabname = k.tabname AND t.constname = k.constname
  LEFT JOIN syscat.references r ON r.tabschema = k.tabschema AND r.tabname = k.tabname AND r.constname = k.constname
  LEFT JOIN syscat.keycoluse f ON f.tabschema = r.reftabschema AND f.tabname = r.reftabname AND f.constname = r.refkeyname AND f.colseq = k.colseq
 WHERE t.type IN ('P', 'U', 'F') AND k.tabschema NOT LIKE 'SYS%'
 ORDER BY k.tabschema, k.tabname, k.constname, k.colseq
