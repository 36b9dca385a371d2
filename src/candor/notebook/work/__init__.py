"""A job as its entries leave it: the fold, states, assessment, guards, progress."""
