"""What core and notebook found, put into plain English: the one place where sentences about results are made."""
