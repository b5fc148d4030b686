-- A made-up playhouse: productions, seats, bookings, wardrobe. Names are run together with capitals, and some are cut short.
CREATE TABLE Venue (
  VenueID int NOT NULL AUTO_INCREMENT,
  VenueName varchar(80) NOT NULL,
  Capacity int DEFAULT NULL,
  PostalAddress varchar(200) DEFAULT NULL,
  OpenedOn date DEFAULT NULL,
  PRIMARY KEY (VenueID)
) COMMENT='Rooms that the playhouse performs in';

CREATE TABLE SeatBlock (
  BlockCode char(2) NOT NULL,
  VenueID int NOT NULL,
  Description varchar(100) NOT NULL,
  PriceBand char(1) NOT NULL CHECK (PriceBand IN ('A','B','C')),
  PRIMARY KEY (BlockCode),
  CONSTRAINT FK_Block_Venue FOREIGN KEY (VenueID) REFERENCES Venue (VenueID)
);

CREATE TABLE Seat (
  SeatID int NOT NULL AUTO_INCREMENT,
  BlockCode char(2) NOT NULL,
  RowNo smallint NOT NULL,
  SeatNo smallint NOT NULL,
  IsRestrictedView tinyint(1) NOT NULL DEFAULT 0,
  PRIMARY KEY (SeatID),
  CONSTRAINT FK_Seat_Block FOREIGN KEY (BlockCode) REFERENCES SeatBlock (BlockCode)
);

CREATE TABLE Production (
  ProductionID int NOT NULL AUTO_INCREMENT,
  Title varchar(120) NOT NULL,
  DirectorID int DEFAULT NULL,
  PremiereDate date DEFAULT NULL,
  DurationMin smallint DEFAULT NULL,
  AgeLimit tinyint DEFAULT NULL,
  Synopsis text,
  LanguageCode char(2) NOT NULL DEFAULT 'en',
  PRIMARY KEY (ProductionID),
  CONSTRAINT FK_Production_Director FOREIGN KEY (DirectorID) REFERENCES Member (MemberID)
);

CREATE TABLE Performance (
  PerformanceID int NOT NULL AUTO_INCREMENT,
  ProductionID int NOT NULL,
  VenueID int NOT NULL,
  StartsAt datetime NOT NULL,
  EndsAt datetime DEFAULT NULL,
  CancelledAt datetime DEFAULT NULL,
  CancelReason varchar(200) DEFAULT NULL,
  ExpectedQty int DEFAULT NULL,
  PRIMARY KEY (PerformanceID),
  CONSTRAINT FK_Performance_Production FOREIGN KEY (ProductionID) REFERENCES Production (ProductionID),
  CONSTRAINT FK_Performance_Venue FOREIGN KEY (VenueID) REFERENCES Venue (VenueID)
);

CREATE TABLE Patron (
  PatronID int NOT NULL AUTO_INCREMENT,
  FirstName varchar(60) NOT NULL,
  LastName varchar(60) NOT NULL,
  EmailAddr varchar(120) DEFAULT NULL,
  MobileNo varchar(30) DEFAULT NULL,
  DOB date DEFAULT NULL,
  CountryCode char(2) DEFAULT NULL,
  NewsletterOptIn tinyint(1) NOT NULL DEFAULT 0,
  CreatedAt timestamp NOT NULL DEFAULT CURRENT_TIMESTAMP,
  PRIMARY KEY (PatronID)
);

CREATE TABLE Booking (
  BookingID int NOT NULL AUTO_INCREMENT,
  BookingRef varchar(12) NOT NULL,
  PatronID int NOT NULL,
  PerformanceID int NOT NULL,
  BookedAt datetime NOT NULL,
  PaidOn date DEFAULT NULL,
  TotalAmt decimal(8,2) NOT NULL,
  CurrencyCode char(3) NOT NULL DEFAULT 'EUR',
  BookingStatus enum('held','paid','refunded','lapsed') NOT NULL DEFAULT 'held',
  TakenByMemberID int DEFAULT NULL,
  UpdatedAt timestamp NOT NULL DEFAULT CURRENT_TIMESTAMP ON UPDATE CURRENT_TIMESTAMP,
  PRIMARY KEY (BookingID),
  UNIQUE KEY UQ_BookingRef (BookingRef),
  CONSTRAINT FK_Booking_Patron FOREIGN KEY (PatronID) REFERENCES Patron (PatronID),
  CONSTRAINT FK_Booking_Performance FOREIGN KEY (PerformanceID) REFERENCES Performance (PerformanceID),
  CONSTRAINT FK_Booking_Taker FOREIGN KEY (TakenByMemberID) REFERENCES Member (MemberID)
);

CREATE TABLE BookingSeat (
  BookingID int NOT NULL,
  SeatID int NOT NULL,
  PricePaid decimal(6,2) NOT NULL,
  ConcessionCode char(1) DEFAULT NULL COMMENT 'S student, P pensioner, C child',
  ScannedAt datetime DEFAULT NULL,
  PRIMARY KEY (BookingID, SeatID),
  CONSTRAINT FK_BS_Booking FOREIGN KEY (BookingID) REFERENCES Booking (BookingID),
  CONSTRAINT FK_BS_Seat FOREIGN KEY (SeatID) REFERENCES Seat (SeatID)
);

CREATE TABLE Member (
  MemberID int NOT NULL AUTO_INCREMENT,
  FullName varchar(100) NOT NULL,
  MentorID int DEFAULT NULL,
  JoinedOn date NOT NULL,
  LeftOn date DEFAULT NULL,
  Height_cm smallint DEFAULT NULL,
  ChestCm smallint DEFAULT NULL,
  EmergencyPhone varchar(30) DEFAULT NULL,
  PRIMARY KEY (MemberID),
  CONSTRAINT FK_Member_Mentor FOREIGN KEY (MentorID) REFERENCES Member (MemberID)
) COMMENT='Everybody who acts, sews, lights or sells tickets';

CREATE TABLE CastRole (
  CastRoleID int NOT NULL AUTO_INCREMENT,
  ProductionID int NOT NULL,
  MemberID int NOT NULL,
  CharacterName varchar(80) NOT NULL,
  IsUnderstudy tinyint(1) NOT NULL DEFAULT 0,
  PRIMARY KEY (CastRoleID),
  CONSTRAINT FK_Role_Production FOREIGN KEY (ProductionID) REFERENCES Production (ProductionID),
  CONSTRAINT FK_Role_Member FOREIGN KEY (MemberID) REFERENCES Member (MemberID)
);

CREATE TABLE Costume (
  CostumeID int NOT NULL AUTO_INCREMENT,
  CostumeDesc varchar(200) NOT NULL,
  MadeByMemberID int DEFAULT NULL,
  StorageShelf varchar(10) DEFAULT NULL,
  SizeCode varchar(4) DEFAULT NULL CHECK (SizeCode IN ('S','M','L','XL')),
  PurchaseCost decimal(8,2) DEFAULT NULL,
  WeightKg decimal(5,2) DEFAULT NULL,
  LastCleanedOn date DEFAULT NULL,
  PRIMARY KEY (CostumeID),
  CONSTRAINT FK_Costume_Maker FOREIGN KEY (MadeByMemberID) REFERENCES Member (MemberID)
);

CREATE TABLE CostumeLoan (
  CostumeLoanID int NOT NULL AUTO_INCREMENT,
  CostumeID int NOT NULL,
  BorrowerName varchar(100) NOT NULL,
  BorrowerPhone varchar(30) DEFAULT NULL,
  LentOn date NOT NULL,
  DueOn date NOT NULL,
  ReturnedOn date DEFAULT NULL,
  DepositAmt decimal(6,2) NOT NULL,
  PRIMARY KEY (CostumeLoanID),
  CONSTRAINT FK_Loan_Costume FOREIGN KEY (CostumeID) REFERENCES Costume (CostumeID)
);

CREATE TABLE LightCue (
  LightCueID int NOT NULL AUTO_INCREMENT,
  ProductionID int NOT NULL,
  CueNo decimal(5,1) NOT NULL,
  FadeSeconds decimal(5,1) NOT NULL,
  IntensityPct tinyint NOT NULL CHECK (IntensityPct BETWEEN 0 AND 100),
  OperatorNote varchar(255) DEFAULT NULL,
  PRIMARY KEY (LightCueID),
  CONSTRAINT FK_Cue_Production FOREIGN KEY (ProductionID) REFERENCES Production (ProductionID)
);
