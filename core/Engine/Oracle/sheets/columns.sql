-- Columns of every table and view that the account may see, from the data dictionary views of Oracle Database.
SELECT c.owner AS schema_name, c.table_name AS table_name, CASE WHEN v.view_name IS NOT NULL THEN 'VIEW' ELSE 'TABLE' END AS table_kind,
       c.column_name AS column_name, c.column_id AS position,
       CASE WHEN c.data_type IN ('VARCHAR2', 'NVARCHAR2', 'CHAR', 'NCHAR') THEN c.data_type || '(' || c.char_length || ')'
            WHEN c.data_type = 'NUMBER' AND c.data_precision IS NOT NULL THEN 'NUMBER(' || c.data_precision || ',' || NVL(c.data_scale, 0) || ')'
            WHEN c.data_type = 'RAW' THEN 'RAW(' || c.data_length || ')'
            ELSE c.data_type END AS native_type,
       CASE c.nullable WHEN 'N' THEN 'YES' ELSE 'NO' END AS required, c.data_default AS default_value
  FROM all_tab_columns c
  LEFT JOIN all_views v ON v.owner = c.owner AND v.view_name = c.table_name
 WHERE c.owner NOT IN (SELECT username FROM all_users WHERE oracle_maintained = 'Y') AND c.table_name NOT LIKE 'BIN$%'
 ORDER BY c.owner, c.table_name, c.column_id
