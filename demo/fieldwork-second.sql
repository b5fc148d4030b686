-- One season later. Surveying the source again shows what changed.
ALTER TABLE `{fieldwork}`.station CHANGE opened_on in_service_from date DEFAULT NULL;
ALTER TABLE `{fieldwork}`.station DROP CONSTRAINT station_dates;
ALTER TABLE `{fieldwork}`.reading MODIFY value decimal(9,3) DEFAULT NULL;
ALTER TABLE `{fieldwork}`.sample ADD COLUMN cooled tinyint(1) NOT NULL DEFAULT 0 AFTER depth_cm;
RENAME TABLE `{fieldwork}`.landowner TO `{fieldwork}`.land_contact;
DROP TABLE `{fieldwork}`.tmp_import_0423;
CREATE TABLE `{fieldwork}`.water_body (
  id int unsigned NOT NULL AUTO_INCREMENT,
  name varchar(80) NOT NULL,
  kind enum('river','lake','canal') NOT NULL,
  PRIMARY KEY (id)
) COMMENT 'Waters as the regulator counts them';
CREATE TABLE `{fieldwork}`.instrument_fault (
  id int unsigned NOT NULL AUTO_INCREMENT,
  instrument_id int unsigned NOT NULL,
  noticed_at datetime NOT NULL,
  what varchar(200) NOT NULL,
  PRIMARY KEY (id),
  CONSTRAINT instrument_fault_instrument FOREIGN KEY (instrument_id) REFERENCES instrument (id)
);
ALTER TABLE `{fieldwork}`.calibration ADD CONSTRAINT calibration_done_by FOREIGN KEY (done_by) REFERENCES person (id);
