"""How the reading of a photograph's pieces was learnt: views painted by lot, and a small network trained on them."""
