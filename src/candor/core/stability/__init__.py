"""How steady something is: settling after switching on, Allan deviations, frequency by its phase."""
