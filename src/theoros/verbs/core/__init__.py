"""What every verb is made of: statements, slots, phrases, and the register of verbs."""
