-- Readings are computed when they are asked for; what was kept of them nobody read.
DROP TABLE readings;
