"""The stop Soak: left on until it stands still, and how long it will stay so."""
