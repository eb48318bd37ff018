"""What switches a pump, one file each."""
