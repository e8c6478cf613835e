"""What is answered, ready to be drawn and read."""
