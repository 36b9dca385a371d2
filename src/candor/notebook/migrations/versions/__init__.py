"""One module for each change of the notebook's shape."""
