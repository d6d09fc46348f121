-- Where the position of a bike is from that was carried to it and not ridden yet.
ALTER TABLE bikes ADD COLUMN carried TEXT;
