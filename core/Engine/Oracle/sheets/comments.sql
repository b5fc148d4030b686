-- Comments on tables and columns, from the data dictionary views of Oracle Database.
SELECT owner AS schema_name, table_name AS table_name, NULL AS column_name, comments AS comment_text FROM all_tab_comments
 WHERE comments IS NOT NULL AND owner NOT IN (SELECT username FROM all_users WHERE oracle_maintained = 'Y')
 UNION ALL
SELECT owner, table_name, column_name, comments FROM all_col_comments
 WHERE comments IS NOT NULL AND owner NOT IN (SELECT username FROM all_users WHERE oracle_maintained = 'Y')
