CREATE TABLE IF NOT EXISTS quality_result (
  sample_no VARCHAR(16) NOT NULL COMMENT 'number of the bottle',
  test VARCHAR(8) NOT NULL COMMENT 'what was measured',
  test_name VARCHAR(40),
  farm INT NOT NULL,
  route VARCHAR(4),
  value DECIMAL(9,3) NOT NULL,
  unit VARCHAR(12),
  per_cent BOOLEAN COMMENT 'whether the value is a share',
  taken_on DATE NOT NULL,
  temperature DECIMAL(4,1) COMMENT 'of the milk, in degrees Celsius',
  remark VARCHAR(120),
  source_file VARCHAR(255) NOT NULL,
  loaded_by_run BIGINT,
  PRIMARY KEY (sample_no, test),
  KEY by_farm (farm, taken_on)
) ENGINE=InnoDB COMMENT='Results of the milk laboratory';

CREATE TABLE IF NOT EXISTS round (
  round_no INT NOT NULL PRIMARY KEY,
  route CHAR(3) NOT NULL,
  tanker VARCHAR(8) NOT NULL,
  driver VARCHAR(20),
  started_at DATETIME NOT NULL,
  valley VARCHAR(20),
  stops SMALLINT,
  litres INT COMMENT 'of all its collections'
) ENGINE=InnoDB COMMENT='Rounds of the tankers';

CREATE TABLE IF NOT EXISTS collection (
  round_no INT NOT NULL,
  stop SMALLINT NOT NULL,
  farm INT NOT NULL,
  collected_at TIME NOT NULL,
  litres INT NOT NULL,
  temperature DECIMAL(4,1) COMMENT 'of the milk, in degrees Celsius',
  sample_no VARCHAR(12),
  remark VARCHAR(45),
  source_file VARCHAR(255),
  PRIMARY KEY (round_no, stop),
  FOREIGN KEY (round_no) REFERENCES round (round_no)
) ENGINE=InnoDB COMMENT='Milk collected at a farm on a round';

CREATE TABLE IF NOT EXISTS farm (
  farm INT NOT NULL PRIMARY KEY,
  name VARCHAR(60) NOT NULL,
  valley VARCHAR(12),
  village VARCHAR(40),
  organic BOOLEAN,
  member_since DATE
) ENGINE=InnoDB COMMENT='Farms of the co-operative';

CREATE TABLE IF NOT EXISTS herd (
  farm INT NOT NULL,
  breed VARCHAR(20) NOT NULL,
  cows INT NOT NULL,
  yield DECIMAL(6,1) COMMENT 'kilograms of milk for each cow and year',
  PRIMARY KEY (farm, breed),
  FOREIGN KEY (farm) REFERENCES farm (farm)
) ENGINE=InnoDB COMMENT='Herds of the farms';

CREATE TABLE IF NOT EXISTS quality_alert (
  sample_no VARCHAR(16) NOT NULL,
  test VARCHAR(8) NOT NULL,
  farm INT NOT NULL,
  value DECIMAL(9,3) NOT NULL,
  above DECIMAL(9,3) COMMENT 'by how much the limit is passed',
  farm_name VARCHAR(60) COMMENT 'as the register has it',
  village VARCHAR(40),
  told VARCHAR(80) COMMENT 'what the farm is told',
  PRIMARY KEY (sample_no, test)
) ENGINE=InnoDB COMMENT='Results above their limit';

CREATE TABLE IF NOT EXISTS round_alert (
  round_no INT NOT NULL PRIMARY KEY,
  warmest DECIMAL(4,1) NOT NULL COMMENT 'degrees Celsius',
  stops SMALLINT NOT NULL COMMENT 'with milk above 6 degrees',
  driver VARCHAR(20)
) ENGINE=InnoDB COMMENT='Rounds with milk that was too warm';

CREATE TABLE IF NOT EXISTS route_day (
  route CHAR(3) NOT NULL,
  day DATE NOT NULL,
  stops INT NOT NULL,
  farms SMALLINT NOT NULL,
  litres INT NOT NULL,
  warmest DECIMAL(4,1) COMMENT 'degrees Celsius',
  PRIMARY KEY (route, day)
) ENGINE=InnoDB COMMENT='What each route brought on a day';

CREATE TABLE IF NOT EXISTS voucher (
  voucher_no VARCHAR(10) NOT NULL PRIMARY KEY,
  booked_on DATE NOT NULL,
  farm INT NOT NULL,
  farm_name VARCHAR(60),
  items SMALLINT NOT NULL,
  goods DECIMAL(11,2) NOT NULL COMMENT 'what the goods cost',
  loaded_by_run BIGINT
) ENGINE=InnoDB COMMENT='Supplies that farms took on account';

CREATE TABLE IF NOT EXISTS voucher_line (
  voucher_no VARCHAR(10) NOT NULL,
  file_line INT NOT NULL,
  article VARCHAR(8) NOT NULL,
  article_group VARCHAR(20),
  text VARCHAR(60),
  quantity INT,
  debit DECIMAL(11,2) NOT NULL,
  credit DECIMAL(11,2) NOT NULL,
  PRIMARY KEY (voucher_no, file_line),
  FOREIGN KEY (voucher_no) REFERENCES voucher (voucher_no)
) ENGINE=InnoDB COMMENT='Lines of the vouchers';

CREATE TABLE IF NOT EXISTS milk_price (
  day DATE NOT NULL,
  class VARCHAR(20) NOT NULL,
  tonnes INT NOT NULL,
  price DECIMAL(7,2) NOT NULL COMMENT 'for 100 kg',
  contract CHAR(5),
  reference VARCHAR(30),
  source_file VARCHAR(255),
  PRIMARY KEY (day, class)
) ENGINE=InnoDB COMMENT='Prices of raw milk, as the Milk Exchange has them';

CREATE TABLE IF NOT EXISTS cream_price (
  day DATE NOT NULL PRIMARY KEY,
  fat TINYINT COMMENT 'per cent',
  tonnes INT NOT NULL,
  price DECIMAL(7,2) NOT NULL COMMENT 'for 100 kg'
) ENGINE=InnoDB COMMENT='Prices of cream, as the Milk Exchange has them';

CREATE TABLE IF NOT EXISTS weather_station (
  station VARCHAR(8) NOT NULL PRIMARY KEY,
  name VARCHAR(40),
  valley VARCHAR(20),
  metres INT COMMENT 'above the sea',
  battery TINYINT COMMENT 'per cent'
) ENGINE=InnoDB COMMENT='Weather stations on the fells';

CREATE TABLE IF NOT EXISTS weather_reading (
  station VARCHAR(8) NOT NULL,
  read_at DATETIME NOT NULL,
  degrees DECIMAL(4,1) COMMENT 'Celsius',
  wind DECIMAL(4,1) COMMENT 'metres a second',
  wind_from VARCHAR(3),
  rain DECIMAL(5,1) COMMENT 'millimetres',
  PRIMARY KEY (station, read_at),
  FOREIGN KEY (station) REFERENCES weather_station (station)
) ENGINE=InnoDB COMMENT='Readings of the weather stations';
