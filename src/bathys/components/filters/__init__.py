"""What holds back fines on a run, one file each; pads of fibre share one law."""
