"""One module a family of covers; none of them knows another."""
