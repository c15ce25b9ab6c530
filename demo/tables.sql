CREATE TABLE IF NOT EXISTS quality_result (
  sample_no VARCHAR(16) NOT NULL COMMENT 'number of the bottle',
  test VARCHAR(8) NOT NULL COMMENT 'what was measured',
  farm INT NOT NULL,
  route VARCHAR(4),
  value DECIMAL(9,3) NOT NULL,
  unit VARCHAR(12),
  taken_on DATE NOT NULL,
  temperature DECIMAL(4,1) COMMENT 'of the milk, in degrees Celsius',
  remark VARCHAR(120),
  source_file VARCHAR(255) NOT NULL,
  loaded_by_run BIGINT,
  PRIMARY KEY (sample_no, test),
  KEY by_farm (farm, taken_on)
) ENGINE=InnoDB COMMENT='Results of the milk laboratory';
