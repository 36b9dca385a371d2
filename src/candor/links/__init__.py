"""Links: instruments over VISA, and the simulated bench that stands in for them."""
