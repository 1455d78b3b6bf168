"""What is to be filmed so that it cuts: so far where the sun stands to a framing, and where one's own shadow falls."""
