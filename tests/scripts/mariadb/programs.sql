-- @ a view
CREATE TABLE t (a INT NOT NULL, b VARCHAR(9));
CREATE VIEW v AS SELECT a, b AS named, a + 1 AS more FROM t WHERE a > 0;
CREATE OR REPLACE ALGORITHM=MERGE DEFINER=CURRENT_USER SQL SECURITY INVOKER VIEW w (x, y) AS SELECT a, b FROM t WITH CASCADED CHECK OPTION;
-- @ a view that is altered
CREATE TABLE t (a INT, b INT);
CREATE VIEW v AS SELECT a FROM t;
ALTER VIEW v AS SELECT b FROM t;
ALTER ALGORITHM=TEMPTABLE VIEW v AS SELECT b, a FROM t;
CREATE VIEW IF NOT EXISTS v AS SELECT 1 AS z;
-- @ a view that goes
CREATE TABLE t (a INT);
CREATE VIEW v AS SELECT a FROM t;
CREATE VIEW w AS SELECT a FROM t;
DROP VIEW IF EXISTS v, nothing;
-- @ a view that is renamed
CREATE TABLE t (a INT);
CREATE VIEW v AS SELECT a FROM t;
RENAME TABLE v TO w;
-- @ a view with joins and groups
CREATE TABLE p (id INT PRIMARY KEY, n VARCHAR(9) NOT NULL);
CREATE TABLE t (p_id INT NOT NULL, v DECIMAL(8,2));
CREATE VIEW s AS SELECT p.n, COUNT(*) AS c, SUM(t.v) AS total, AVG(t.v) AS mean, MAX(t.v) AS most FROM p LEFT JOIN t ON t.p_id = p.id GROUP BY p.id, p.n HAVING COUNT(*) > 1 ORDER BY p.n LIMIT 5;
-- @ a trigger
CREATE TABLE t (a INT, b INT);
CREATE TRIGGER tr BEFORE INSERT ON t FOR EACH ROW SET NEW.b = NEW.a + 1;
-- @ triggers with blocks
CREATE TABLE t (a INT, b INT);
DELIMITER //
CREATE TRIGGER tr1 AFTER UPDATE ON t FOR EACH ROW
BEGIN
  -- begin and case and ' stand in a comment
  IF NEW.a > 1 THEN
    SET @x = CASE WHEN NEW.b = 1 THEN 'begin; end' ELSE "case" END;
  END IF;
END//
CREATE TRIGGER tr2 AFTER UPDATE ON t FOR EACH ROW FOLLOWS tr1 BEGIN END//
DELIMITER ;
CREATE TABLE after_all (x INT);
-- @ triggers in an order
CREATE TABLE t (a INT);
CREATE TRIGGER one BEFORE INSERT ON t FOR EACH ROW SET NEW.a = 1;
CREATE TRIGGER two BEFORE INSERT ON t FOR EACH ROW PRECEDES one SET NEW.a = 2;
-- @ a trigger that goes, and one that is replaced
CREATE TABLE t (a INT);
CREATE TRIGGER one BEFORE INSERT ON t FOR EACH ROW SET NEW.a = 1;
CREATE TRIGGER two AFTER INSERT ON t FOR EACH ROW SET @a = 2;
DROP TRIGGER one;
DROP TRIGGER IF EXISTS nothing;
CREATE OR REPLACE TRIGGER two AFTER DELETE ON t FOR EACH ROW SET @a = 3;
-- @ a trigger with a definer
CREATE TABLE t (a INT);
DELIMITER $$
CREATE /*!50017 DEFINER=`root`@`localhost` */ TRIGGER tr BEFORE INSERT ON t FOR EACH ROW BEGIN SET NEW.a = 1; END $$
DELIMITER ;
-- @ a trigger goes with its table
CREATE TABLE t (a INT);
CREATE TABLE u (a INT);
CREATE TRIGGER tr BEFORE INSERT ON t FOR EACH ROW SET NEW.a = 1;
DROP TABLE t;
-- @ a function
CREATE FUNCTION f (x INT, y VARCHAR(20)) RETURNS DECIMAL(8,2) DETERMINISTIC COMMENT 'adds' RETURN x + 1;
-- @ functions that return
DELIMITER ;;
CREATE FUNCTION f (x INT) RETURNS VARCHAR(20) CHARSET utf8mb4 NO SQL BEGIN DECLARE y VARCHAR(20); SET y = CONCAT(x, ';'); RETURN y; END;;
CREATE FUNCTION g () RETURNS INT UNSIGNED READS SQL DATA RETURN 1;;
DELIMITER ;
-- @ a procedure
DELIMITER //
CREATE PROCEDURE p (IN a INT, OUT b INT, INOUT c VARCHAR(9))
  SQL SECURITY INVOKER
  COMMENT 'does it'
BEGIN
  DECLARE done INT DEFAULT 0;
  DECLARE CONTINUE HANDLER FOR NOT FOUND SET done = 1;
  main: LOOP
    SET a = a + 1;
    IF a > 5 THEN LEAVE main; END IF;
  END LOOP;
  CASE a WHEN 1 THEN SET b = 1; ELSE SET b = 2; END CASE;
  WHILE a > 0 DO SET a = a - 1; END WHILE;
  REPEAT SET a = a + 1; UNTIL a > 3 END REPEAT;
END//
DELIMITER ;
CREATE TABLE after_all (x INT);
-- @ several statements within one delimiter
DELIMITER $$
CREATE TABLE a (x INT);
CREATE TABLE b (x INT, y VARCHAR(9) DEFAULT ';');
CREATE TABLE c (x INT)$$
DELIMITER ;
CREATE TABLE d (x INT);
-- @ a routine of one statement without a delimiter
CREATE PROCEDURE p () SELECT 1;
CREATE PROCEDURE q () UPDATE mysql.user SET x = 1;
CREATE TABLE t (a INT);
-- @ a routine that goes
CREATE PROCEDURE p () SELECT 1;
CREATE FUNCTION f () RETURNS INT RETURN 1;
CREATE FUNCTION g () RETURNS INT RETURN 1;
DROP PROCEDURE p;
DROP FUNCTION IF EXISTS f;
DROP PROCEDURE IF EXISTS nothing;
-- @ a routine that is replaced and altered
CREATE PROCEDURE p () SELECT 1;
CREATE OR REPLACE PROCEDURE p (x INT) SELECT 2;
ALTER PROCEDURE p COMMENT 'now it says';
-- @ an event
DELIMITER //
CREATE EVENT e ON SCHEDULE EVERY 1 DAY DO BEGIN DELETE FROM t; END//
DELIMITER ;
CREATE TABLE t (a INT);
-- @ a routine with a label and a query
DELIMITER //
CREATE PROCEDURE p ()
outer_block: BEGIN
  DECLARE c CURSOR FOR SELECT CASE WHEN 1 THEN 2 END FROM DUAL;
  OPEN c;
  CLOSE c;
END outer_block//
DELIMITER ;
CREATE TABLE t (a INT);
-- @ an aggregate function
DELIMITER //
CREATE AGGREGATE FUNCTION total (x INT) RETURNS INT
BEGIN
  DECLARE s INT DEFAULT 0;
  DECLARE CONTINUE HANDLER FOR NOT FOUND RETURN s;
  LOOP
    FETCH GROUP NEXT ROW;
    SET s = s + x;
  END LOOP;
END//
DELIMITER ;
CREATE TABLE t (a INT);
-- @ roles, users and grants are of no matter
CREATE TABLE t (a INT);
CREATE ROLE IF NOT EXISTS fasti_trait_role;
GRANT SELECT ON t TO fasti_trait_role;
REVOKE SELECT ON t FROM fasti_trait_role;
DROP ROLE fasti_trait_role;
FLUSH PRIVILEGES;
-- @ what the dump tool writes around tables
/*!40101 SET @saved_cs_client     = @@character_set_client */;
/*!40101 SET character_set_client = utf8 */;
CREATE TABLE `t` (
  `id` int(11) NOT NULL AUTO_INCREMENT,
  `n` varchar(9) COLLATE utf8mb4_bin DEFAULT NULL,
  PRIMARY KEY (`id`)
) ENGINE=InnoDB AUTO_INCREMENT=3 DEFAULT CHARSET=utf8mb4;
/*!40101 SET character_set_client = @saved_cs_client */;
/*!40000 ALTER TABLE `t` DISABLE KEYS */;
/*!40000 ALTER TABLE `t` ENABLE KEYS */;
SET @saved_cs_client     = @@character_set_client;
/*!50001 CREATE VIEW `v` AS SELECT 1 AS `id`, 1 AS `n` */;
/*!50001 DROP VIEW IF EXISTS `v`*/;
/*!50001 CREATE ALGORITHM=UNDEFINED */
/*!50013 DEFINER=`root`@`localhost` SQL SECURITY DEFINER */
/*!50001 VIEW `v` AS select `t`.`id` AS `id`,`t`.`n` AS `n` from `t` */;
-- @ what an administrator's export writes
SET SQL_MODE = "NO_AUTO_VALUE_ON_ZERO";
SET time_zone = "+00:00";
CREATE TABLE `t` (
  `id` int(10) UNSIGNED NOT NULL,
  `created` timestamp NOT NULL DEFAULT current_timestamp() ON UPDATE current_timestamp(),
  `kind` enum('a','b') NOT NULL DEFAULT 'a'
) ENGINE=InnoDB DEFAULT CHARSET=utf8mb4 COLLATE=utf8mb4_general_ci;
ALTER TABLE `t`
  ADD PRIMARY KEY (`id`),
  ADD KEY `kind` (`kind`);
ALTER TABLE `t`
  MODIFY `id` int(10) UNSIGNED NOT NULL AUTO_INCREMENT;
COMMIT;
-- @ comments of fields in a view over them
CREATE TABLE t (a INT COMMENT 'what it is', b INT COMMENT 'the other');
CREATE VIEW v AS SELECT a, b + 1 AS c, b AS d FROM t;
CREATE VIEW w AS SELECT a AS e FROM v;
CREATE VIEW x (f, g) AS SELECT b, a FROM t;
