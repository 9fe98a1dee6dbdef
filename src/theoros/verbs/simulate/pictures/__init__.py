"""Pictures of replicates, samples and stages."""
