<?php

declare(strict_types=1);

namespace Fasti\Core\Dialect;

/**
 * Words that some engine does not take as a name unless it is quoted. Those of MariaDB 10.11, PostgreSQL 15 and SQLite were found by
 * trying each keyword that the engine lists, as the name of a table, of a field, and of a query within a query.
 */
final class Reserved
{
    private const WORDS = <<<'T'
        accessible add all alter analyse analyze and any array as asc asensitive asymmetric audit authorization autoincrement before between bigint
        binary blob both by call cascade case cast change char character check collate collation column comment commit concurrently condition
        constraint continue convert create cross cube cume_dist current_catalog current_date current_role current_schema current_time
        current_timestamp current_user cursor databases date day_hour day_microsecond day_minute day_second dec decimal declare default deferrable
        delayed delete delete_domain_id dense_rank desc describe deterministic distinct distinctrow div do do_domain_ids double drop dual each else
        elseif empty enclosed end escape escaped except exists exit explain false fetch file first_value float float4 float8 for force foreign
        freeze from full fulltext function generated grant group grouping groups having high_priority hour_microsecond hour_minute hour_second
        identified if ignore ignore_domain_ids ilike immediate in increment index infile initial initially inner inout insensitive insert int int1
        int2 int3 int4 int8 integer intersect interval into is isnull iterate join json_table key keys kill lag last_value lateral lead leading
        leave left level like limit linear lines load localtime localtimestamp lock long longblob longtext loop low_priority
        master_demote_to_replica master_demote_to_slave master_ssl_verify_server_cert match maxvalue mediumblob mediumint mediumtext middleint minus
        minute_microsecond minute_second mod mode modifies modify natural nchar no_write_to_binlog nocompress not nothing notnull nowait nth_value
        ntile null number numeric of offline offset on online only open optimize option optionally or order out outer outfile over overlaps
        page_checksum parse_vcol_expr partition pctfree percent percent_rank pivot placing plan portion precision primary print prior proc procedure
        public purge raise range rank raw read read_write reads real recursive ref_system_id references regexp release rename repeat replace require
        resignal resource restrict return returning revoke right rlike rollup row_number rowid rownum rows schemas second_microsecond select
        sensitive separator session session_user set share show signal similar size smallint some spatial specific sql sql_big_result
        sql_buffer_result sql_cache sql_calc_found_rows sql_no_cache sql_small_result sqlexception sqlstate sqlwarning ssl start starting
        stats_auto_recalc stats_persistent stats_sample_pages stored straight_join successful symmetric synonym sysdate system table tablesample
        terminated then tinyblob tinyint tinytext to trailing transaction trigger true uid undo union unique unlock unsigned update usage use user
        using utc_date utc_time utc_timestamp validate values varbinary varchar varchar2 varcharacter variadic varying verbose virtual when where
        while window with write xor year_month zerofill
        T;

    /** @var array<string, int>|null */
    private static ?array $words = null;

    public static function has(string $word): bool
    {
        return isset((self::$words ??= array_flip(preg_split('/\s+/', self::WORDS) ?: []))[strtolower($word)]);
    }
}
