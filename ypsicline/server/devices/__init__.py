"""What a workshop photographs and measures with."""
