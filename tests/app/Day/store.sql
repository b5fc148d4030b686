-- What the field teams keep in store: references that are declared and some that are not, rows that lead nowhere, codes, people, a view upon a view.
CREATE TABLE person (person_id integer PRIMARY KEY, full_name varchar(80) NOT NULL, email varchar(120) UNIQUE, phone varchar(20), joined date, active integer NOT NULL DEFAULT 1);
CREATE TABLE shelf (shelf_code char(4) PRIMARY KEY, room varchar(20) NOT NULL, max_weight_kg numeric(8,2));
CREATE TABLE instrument (
  instrument_id integer PRIMARY KEY, serial_no varchar(20) NOT NULL UNIQUE, kind char(1) NOT NULL CHECK (kind IN ('T', 'P', 'F')),
  shelf_code char(4) NOT NULL REFERENCES shelf (shelf_code), bought_on date, price numeric(9,2), keeper_id integer REFERENCES person (person_id) ON DELETE SET NULL,
  parent_id integer REFERENCES instrument (instrument_id), remarks varchar(200)
);
CREATE TABLE loan (
  loan_id integer PRIMARY KEY, instrument_id integer NOT NULL, person_id integer NOT NULL, lent_on date NOT NULL, back_on date, state varchar(10) NOT NULL,
  approved_by integer
);
CREATE TABLE loan_note (loan_id integer NOT NULL REFERENCES loan (loan_id) ON DELETE CASCADE, line_no integer NOT NULL, body varchar(400), PRIMARY KEY (loan_id, line_no));
CREATE TABLE calibration (instrument_id integer NOT NULL REFERENCES instrument (instrument_id), done_on date NOT NULL, offset_mm numeric(6,3), passed integer, PRIMARY KEY (instrument_id, done_on));
CREATE TABLE remark (remark_id integer PRIMARY KEY, about_kind varchar(12) NOT NULL, about_id integer NOT NULL, written text);
CREATE TABLE old_import (a varchar(10), b varchar(10), c integer);
CREATE INDEX loan_instrument ON loan (instrument_id);
CREATE VIEW open_loan AS SELECT l.loan_id, i.serial_no, p.full_name, l.lent_on FROM loan l JOIN instrument i ON i.instrument_id = l.instrument_id JOIN person p ON p.person_id = l.person_id WHERE l.back_on IS NULL;
CREATE VIEW late_loan AS SELECT full_name, count(*) AS loans, min(lent_on) AS oldest FROM open_loan WHERE lent_on < '2026-03-01' GROUP BY full_name;
CREATE TRIGGER loan_ends AFTER UPDATE OF back_on ON loan BEGIN UPDATE instrument SET remarks = 'back' WHERE instrument_id = NEW.instrument_id; END;
WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 40)
  INSERT INTO person SELECT i, 'Person ' || i, 'p' || i || '@example.org', '0' || (100 + i), date('2020-01-01', '+' || (i * 17) || ' days'), i % 7 > 0 FROM n;
INSERT INTO shelf VALUES ('A-01', 'cellar', 120.5), ('A-02', 'cellar', 80), ('B-01', 'loft', 40), ('B-02', 'loft', NULL);
WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 120)
  INSERT INTO instrument SELECT i, 'SN-' || (1000 + i), substr('TPF', 1 + i % 3, 1), CASE i % 4 WHEN 0 THEN 'A-01' WHEN 1 THEN 'A-02' WHEN 2 THEN 'B-01' ELSE 'B-02' END,
    date('2021-05-01', '+' || (i * 5) || ' days'), 100 + i * 7.25, CASE WHEN i % 5 THEN 1 + i % 40 END, CASE WHEN i > 100 THEN i - 100 END, NULL FROM n;
WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 500)
  INSERT INTO loan SELECT i, CASE WHEN i % 97 = 0 THEN 9000 + i ELSE 1 + i % 120 END, 1 + (i * 7) % 40, date('2025-06-01', '+' || i || ' days'),
    CASE WHEN i % 6 THEN date('2025-06-09', '+' || i || ' days') END, CASE WHEN i % 6 THEN 'back' ELSE 'out' END, CASE WHEN i % 3 THEN 1 + i % 9 END FROM n;
INSERT INTO loan_note SELECT loan_id, 1, 'Handed over by the door.' FROM loan WHERE loan_id % 4 = 0;
INSERT INTO loan_note SELECT loan_id, 2, 'Cable is missing.' FROM loan WHERE loan_id % 12 = 0;
INSERT INTO calibration SELECT instrument_id, date(bought_on, '+30 days'), (instrument_id % 9) * 0.125, instrument_id % 8 > 0 FROM instrument;
INSERT INTO remark SELECT loan_id, CASE WHEN loan_id % 2 THEN 'loan' ELSE 'instrument' END, loan_id % 110 + 1, 'seen' FROM loan WHERE loan_id < 200;
INSERT INTO old_import VALUES ('x', 'y', 1), ('x', 'z', NULL), (NULL, 'y', 3);
