CREATE TABLE kit (
  id int NOT NULL AUTO_INCREMENT,
  label char(4) NOT NULL,
  state varchar(9) DEFAULT 'ready',
  value decimal(6,2) COMMENT 'in crowns',
  PRIMARY KEY (id),
  UNIQUE KEY kit_label_key (label)
) ENGINE=InnoDB;

ALTER TABLE kit ADD CONSTRAINT kit_state_check CHECK (state IN ('ready', 'lent', 'in repair'));
ALTER TABLE kit ADD CONSTRAINT kit_value_check CHECK (value >= 0);
CREATE TABLE school (
  id int NOT NULL AUTO_INCREMENT,
  name varchar(80) NOT NULL,
  town varchar(60) NOT NULL,
  PRIMARY KEY (id),
  UNIQUE KEY school_name_town_key (name, town)
) ENGINE=InnoDB;

CREATE TABLE instrument (
  id int NOT NULL AUTO_INCREMENT,
  kit_id int,
  serial_number varchar(24) NOT NULL,
  last_calibrated_on date,
  PRIMARY KEY (id),
  UNIQUE KEY instrument_serial_number_key (serial_number),
  KEY instrument_kit_id_idx (kit_id),
  CONSTRAINT instrument_kit_id_fkey FOREIGN KEY (kit_id) REFERENCES kit (id) ON DELETE RESTRICT ON UPDATE NO ACTION
) ENGINE=InnoDB;

CREATE TABLE teacher (
  id int NOT NULL AUTO_INCREMENT,
  school_id int NOT NULL,
  name varchar(80) NOT NULL,
  e_mail varchar(120),
  PRIMARY KEY (id),
  UNIQUE KEY teacher_e_mail_key (e_mail),
  UNIQUE KEY teacher_school_id_name_key (school_id, name),
  CONSTRAINT teacher_school_id_fkey FOREIGN KEY (school_id) REFERENCES school (id) ON DELETE RESTRICT ON UPDATE NO ACTION
) ENGINE=InnoDB;

CREATE TABLE loan (
  id int NOT NULL AUTO_INCREMENT,
  school_id int NOT NULL,
  teacher_id int NOT NULL,
  lent_on date NOT NULL DEFAULT (curdate()),
  due_on date NOT NULL,
  returned_on date,
  PRIMARY KEY (id),
  UNIQUE KEY loan_school_id_lent_on_key (school_id, lent_on),
  KEY loan_teacher_id_idx (teacher_id),
  CONSTRAINT loan_school_id_fkey FOREIGN KEY (school_id) REFERENCES school (id) ON DELETE RESTRICT ON UPDATE NO ACTION,
  CONSTRAINT loan_teacher_id_fkey FOREIGN KEY (teacher_id) REFERENCES teacher (id) ON DELETE RESTRICT ON UPDATE NO ACTION
) ENGINE=InnoDB;

ALTER TABLE loan ADD CONSTRAINT loan_due_on_check CHECK (due_on >= lent_on);
ALTER TABLE loan ADD CONSTRAINT loan_returned_on_check CHECK (returned_on >= lent_on);
CREATE TABLE loan_kit (
  loan_id int NOT NULL,
  kit_id int NOT NULL,
  condition_on_return varchar(200),
  PRIMARY KEY (loan_id, kit_id),
  KEY loan_kit_kit_id_idx (kit_id),
  CONSTRAINT loan_kit_kit_id_fkey FOREIGN KEY (kit_id) REFERENCES kit (id) ON DELETE RESTRICT ON UPDATE NO ACTION,
  CONSTRAINT loan_kit_loan_id_fkey FOREIGN KEY (loan_id) REFERENCES loan (id) ON DELETE CASCADE ON UPDATE NO ACTION
) ENGINE=InnoDB;
