"""What a run ends in, one file each."""
