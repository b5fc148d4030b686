#!/usr/bin/env bash
# Fetches schemas of real programs from their Debian packages, which nobody of the house wrote, and loads them into servers on this machine:
#   bench/Real/load.sh FOLDER MARIADB_SOCKET POSTGRESQL_PORT [NAME …]
# A database is called fasti_real_NAME, an SQLite file is FOLDER/sqlite/NAME.sqlite. Packages are kept in FOLDER, so that a second time needs no
# registry. For each it prints its name, its engine, and how many statements its server refused. Nothing of it is kept with the house.
set -u
folder=$(mkdir -p "$1" && cd "$1" && pwd) socket=$2 port=$3
shift 3
only=" $* " unpacked=$folder/unpacked files=$folder/sqlite log=$folder/log
mkdir -p "$folder/deb" "$unpacked" "$files" "$log"

wants() { [[ $only = '  ' || $only = *" $1 "* ]]; }
package() {
  [ -d "$unpacked/$1" ] && return
  ls "$folder/deb/$1"_*.deb >/dev/null 2>&1 || (cd "$folder/deb" && apt-get -qq download "$1" 2>/dev/null)
  mkdir -p "$unpacked/$1"
  dpkg-deb -x "$folder/deb/$1"_*.deb "$unpacked/$1" 2>/dev/null || { rmdir "$unpacked/$1"; echo "$1 could not be had" >&2; return 1; }
}
text() { case $1 in *.gz) zcat "$1" ;; *) cat "$1" ;; esac; }
refused() { printf '%-11s %-11s refused %s\n' "$1" "$2" "$(grep -cE 'ERROR|^Parse error|^Error|error:' "$log/$1")"; }

postgresql() {
  wants "$1" && package "$2" || return
  local database=fasti_real_$1
  psql -qh 127.0.0.1 -p "$port" -U fasti -d postgres -c "DROP DATABASE IF EXISTS $database" -c "CREATE DATABASE $database TEMPLATE template0 ENCODING 'UTF8'" >/dev/null 2>&1
  text "$unpacked/$2/$3" | PGOPTIONS='-c client_min_messages=error' psql -qh 127.0.0.1 -p "$port" -U fasti -d "$database" >"$log/$1" 2>&1
  refused "$1" postgresql
}
mariadb_() {
  wants "$1" && package "$2" || return
  local database=fasti_real_$1
  mariadb --no-defaults -uroot -S "$socket" -e "DROP DATABASE IF EXISTS $database; CREATE DATABASE $database CHARACTER SET utf8mb4" >"$log/$1" 2>&1
  text "$unpacked/$2/$3" | mariadb --no-defaults -uroot -S "$socket" --force "$database" >>"$log/$1" 2>&1
  refused "$1" mariadb
}
sqlite() {
  wants "$1" && package "$2" || return
  rm -f "$files/$1.sqlite"
  text "$unpacked/$2/$3" | sqlite3 "$files/$1.sqlite" >"$log/$1" 2>&1
  refused "$1" sqlite
}
file() {
  wants "$1" && package "$2" || return
  cp "$unpacked/$2/$3" "$files/$1.sqlite" && chmod u+w "$files/$1.sqlite"
  : >"$log/$1"
  refused "$1" sqlite
}

mariadb_   biosql    python-biopython-doc   usr/share/doc/python-biopython-doc/Tests/BioSQL/biosqldb-mysql.sql.gz
mariadb_   glewlwyd  glewlwyd               usr/share/dbconfig-common/data/glewlwyd/install/mysql
mariadb_   hibiscus  hibiscus               usr/share/jameica/plugins/hibiscus/sql/mysql-create.sql
mariadb_   maildmarc libmail-dmarc-perl     usr/share/perl5/auto/share/dist/Mail-DMARC/mail_dmarc_schema.mysql
postgresql openqa    openqa                 usr/share/openqa/dbicdh/PostgreSQL/deploy/98/001-auto.sql
postgresql samizdat  samizdat               usr/share/samizdat/database/create-pgsql.sql
postgresql goiardi   goiardi                usr/share/goiardi/sql-files/sql-files/goiardi-schema-postgres.sql
postgresql libervia  libervia-pubsub        usr/share/libervia/sat_pubsub/db/pubsub.sql
postgresql vmm       vmm                    usr/share/doc/vmm/examples/pgsql/create_tables.pgsql
postgresql gnubg     gnubg-data             usr/share/gnubg/gnubg.sql
sqlite     zigpy     python3-zigpy          usr/lib/python3/dist-packages/zigpy/appdb_schemas/schema_v11.sql
sqlite     anjuta    anjuta-common          usr/share/anjuta/tables.sql
sqlite     cufflinks r-bioc-cummerbund      usr/lib/R/site-library/cummeRbund/extdata/cuffData_schema.sql
sqlite     arex      nordugrid-arc-arex     usr/share/arc/sql-schema/arex_accounting_db_schema_v1.sql
file       godb      r-bioc-go.db           usr/lib/R/site-library/GO.db/extdata/GO.sqlite
file       orghs     r-bioc-org.hs.eg.db    usr/lib/R/site-library/org.Hs.eg.db/extdata/org.Hs.eg.sqlite
file       txdb      r-bioc-genomicfeatures usr/lib/R/site-library/GenomicFeatures/extdata/hg19_knownGene_sample.sqlite
file       pychess   pychess                usr/share/pychess/learn/puzzles/mate_in_2.sqlite

# Made by its own program, from packages that are unpacked and not installed; it takes some minutes.
tryton() {
  local own=$folder/tryton database=fasti_real_tryton modules modules_of
  modules_of='sale purchase account-invoice-stock account-payment account-statement production-routing production-work project-invoice timesheet-cost bank carrier
    commission customs analytic-invoice marketing-automation sale-opportunity stock-lot attendance party-relationship product-price-list
    product-classification stock-package account-asset'
  if [ ! -d "$own/usr" ]; then
    mkdir -p "$own" "$folder/tryton-deb"
    # shellcheck disable=SC2046,SC2086
    (cd "$folder/tryton-deb" && apt-get -qq download $(apt-get install -s --no-install-recommends tryton-server python3-psycopg2 \
      $(printf 'tryton-modules-%s ' $modules_of) | awk '/^Inst/{print $2}') 2>/dev/null)
    for deb in "$folder"/tryton-deb/*.deb; do dpkg-deb -x "$deb" "$own"; done
  fi
  psql -qh 127.0.0.1 -p "$port" -U fasti -d postgres -c "DROP DATABASE IF EXISTS $database" -c "CREATE DATABASE $database" >"$log/tryton" 2>&1
  printf '[database]\nuri = postgresql://fasti@127.0.0.1:%s/\npath = %s\n' "$port" "$folder/tryton-data" >"$folder/tryton.conf"
  echo admin >"$folder/tryton.pass"
  mkdir -p "$folder/tryton-data"
  modules=$(ls "$own/usr/lib/python3/dist-packages/trytond/modules" | grep -vE '__|\.py$')
  # shellcheck disable=SC2086
  PYTHONPATH=$own/usr/lib/python3/dist-packages TRYTONPASSFILE=$folder/tryton.pass /usr/bin/python3 "$own/usr/bin/trytond-admin" -c "$folder/tryton.conf" \
    -d "$database" --email a@example.org -u ir res $modules >>"$log/tryton" 2>&1
  refused tryton postgresql
}
! wants tryton || tryton
