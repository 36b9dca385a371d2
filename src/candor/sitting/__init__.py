"""One person's sitting at the notebook: commands become entries. The window and the command line are its clients."""
