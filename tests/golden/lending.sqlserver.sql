CREATE TABLE kit (
  id int IDENTITY(1,1) NOT NULL,
  label nchar(4) NOT NULL,
  state nvarchar(9) DEFAULT N'ready',
  value decimal(6,2),
  CONSTRAINT kit_pkey PRIMARY KEY (id),
  CONSTRAINT kit_label_key UNIQUE (label),
  CONSTRAINT kit_state_check CHECK (state IN (N'ready', N'lent', N'in repair')),
  CONSTRAINT kit_value_check CHECK (value >= 0)
);

EXEC sys.sp_addextendedproperty @name = N'MS_Description', @value = N'in crowns', @level0type = N'SCHEMA', @level0name = N'dbo', @level1type = N'TABLE', @level1name = N'kit', @level2type = N'COLUMN', @level2name = N'value';

CREATE TABLE school (
  id int IDENTITY(1,1) NOT NULL,
  name nvarchar(80) NOT NULL,
  town nvarchar(60) NOT NULL,
  CONSTRAINT school_pkey PRIMARY KEY (id),
  CONSTRAINT school_name_town_key UNIQUE (name, town)
);

CREATE TABLE instrument (
  id int IDENTITY(1,1) NOT NULL,
  kit_id int,
  serial_number nvarchar(24) NOT NULL,
  last_calibrated_on date,
  CONSTRAINT instrument_pkey PRIMARY KEY (id),
  CONSTRAINT instrument_serial_number_key UNIQUE (serial_number),
  CONSTRAINT instrument_kit_id_fkey FOREIGN KEY (kit_id) REFERENCES kit (id)
);

CREATE INDEX instrument_kit_id_idx ON instrument (kit_id);

CREATE TABLE teacher (
  id int IDENTITY(1,1) NOT NULL,
  school_id int NOT NULL,
  name nvarchar(80) NOT NULL,
  e_mail nvarchar(120),
  CONSTRAINT teacher_pkey PRIMARY KEY (id),
  CONSTRAINT teacher_school_id_name_key UNIQUE (school_id, name),
  CONSTRAINT teacher_school_id_fkey FOREIGN KEY (school_id) REFERENCES school (id)
);

CREATE UNIQUE INDEX teacher_e_mail_key ON teacher (e_mail) WHERE e_mail IS NOT NULL;

CREATE TABLE loan (
  id int IDENTITY(1,1) NOT NULL,
  school_id int NOT NULL,
  teacher_id int NOT NULL,
  lent_on date DEFAULT CAST(GETDATE() AS date) NOT NULL,
  due_on date NOT NULL,
  returned_on date,
  CONSTRAINT loan_pkey PRIMARY KEY (id),
  CONSTRAINT loan_school_id_lent_on_key UNIQUE (school_id, lent_on),
  CONSTRAINT loan_school_id_fkey FOREIGN KEY (school_id) REFERENCES school (id),
  CONSTRAINT loan_teacher_id_fkey FOREIGN KEY (teacher_id) REFERENCES teacher (id),
  CONSTRAINT loan_due_on_check CHECK (due_on >= lent_on),
  CONSTRAINT loan_returned_on_check CHECK (returned_on >= lent_on)
);

CREATE INDEX loan_teacher_id_idx ON loan (teacher_id);

CREATE TABLE loan_kit (
  loan_id int NOT NULL,
  kit_id int NOT NULL,
  condition_on_return nvarchar(200),
  CONSTRAINT loan_kit_pkey PRIMARY KEY (loan_id, kit_id),
  CONSTRAINT loan_kit_kit_id_fkey FOREIGN KEY (kit_id) REFERENCES kit (id),
  CONSTRAINT loan_kit_loan_id_fkey FOREIGN KEY (loan_id) REFERENCES loan (id) ON DELETE CASCADE
);

CREATE INDEX loan_kit_kit_id_idx ON loan_kit (kit_id);
