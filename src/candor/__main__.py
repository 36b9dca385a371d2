"""`python -m candor`."""

from candor.cli import main

main()
