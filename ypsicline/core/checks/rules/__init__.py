"""One module a rule that a job is checked by, each with a function `check`."""
