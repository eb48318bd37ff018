"""What is done with boards and their readings; each knows no request."""
