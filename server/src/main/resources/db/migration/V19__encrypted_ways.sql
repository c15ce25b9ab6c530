-- How the way to a database is kept from being read, and the certificate that its server has to show. The way to another
-- machine is encrypted unless somebody says otherwise; to this one it need not be.
ALTER TABLE connection
  ADD COLUMN tls VARCHAR(16) NOT NULL DEFAULT 'verified',
  ADD COLUMN certificate TEXT NULL;
UPDATE connection SET tls = 'off' WHERE host IN ('localhost', '::1', '') OR host LIKE '127.%';
