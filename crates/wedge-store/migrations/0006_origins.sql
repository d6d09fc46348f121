-- Where numbers are from: what of a bike was filled in from an ordinary one. Unknown of the bikes there were.

ALTER TABLE bikes ADD COLUMN usual TEXT;
