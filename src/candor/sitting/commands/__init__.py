"""What can be done, by stop: each a function that returns a command. `candor.sitting.table` names them all."""
