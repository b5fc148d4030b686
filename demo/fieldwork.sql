-- Arrowmere Rivers Trust, operational database. Everything in it is made up, and it is flawed on purpose:
-- demo/README.md says how.

CREATE TABLE `{fieldwork}`.catchment (
  id smallint unsigned NOT NULL AUTO_INCREMENT,
  name varchar(80) NOT NULL,
  area_km2 decimal(8,2) NOT NULL COMMENT 'Area drained, in square kilometres',
  PRIMARY KEY (id),
  UNIQUE KEY catchment_name (name)
) COMMENT 'River basins the trust works in';

CREATE TABLE `{fieldwork}`.reach (
  id int unsigned NOT NULL AUTO_INCREMENT,
  catchment_id smallint unsigned NOT NULL,
  flows_into_id int unsigned DEFAULT NULL,
  name varchar(80) NOT NULL,
  length_m int unsigned NOT NULL,
  PRIMARY KEY (id),
  KEY reach_name (name),
  CONSTRAINT reach_catchment FOREIGN KEY (catchment_id) REFERENCES catchment (id),
  CONSTRAINT reach_flows_into FOREIGN KEY (flows_into_id) REFERENCES reach (id)
);

CREATE TABLE `{fieldwork}`.station (
  id int unsigned NOT NULL AUTO_INCREMENT,
  code char(6) NOT NULL,
  reach_id int unsigned NOT NULL,
  name varchar(80) NOT NULL,
  status enum('planned','open','paused','closed') NOT NULL DEFAULT 'open',
  opened_on date DEFAULT NULL,
  closed_on date DEFAULT NULL,
  easting int NOT NULL,
  northing int NOT NULL,
  datum varchar(12) NOT NULL DEFAULT 'local',
  grid_ref varchar(20) GENERATED ALWAYS AS (concat(easting,' ',northing)) VIRTUAL,
  changed_at timestamp NOT NULL DEFAULT current_timestamp() ON UPDATE current_timestamp(),
  PRIMARY KEY (id),
  UNIQUE KEY station_code (code),
  CONSTRAINT station_reach FOREIGN KEY (reach_id) REFERENCES reach (id),
  CONSTRAINT station_dates CHECK (closed_on IS NULL OR closed_on >= opened_on)
) COMMENT 'Gauging sites. Telemetry arrives by radio every hour.';

CREATE TABLE `{fieldwork}`.instrument_model (
  id smallint unsigned NOT NULL AUTO_INCREMENT,
  maker varchar(60) NOT NULL,
  model varchar(60) NOT NULL,
  datasheet blob DEFAULT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY instrument_model_maker (maker, model)
);

CREATE TABLE `{fieldwork}`.instrument (
  id int unsigned NOT NULL AUTO_INCREMENT,
  model_id smallint unsigned NOT NULL,
  serial_no varchar(24) NOT NULL,
  bought_on date DEFAULT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY instrument_serial (serial_no),
  CONSTRAINT instrument_of_model FOREIGN KEY (model_id) REFERENCES instrument_model (id)
);

CREATE TABLE `{fieldwork}`.deployment (
  id int unsigned NOT NULL AUTO_INCREMENT,
  instrument_id int unsigned NOT NULL,
  station_id int unsigned NOT NULL,
  from_date date NOT NULL,
  to_date date DEFAULT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY deployment_once (instrument_id, from_date),
  CONSTRAINT deployment_instrument FOREIGN KEY (instrument_id) REFERENCES instrument (id),
  CONSTRAINT deployment_station FOREIGN KEY (station_id) REFERENCES station (id)
);

CREATE TABLE `{fieldwork}`.calibration (
  id int unsigned NOT NULL AUTO_INCREMENT,
  instrument_id int unsigned NOT NULL,
  done_by int unsigned DEFAULT NULL,
  done_on date NOT NULL,
  drift float DEFAULT NULL,
  PRIMARY KEY (id),
  CONSTRAINT calibration_instrument FOREIGN KEY (instrument_id) REFERENCES instrument (id) ON DELETE CASCADE
);

CREATE TABLE `{fieldwork}`.unit (
  id smallint unsigned NOT NULL AUTO_INCREMENT,
  symbol varchar(16) NOT NULL,
  name varchar(60) NOT NULL,
  PRIMARY KEY (id)
);

CREATE TABLE `{fieldwork}`.parameter (
  code varchar(8) NOT NULL,
  unit_id smallint unsigned NOT NULL,
  name varchar(60) NOT NULL,
  PRIMARY KEY (code),
  CONSTRAINT parameter_unit FOREIGN KEY (unit_id) REFERENCES unit (id)
) COMMENT 'What can be measured';

CREATE TABLE `{fieldwork}`.quality_flag (
  code char(1) NOT NULL,
  label varchar(20) NOT NULL,
  PRIMARY KEY (code)
);

CREATE TABLE `{fieldwork}`.reading (
  id bigint unsigned NOT NULL AUTO_INCREMENT,
  station_id int unsigned NOT NULL,
  parameter_code varchar(8) NOT NULL,
  deployment_ref int DEFAULT NULL COMMENT 'deployment, if automatic',
  taken_at datetime NOT NULL,
  value decimal(6,2) DEFAULT NULL,
  flag char(1) DEFAULT NULL COMMENT 'G S B',
  PRIMARY KEY (id),
  KEY reading_when (station_id, taken_at),
  CONSTRAINT reading_parameter FOREIGN KEY (parameter_code) REFERENCES parameter (code),
  CONSTRAINT reading_station FOREIGN KEY (station_id) REFERENCES station (id)
) COMMENT 'Hourly values from the stations, one row an hour and station';

CREATE TABLE `{fieldwork}`.team (
  id smallint unsigned NOT NULL AUTO_INCREMENT,
  name varchar(60) NOT NULL,
  PRIMARY KEY (id)
);

CREATE TABLE `{fieldwork}`.person (
  id int unsigned NOT NULL AUTO_INCREMENT,
  team_id smallint unsigned DEFAULT NULL,
  name varchar(80) NOT NULL,
  phone varchar(24) DEFAULT NULL,
  email varchar(120) DEFAULT NULL,
  home_address varchar(200) DEFAULT NULL,
  fax varchar(24) DEFAULT NULL,
  joined_on date DEFAULT NULL,
  PRIMARY KEY (id),
  CONSTRAINT person_team FOREIGN KEY (team_id) REFERENCES team (id) ON DELETE SET NULL
);

CREATE TABLE `{fieldwork}`.visit (
  id int unsigned NOT NULL AUTO_INCREMENT,
  station_id int unsigned NOT NULL,
  team_id smallint unsigned DEFAULT NULL,
  started_at datetime NOT NULL,
  ended_at datetime DEFAULT NULL,
  weather set('dry','rain','snow','wind','ice') DEFAULT NULL,
  note text DEFAULT NULL,
  PRIMARY KEY (id),
  CONSTRAINT visit_station FOREIGN KEY (station_id) REFERENCES station (id)
);

CREATE TABLE `{fieldwork}`.visit_member (
  id int unsigned NOT NULL AUTO_INCREMENT,
  visit_id int unsigned NOT NULL,
  person_id int unsigned NOT NULL,
  PRIMARY KEY (id),
  CONSTRAINT visit_member_person FOREIGN KEY (person_id) REFERENCES person (id),
  CONSTRAINT visit_member_visit FOREIGN KEY (visit_id) REFERENCES visit (id) ON DELETE CASCADE
);

CREATE TABLE `{fieldwork}`.landowner (
  LandownerNo int NOT NULL,
  Name varchar(80) NOT NULL,
  Telephone varchar(24) DEFAULT NULL,
  Address varchar(200) DEFAULT NULL,
  Country char(3) NOT NULL,
  PRIMARY KEY (LandownerNo)
);

CREATE TABLE `{fieldwork}`.access_permit (
  id int unsigned NOT NULL AUTO_INCREMENT,
  landowner_no int NOT NULL,
  station_id int unsigned NOT NULL,
  valid_until varchar(10) NOT NULL,
  PRIMARY KEY (id),
  CONSTRAINT access_permit_station FOREIGN KEY (station_id) REFERENCES station (id)
);

CREATE TABLE `{fieldwork}`.lab (
  code char(3) NOT NULL,
  name varchar(80) NOT NULL,
  accredited_until date DEFAULT NULL,
  PRIMARY KEY (code)
);

CREATE TABLE `{fieldwork}`.method (
  lab_code char(3) NOT NULL,
  method_code varchar(10) NOT NULL,
  parameter_code varchar(8) NOT NULL,
  detection_limit decimal(9,4) DEFAULT NULL,
  PRIMARY KEY (lab_code, method_code),
  CONSTRAINT method_lab FOREIGN KEY (lab_code) REFERENCES lab (code),
  CONSTRAINT method_parameter FOREIGN KEY (parameter_code) REFERENCES parameter (code)
);

CREATE TABLE `{fieldwork}`.sample (
  id int unsigned NOT NULL AUTO_INCREMENT,
  visit_id int unsigned DEFAULT NULL,
  stn_ref char(6) NOT NULL,
  bottle_no varchar(12) NOT NULL,
  taken_at datetime NOT NULL,
  depth_cm smallint unsigned DEFAULT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY sample_bottle (bottle_no),
  CONSTRAINT sample_visit FOREIGN KEY (visit_id) REFERENCES visit (id)
);

CREATE TABLE `{fieldwork}`.lab_result (
  sample_id int unsigned NOT NULL,
  lab_code char(3) NOT NULL,
  method_code varchar(10) NOT NULL,
  value decimal(12,4) DEFAULT NULL,
  below_limit tinyint(1) NOT NULL DEFAULT 0,
  reported_on date NOT NULL,
  PRIMARY KEY (sample_id, lab_code, method_code),
  CONSTRAINT lab_result_sample FOREIGN KEY (sample_id) REFERENCES sample (id) ON DELETE CASCADE
);

CREATE TABLE `{fieldwork}`.species (
  code char(5) NOT NULL,
  common_name varchar(80) NOT NULL,
  latin_name varchar(80) NOT NULL,
  protected tinyint(1) NOT NULL DEFAULT 0,
  PRIMARY KEY (code)
);

CREATE TABLE `{fieldwork}`.sighting (
  sightingId int unsigned NOT NULL AUTO_INCREMENT,
  speciesCode char(5) NOT NULL,
  reachId int unsigned NOT NULL,
  seenBy int unsigned DEFAULT NULL,
  seenOn date NOT NULL,
  confirmedOn date DEFAULT NULL,
  howMany smallint unsigned NOT NULL DEFAULT 1,
  PRIMARY KEY (sightingId),
  CONSTRAINT sighting_reach FOREIGN KEY (reachId) REFERENCES reach (id),
  CONSTRAINT sighting_seen_by FOREIGN KEY (seenBy) REFERENCES person (id) ON DELETE SET NULL
);

CREATE TABLE `{fieldwork}`.barrier (
  id int unsigned NOT NULL AUTO_INCREMENT,
  reach_id int unsigned NOT NULL,
  name varchar(80) NOT NULL,
  kind enum('weir','sluice','culvert','dam') NOT NULL,
  height_cm smallint unsigned DEFAULT NULL,
  passable bit(1) DEFAULT NULL,
  position point DEFAULT NULL,
  PRIMARY KEY (id),
  CONSTRAINT barrier_reach FOREIGN KEY (reach_id) REFERENCES reach (id),
  CONSTRAINT barrier_height CHECK (height_cm < 5000)
) COMMENT 'Things in the river that fish cannot pass';

CREATE TABLE `{fieldwork}`.barrier_survey (
  id int unsigned NOT NULL AUTO_INCREMENT,
  barrier_id int unsigned NOT NULL,
  surveyed_on date NOT NULL,
  score tinyint unsigned DEFAULT NULL,
  PRIMARY KEY (id),
  CONSTRAINT barrier_survey_barrier FOREIGN KEY (barrier_id) REFERENCES barrier (id)
);

CREATE TABLE `{fieldwork}`.incident (
  id int unsigned NOT NULL AUTO_INCREMENT,
  stn_ref int DEFAULT NULL,
  reported_at datetime NOT NULL,
  reporter_phone varchar(24) DEFAULT NULL,
  what text NOT NULL,
  severity tinyint NOT NULL DEFAULT 1,
  PRIMARY KEY (id),
  FULLTEXT KEY incident_what (what)
);

CREATE TABLE `{fieldwork}`.alert_rule (
  id int unsigned NOT NULL AUTO_INCREMENT,
  parameter_code varchar(8) NOT NULL,
  site int DEFAULT NULL,
  above decimal(8,2) DEFAULT NULL,
  below decimal(8,2) DEFAULT NULL,
  PRIMARY KEY (id),
  CONSTRAINT alert_rule_parameter FOREIGN KEY (parameter_code) REFERENCES parameter (code)
);

CREATE TABLE `{fieldwork}`.alert (
  rule_id int unsigned NOT NULL,
  subject_kind enum('station','barrier') NOT NULL,
  subject_id int unsigned NOT NULL,
  raised_at datetime NOT NULL,
  cleared_at datetime DEFAULT NULL,
  KEY alert_when (raised_at),
  CONSTRAINT alert_of_rule FOREIGN KEY (rule_id) REFERENCES alert_rule (id)
);

CREATE TABLE `{fieldwork}`.`order` (
  `Order No` int NOT NULL,
  `Item` varchar(80) NOT NULL,
  `Date` date NOT NULL,
  `Cost "net"` decimal(9,2) DEFAULT NULL,
  PRIMARY KEY (`Order No`)
);

CREATE TABLE `{fieldwork}`.tmp_import_0423 (
  line int NOT NULL,
  raw text DEFAULT NULL
);

CREATE VIEW `{fieldwork}`.open_station AS
  SELECT s.id, s.code, s.name, r.name AS reach, c.name AS catchment
  FROM `{fieldwork}`.station s JOIN `{fieldwork}`.reach r ON r.id = s.reach_id JOIN `{fieldwork}`.catchment c ON c.id = r.catchment_id
  WHERE s.status = 'open';

CREATE TABLE `{archive}`.reading_2023 (
  station int NOT NULL,
  parameter varchar(8) NOT NULL,
  taken_at datetime NOT NULL,
  value decimal(6,2) DEFAULT NULL,
  flag char(1) DEFAULT NULL,
  PRIMARY KEY (station, parameter, taken_at)
);

CREATE TABLE `{archive}`.reading_2024 LIKE `{archive}`.reading_2023;
