"""Work that takes longer than a request: queued, told how far it is, stopped, taken up again, given up with a reason."""
