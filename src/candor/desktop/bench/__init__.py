"""What the views share: the job in hand, the reading being drafted, what runs live, the shop."""
