"""Parts of a job, and what the shop has, needs and awaits."""
