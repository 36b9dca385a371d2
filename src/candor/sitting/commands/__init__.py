"""What can be done, by stop: each a function that returns a command. `candor.sitting.all_commands` names them all."""
