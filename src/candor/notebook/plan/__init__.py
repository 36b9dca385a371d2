"""The shop's days as the notebook has them: what is next of each open job, how long such work takes here, the plan."""
