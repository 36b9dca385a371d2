"""The stops of the route, a folder for each."""
