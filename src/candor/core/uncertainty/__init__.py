"""Budget, degrees of freedom, coverage and Monte Carlo."""
