"""Moving-coil movements: balance, friction, resistance by half deflection, shunts and multipliers, and a substitute."""
