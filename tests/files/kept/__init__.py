"""What is kept beside projects."""
