"""What a maker can do to a job: a frozen value per change, with its typed fields, its words for the history, and `on`."""
