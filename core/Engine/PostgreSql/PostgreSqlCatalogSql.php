<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\PostgreSql;

/** The questions to the catalog of a server. `$in` is a condition on the names of schemas: `IN (:s0, :s1)`. */
final class PostgreSqlCatalogSql
{
    /** Asks for the tables and views of schemas. */
    public static function tables(string $in): string
    {
        return "SELECT c.oid,
                n.nspname AS s,
                c.relname AS n,
                c.relkind AS kind,
                c.relpersistence AS persistence,
                c.reltuples AS rows,
                c.relrowsecurity::int AS secured,
                CASE WHEN c.relkind IN ('r', 'm') THEN pg_catalog.pg_total_relation_size(c.oid) ELSE 0 END AS bytes,
                d.description AS comment,
                CASE WHEN c.relkind IN ('v', 'm') THEN pg_catalog.pg_get_viewdef(c.oid) END AS definition,
                CASE WHEN c.relkind = 'p' THEN pg_catalog.pg_get_partkeydef(c.oid) END AS partitioned
            FROM pg_catalog.pg_class c
            JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
            LEFT JOIN pg_catalog.pg_description d
                ON d.objoid = c.oid AND d.classoid = 'pg_catalog.pg_class'::pg_catalog.regclass AND d.objsubid = 0
            WHERE c.relkind IN ('r', 'p', 'f', 'v', 'm')
                AND NOT c.relispartition
                AND n.nspname $in";
    }

    /** Asks for their columns. */
    public static function columns(string $in): string
    {
        return "SELECT a.attrelid AS oid,
                a.attnum AS k,
                a.attname AS n,
                pg_catalog.format_type(a.atttypid, a.atttypmod) AS t,
                a.atttypid AS tid,
                a.attnotnull::int AS required,
                a.attidentity AS identity,
                a.attgenerated AS generated,
                pg_catalog.pg_get_expr(f.adbin, f.adrelid) AS d,
                x.description AS comment,
                CASE WHEN a.attcollation <> t.typcollation THEN o.collname END AS collation,
                t.typelem AS element
            FROM pg_catalog.pg_attribute a
            JOIN pg_catalog.pg_class c ON c.oid = a.attrelid
            JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
            JOIN pg_catalog.pg_type t ON t.oid = a.atttypid
            LEFT JOIN pg_catalog.pg_attrdef f ON f.adrelid = a.attrelid AND f.adnum = a.attnum
            LEFT JOIN pg_catalog.pg_description x
                ON x.objoid = a.attrelid AND x.classoid = 'pg_catalog.pg_class'::pg_catalog.regclass AND x.objsubid = a.attnum
            LEFT JOIN pg_catalog.pg_collation o ON o.oid = a.attcollation
            WHERE a.attnum > 0
                AND NOT a.attisdropped
                AND c.relkind IN ('r', 'p', 'f', 'v', 'm')
                AND NOT c.relispartition
                AND n.nspname $in
            ORDER BY a.attrelid, a.attnum";
    }

    /** Asks for their constraints. */
    public static function constraints(string $in): string
    {
        return "SELECT k.conrelid AS oid,
                k.conname AS n,
                k.contype AS t,
                k.conkey AS own,
                k.confrelid AS far,
                k.confkey AS farkey,
                k.confdeltype AS d,
                k.confupdtype AS u,
                fn.nspname AS fs,
                fc.relname AS ft,
                CASE WHEN k.contype IN ('c', 'x') THEN pg_catalog.pg_get_constraintdef(k.oid) END AS def
            FROM pg_catalog.pg_constraint k
            JOIN pg_catalog.pg_namespace n ON n.oid = k.connamespace
            LEFT JOIN pg_catalog.pg_class fc ON fc.oid = k.confrelid
            LEFT JOIN pg_catalog.pg_namespace fn ON fn.oid = fc.relnamespace
            WHERE k.conrelid <> 0
                AND k.conparentid = 0
                AND k.contype IN ('p', 'u', 'f', 'c', 'x')
                AND n.nspname $in
            ORDER BY k.conrelid, k.conname";
    }

    /** Asks for their indexes. */
    public static function indexes(string $in): string
    {
        return "SELECT i.indrelid AS oid,
                c.relname AS n,
                i.indisunique::int AS u,
                m.amname AS m,
                i.indkey AS keys,
                i.indnkeyatts AS width,
                i.indoption AS options,
                d.description AS comment,
                pg_catalog.pg_get_expr(i.indpred, i.indrelid) AS predicate,
                CASE WHEN i.indexprs IS NOT NULL THEN
                    (SELECT pg_catalog.string_agg(pg_catalog.pg_get_indexdef(i.indexrelid, g, false), E'\\x01' ORDER BY g)
                    FROM pg_catalog.generate_series(1, i.indnkeyatts::int) g)
                END AS expressions
            FROM pg_catalog.pg_index i
            JOIN pg_catalog.pg_class c ON c.oid = i.indexrelid
            JOIN pg_catalog.pg_namespace n ON n.oid = c.relnamespace
            JOIN pg_catalog.pg_am m ON m.oid = c.relam
            LEFT JOIN pg_catalog.pg_description d
                ON d.objoid = c.oid AND d.classoid = 'pg_catalog.pg_class'::pg_catalog.regclass AND d.objsubid = 0
            WHERE n.nspname $in AND c.relkind IN ('i', 'I')
            ORDER BY i.indrelid, c.relname";
    }

    /** Asks for what inherits from them, partitions among it. */
    public static function inheritance(string $in): string
    {
        return "SELECT i.inhrelid AS child,
                i.inhparent AS parent,
                c.relispartition::int AS partition,
                c.relkind AS kind,
                c.reltuples AS rows,
                CASE WHEN c.relkind = 'r' THEN pg_catalog.pg_total_relation_size(c.oid) ELSE 0 END AS bytes,
                pn.nspname AS ps,
                p.relname AS pn
            FROM pg_catalog.pg_inherits i
            JOIN pg_catalog.pg_class c ON c.oid = i.inhrelid
            JOIN pg_catalog.pg_class p ON p.oid = i.inhparent
            JOIN pg_catalog.pg_namespace pn ON pn.oid = p.relnamespace
            WHERE c.relkind NOT IN ('i', 'I') AND pn.nspname $in
            ORDER BY i.inhrelid, i.inhseqno";
    }

    /** Asks for routines of schemas. */
    public static function routines(string $in, string $body): string
    {
        return "SELECT n.nspname AS s,
                p.proname AS n,
                p.prokind AS k,
                pg_catalog.pg_get_function_result(p.oid) AS r,
                d.description AS c,
                CASE WHEN p.prokind = 'a' THEN (SELECT a.aggtransfn::pg_catalog.text FROM pg_catalog.pg_aggregate a WHERE a.aggfnoid = p.oid)
                    WHEN p.prosrc = '' THEN $body
                    ELSE p.prosrc END AS b,
                pg_catalog.pg_get_function_arguments(p.oid) AS a,
                CASE WHEN p.prokind = 'a' THEN '' ELSE pg_catalog.pg_get_functiondef(p.oid) END AS made
            FROM pg_catalog.pg_proc p
            JOIN pg_catalog.pg_namespace n ON n.oid = p.pronamespace
            LEFT JOIN pg_catalog.pg_description d ON d.objoid = p.oid AND d.classoid = 'pg_catalog.pg_proc'::pg_catalog.regclass
            WHERE n.nspname $in
                AND p.prokind IN ('f', 'p', 'w', 'a')
                AND NOT EXISTS (SELECT FROM pg_catalog.pg_depend x
                    WHERE x.classid = 'pg_catalog.pg_proc'::pg_catalog.regclass AND x.objid = p.oid AND x.deptype IN ('e', 'i'))
            ORDER BY n.nspname, p.proname, p.oid";
    }
}
