CREATE TRIGGER `{fieldwork}`.station_closes BEFORE UPDATE ON `{fieldwork}`.station FOR EACH ROW
  SET NEW.closed_on = IF(NEW.status = 'closed' AND NEW.closed_on IS NULL, CURRENT_DATE, NEW.closed_on);
CREATE FUNCTION `{fieldwork}`.season_of(d date) RETURNS smallint DETERMINISTIC COMMENT 'Seasons begin in October' RETURN YEAR(d) + (MONTH(d) >= 10);
