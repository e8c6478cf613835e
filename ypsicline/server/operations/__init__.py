"""Running a workshop's server: its commands, its worker, its copies."""
