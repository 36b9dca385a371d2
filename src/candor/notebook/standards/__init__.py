"""What is read against: standards, chains, which fits."""
