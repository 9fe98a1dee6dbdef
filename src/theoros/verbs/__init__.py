"""One room for each verb: its statement, its sentence, its answer."""
