"""What is drawn: outcomes, cases, samples, and procedures whose replicates are watched."""
