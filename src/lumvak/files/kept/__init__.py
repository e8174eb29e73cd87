"""What is kept on this machine beside projects: preferences, copies to recover, scores."""
