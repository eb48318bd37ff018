"""A dip tube: a side outlet that draws from the floor."""
