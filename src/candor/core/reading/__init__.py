"""From a needle, a scale and a reference to a value with its uncertainty."""
