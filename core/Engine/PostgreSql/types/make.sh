#!/usr/bin/env bash
# Writes what PostgreSQL's own catalog says of its types, functions, operators and casts into this folder, from the
# private server that the tests read. Run it after a new version of the server is to be known.
set -euo pipefail
cd "$(dirname "$0")"
port=$(../../../../bin/postgres)
ask() { psql -h 127.0.0.1 -p "$port" -U fasti -d postgres -At -F $'\t' -c "$1"; }
ours="typnamespace = 'pg_catalog'::regnamespace"
ask "SELECT t.typname, format_type(t.oid, NULL), t.typcategory, t.typispreferred::int, coalesce(a.typname, ''), coalesce(e.typname, ''), t.typtype,
    coalesce((SELECT s.typname FROM pg_range r JOIN pg_type s ON s.oid = r.rngsubtype WHERE r.rngtypid = t.oid OR r.rngmultitypid = t.oid), '')
  FROM pg_type t LEFT JOIN pg_type a ON a.oid = t.typarray LEFT JOIN pg_type e ON e.oid = t.typelem AND t.typcategory = 'A'
  WHERE t.$ours AND t.typtype IN ('b', 'p', 'r', 'm') AND t.typrelid = 0 AND coalesce(e.typrelid, 0) = 0 ORDER BY t.typname COLLATE \"C\"" >types.tsv
name='(SELECT typname FROM pg_type WHERE oid ='
ask "SELECT p.proname, (SELECT coalesce(string_agg(t.typname, ' ' ORDER BY o), '') FROM unnest(p.proargtypes) WITH ORDINALITY u(x, o) JOIN pg_type t ON t.oid = u.x),
    $name p.prorettype), p.prokind::text || CASE WHEN p.proretset THEN 's' ELSE '' END, p.pronargdefaults, (p.provariadic <> 0)::int, p.proisstrict::int,
    coalesce((SELECT string_agg(p.proargnames[i] || ':' || $name p.proallargtypes[i]), ' ' ORDER BY i)
      FROM generate_subscripts(p.proallargtypes, 1) i WHERE p.proargmodes[i] IN ('o', 't', 'b')), '')
  FROM pg_proc p WHERE p.pronamespace = 'pg_catalog'::regnamespace AND p.prokind <> 'p'
    AND $name p.prorettype) NOT IN ('internal', 'trigger', 'event_trigger', 'language_handler', 'index_am_handler', 'table_am_handler', 'fdw_handler', 'tsm_handler', 'cstring')
    AND NOT EXISTS (SELECT FROM unnest(p.proargtypes) x WHERE $name x) IN ('internal', 'cstring'))
  ORDER BY p.proname COLLATE \"C\", p.oid" >functions.tsv
ask "SELECT o.oprname, coalesce($name o.oprleft), ''), $name o.oprright), $name o.oprresult)
  FROM pg_operator o WHERE o.oprresult <> 0 ORDER BY o.oprname COLLATE \"C\", o.oid" >operators.tsv
ask "SELECT $name castsource), $name casttarget), castcontext FROM pg_cast WHERE castcontext <> 'e' ORDER BY 1, 2" >casts.tsv
