"""Tables and travelling jobs, in and out."""
