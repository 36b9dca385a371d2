"""The invented shop: Saltmarsh Bench. Every name, figure and date is made up."""
