-- Snowflake lists keys with SHOW commands, whose results are read like tables. Run the three commands and the query in one session:
--   SHOW PRIMARY KEYS IN DATABASE; SHOW UNIQUE KEYS IN DATABASE; SHOW IMPORTED KEYS IN DATABASE;
SELECT "schema_name" AS schema_name, "table_name" AS table_name, "constraint_name" AS constraint_name, 'PRIMARY KEY' AS constraint_kind, "column_name" AS column_name, "key_sequence" AS position,
       NULL AS far_schema, NULL AS far_table, NULL AS far_column, NULL AS on_delete, NULL AS on_update
  FROM TABLE(RESULT_SCAN(LAST_QUERY_ID(-3)))
 UNION ALL
SELECT "schema_name", "table_name", "constraint_name", 'UNIQUE', "column_name", "key_sequence", NULL, NULL, NULL, NULL, NULL FROM TABLE(RESULT_SCAN(LAST_QUERY_ID(-2)))
 UNION ALL
SELECT "fk_schema_name", "fk_table_name", "fk_name", 'FOREIGN KEY', "fk_column_name", "key_sequence", "pk_schema_name", "pk_table_name", "pk_column_name", "delete_rule", "update_rule" FROM TABLE(RESULT_SCAN(LAST_QUERY_ID(-1)))
