"""What footage shows of how it was filmed. Frames come in one after the other; measures come out, or doubts."""
