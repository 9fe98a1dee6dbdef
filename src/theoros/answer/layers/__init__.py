"""The layers of marks that pictures are made of: a module each, a value that places itself."""
