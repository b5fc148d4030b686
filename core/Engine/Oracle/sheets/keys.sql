-- Primary, unique and foreign keys, one row for each column, from the data dictionary views of Oracle Database.
SELECT k.owner AS schema_name, k.table_name AS table_name, k.constraint_name AS constraint_name,
       CASE k.constraint_type WHEN 'P' THEN 'PRIMARY KEY' WHEN 'U' THEN 'UNIQUE' ELSE 'FOREIGN KEY' END AS constraint_kind,
       c.column_name AS column_name, c.position AS position, f.owner AS far_schema, f.table_name AS far_table, f.column_name AS far_column,
       k.delete_rule AS on_delete, NULL AS on_update
  FROM all_constraints k
  JOIN all_cons_columns c ON c.owner = k.owner AND c.constraint_name = k.constraint_name
  LEFT JOIN all_cons_columns f ON f.owner = k.r_owner AND f.constraint_name = k.r_constraint_name AND f.position = c.position
 WHERE k.constraint_type IN ('P', 'U', 'R') AND k.owner NOT IN (SELECT username FROM all_users WHERE oracle_maintained = 'Y') AND k.table_name NOT LIKE 'BIN$%'
 ORDER BY k.owner, k.table_name, k.constraint_name, c.position
