<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Join;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;

/** Where names are short, old or shared: classes of mistakes that were seen on schemas which nobody of the house wrote. */
final class LedTest extends TestCase
{
    /** @return iterable<string, array{string, list<string>, list<string>}> tables; joins that come first and are likely; joins that are not */
    public static function classes(): iterable
    {
        $person = 'CREATE TABLE person (owner_id integer PRIMARY KEY, full_name varchar(40), email varchar(60));';
        yield 'a key that is itself a reference is not the thing' => [
            $person.'CREATE TABLE setting (owner_id integer NOT NULL UNIQUE, theme varchar(10));
                CREATE TABLE boat (boat_no integer PRIMARY KEY, owner_id integer);
                CREATE TABLE permit (permit_no integer PRIMARY KEY, owner_id integer); CREATE TABLE berth (berth_no integer PRIMARY KEY, owner_id integer)',
            ['boat.owner_id > person.owner_id', 'permit.owner_id > person.owner_id', 'berth.owner_id > person.owner_id'],
            ['boat.owner_id > setting.owner_id', 'permit.owner_id > setting.owner_id', 'person.owner_id > setting.owner_id'],
        ];
        yield 'one table has a key that says nothing, and all others have it as a field' => [
            'CREATE TABLE gauges (_id integer PRIMARY KEY, gauge_no varchar(8)); CREATE TABLE alias (_id integer NOT NULL, alias_name varchar(20));
                CREATE TABLE spots (_id integer NOT NULL, spot varchar(20)); CREATE TABLE types (_id integer NOT NULL, sort varchar(20));
                CREATE TABLE uppers (_id integer NOT NULL, _upper_id integer NOT NULL)',
            ['alias._id > gauges._id', 'spots._id > gauges._id', 'types._id > gauges._id', 'uppers._id > gauges._id'],
            [],
        ];
        yield 'parts of one thing have its key, which it alone numbers' => [
            'CREATE TABLE item (id integer PRIMARY KEY, title varchar(40)); CREATE TABLE tag (id int PRIMARY KEY NOT NULL, word varchar(20));
                CREATE TABLE vote (id int PRIMARY KEY NOT NULL, rating int); CREATE TABLE letter (id int PRIMARY KEY NOT NULL, body varchar(400))',
            ['tag.id > item.id', 'vote.id > item.id', 'letter.id > item.id'],
            [],
        ];
        yield 'the whole name of a key after a role is the strongest sign' => [
            'CREATE TABLE station (stationno char(5) PRIMARY KEY, label varchar(40));
                CREATE TABLE outage_station (outage_stationno char(5) PRIMARY KEY, since date);
                CREATE TABLE relay (relayno integer PRIMARY KEY, relay_stationno char(5))',
            ['relay.relay_stationno > station.stationno'],
            ['relay.relay_stationno > outage_station.outage_stationno'],
        ];
        yield 'the words of the own table choose' => [
            'CREATE TABLE unit_class (id integer PRIMARY KEY, label varchar(20)); CREATE TABLE staff_class (id integer PRIMARY KEY, label varchar(20));
                CREATE TABLE unit_line (id integer PRIMARY KEY, class_id integer); CREATE TABLE staff_list (id integer PRIMARY KEY, class_id integer)',
            ['unit_line.class_id > unit_class.id', 'staff_list.class_id > staff_class.id'],
            ['unit_line.class_id > staff_class.id', 'staff_list.class_id > unit_class.id'],
        ];
        yield 'of a family of tables it is the one of the same family' => [
            'CREATE TABLE tax (id integer PRIMARY KEY, label varchar(20)); CREATE TABLE tax_template (id integer PRIMARY KEY, label varchar(20));
                CREATE TABLE tax_rule (id integer PRIMARY KEY, label varchar(20)); CREATE TABLE tax_rule_template (id integer PRIMARY KEY, label varchar(20));
                CREATE TABLE tax_line_template (id integer PRIMARY KEY, rule_id integer)',
            ['tax_line_template.rule_id > tax_rule_template.id'],
            ['tax_line_template.rule_id > tax_rule.id'],
        ];
    }

    /** @return iterable<string, array{string, list<string>, list<string>}> the same, of names of fields */
    public static function fields(): iterable
    {
        yield 'what counts or says yes or no leads nowhere' => [
            'CREATE TABLE item (id integer PRIMARY KEY, label varchar(20)); CREATE TABLE scope (scope_id integer PRIMARY KEY, label varchar(20));
                CREATE TABLE node (node_no integer PRIMARY KEY, max_items integer, items integer, item_count integer, is_file_scope integer, item_id integer)',
            ['node.item_id > item.id'],
            ['node.max_items > item.id', 'node.items > item.id', 'node.item_count > item.id', 'node.is_file_scope > scope.scope_id'],
        ];
        yield 'hierarchies lead to themselves' => [
            'CREATE TABLE task (id integer PRIMARY KEY, template_id integer, obsolete_by integer, blocked_by_id integer, next_id integer, clone_id integer);
                CREATE TABLE person (id integer PRIMARY KEY, full_name varchar(40), email varchar(40))',
            ['task.template_id > task.id', 'task.obsolete_by > task.id', 'task.blocked_by_id > task.id', 'task.next_id > task.id', 'task.clone_id > task.id'],
            ['task.blocked_by_id > person.id'],
        ];
        yield 'a role stands behind the key, or within it' => [
            'CREATE TABLE symbol (symbol_id integer PRIMARY KEY, label varchar(20)); CREATE TABLE file (file_id integer PRIMARY KEY, path varchar(90));
                CREATE TABLE heritage (symbol_id_base integer, symbol_id_derived integer, file_defined_id integer)',
            ['heritage.symbol_id_base > symbol.symbol_id', 'heritage.symbol_id_derived > symbol.symbol_id', 'heritage.file_defined_id > file.file_id'],
            [],
        ];
        yield 'a thing that is named is not somebody who did something' => [
            'CREATE TABLE worker (id integer PRIMARY KEY, host varchar(40), job_id integer);
                CREATE TABLE user (id integer PRIMARY KEY, full_name varchar(40), email varchar(40));
                CREATE TABLE job (id integer PRIMARY KEY, assigned_worker_id integer, reviewed_by integer)',
            ['job.assigned_worker_id > worker.id', 'worker.job_id > job.id', 'job.reviewed_by > user.id'],
            ['job.assigned_worker_id > user.id'],
        ];
        yield 'a key by the name of its table and itself' => [
            'CREATE TABLE devices_v2 (serial varchar(16) PRIMARY KEY, label varchar(20)); CREATE TABLE relays_v2 (serial varchar(16) PRIMARY KEY, hops integer);
                CREATE TABLE routes_v2 (route_no integer PRIMARY KEY, device_serial varchar(16)); CREATE TABLE logs_v2 (log_no integer PRIMARY KEY,
                    serial varchar(16))',
            ['routes_v2.device_serial > devices_v2.serial', 'logs_v2.serial > devices_v2.serial'],
            ['logs_v2.serial > relays_v2.serial', 'routes_v2.device_serial > relays_v2.serial'],
        ];
        yield 'a longer key is reached by all its fields, with a role before each' => [
            'CREATE TABLE gauge (auth char(3), code integer, label varchar(20), PRIMARY KEY (auth, code));
                CREATE TABLE pair (pair_no integer PRIMARY KEY, from_auth char(3), from_code integer, to_auth char(3), to_code integer)',
            ['pair.from_auth+from_code > gauge.auth+code', 'pair.to_auth+to_code > gauge.auth+code'],
            [],
        ];
    }

    /** @return iterable<string, array{string, list<string>, list<string>}> the same, of people, and of what a table is */
    public static function things(): iterable
    {
        yield 'what ties people to something holds no people, and an account of money is nobody' => [
            'CREATE TABLE person (id integer PRIMARY KEY, full_name varchar(40), email varchar(60));
                CREATE TABLE trip (id integer PRIMARY KEY, on_day date, checked_by integer);
                CREATE TABLE trip_member (id integer PRIMARY KEY, trip_id integer, person_id integer, seat varchar(4));
                CREATE TABLE cash_account (id integer PRIMARY KEY, label varchar(40), name varchar(40), balance numeric(9, 2));
                CREATE TABLE gauge (id integer PRIMARY KEY, fitted_by integer, checked_by integer)',
            ['trip.checked_by > person.id', 'gauge.fitted_by > person.id', 'gauge.checked_by > person.id'],
            ['gauge.fitted_by > trip_member.id', 'gauge.fitted_by > cash_account.id'],
        ];
        yield 'who is written out is not referred to' => [
            'CREATE TABLE person (id integer PRIMARY KEY, name varchar(60) NOT NULL UNIQUE, email varchar(60) NOT NULL UNIQUE);
                CREATE TABLE plan (id integer PRIMARY KEY, planner_name varchar(60), planner_email varchar(60), approved_by integer)',
            ['plan.approved_by > person.id'],
            ['plan.planner_name > person.name', 'plan.planner_email > person.email'],
        ];
        yield 'a role before the name of the own table leads to another row of it' => [
            'CREATE TABLE depot_location (id integer PRIMARY KEY, label varchar(20), input_location integer, output_location integer, waste_location integer);
                CREATE TABLE party_location (id integer PRIMARY KEY, party integer, location integer);
                CREATE TABLE party (id integer PRIMARY KEY, label varchar(20))',
            [],
            ['depot_location.input_location > party_location.id', 'depot_location.waste_location > party_location.id'],
        ];
        yield 'a table that lists one field is what fields of that name may hold' => [
            'CREATE TABLE wind_scale (scale varchar(12) PRIMARY KEY); CREATE TABLE outcome (result varchar(12) PRIMARY KEY);
                CREATE TABLE trial (id integer PRIMARY KEY, on_day date, scale varchar(12), result varchar(12))',
            ['trial.scale > wind_scale.scale', 'trial.result > outcome.result'],
            [],
        ];
        yield 'a short form keeps the last letter before it keeps those between' => [
            'CREATE TABLE station (id integer PRIMARY KEY, label varchar(20)); CREATE TABLE sighting (id integer PRIMARY KEY, label varchar(20));
                CREATE TABLE incident (id integer PRIMARY KEY, stn_id integer); CREATE TABLE alarm (id integer PRIMARY KEY, stn_id integer)',
            ['incident.stn_id > station.id', 'alarm.stn_id > station.id'],
            ['incident.stn_id > sighting.id'],
        ];
        yield 'roles before all fields of a key, of which one is called after the table' => [
            'CREATE TABLE depot (id integer, region varchar(4), label varchar(20), PRIMARY KEY (id, region));
                CREATE TABLE haul (haul_no integer PRIMARY KEY, from_depot_id integer, from_region varchar(4), to_depot_id integer, to_region varchar(4))',
            ['haul.from_depot_id+from_region > depot.id+region', 'haul.to_depot_id+to_region > depot.id+region'],
            ['haul.from_depot_id+to_region > depot.id+region'],
        ];
        yield 'a currency that is a number is one of a table' => [
            'CREATE TABLE currency_currency (id integer PRIMARY KEY, label varchar(20), digits integer);
                CREATE TABLE currency_rate (id integer PRIMARY KEY, currency integer, rate numeric(9, 4));
                CREATE TABLE sale (id integer PRIMARY KEY, on_day date, currency integer, party integer); CREATE TABLE offer (id integer PRIMARY KEY,
                currency integer, party integer); CREATE TABLE party_party (id integer PRIMARY KEY, label varchar(20))',
            ['sale.currency > currency_currency.id', 'offer.currency > currency_currency.id', 'sale.party > party_party.id'],
            ['sale.currency > currency_rate.id'],
        ];
    }

    /**
     * @param list<string> $led
     * @param list<string> $not
     */
    #[DataProvider('classes')]
    #[DataProvider('fields')]
    #[DataProvider('things')]
    public function testReferencesAreLedWhereAReaderWouldLeadThem(string $sql, array $led, array $not): void
    {
        $said = (new Base($sql))->named();

        foreach ($led as $join) {
            self::assertArrayHasKey($join, $said, print_r($said, true));
            self::assertGreaterThanOrEqual(0.5, $said[$join], $join);
        }
        foreach ($not as $join) {
            self::assertLessThan(0.5, $said[$join] ?? 0.0, $join);
        }
    }

    public function testAnIndexOverAnExpressionIsNoKeyAndStopsNothing(): void
    {
        $said = (new Base('CREATE TABLE customer (id integer PRIMARY KEY, email varchar(60)); CREATE UNIQUE INDEX u ON customer (lower(email));
            CREATE TABLE bill (id integer PRIMARY KEY, customer_id integer, email varchar(60))'))->named();

        self::assertGreaterThanOrEqual(0.5, $said['bill.customer_id > customer.id']);
        self::assertArrayNotHasKey('bill.email > customer.email', $said);
    }
}
