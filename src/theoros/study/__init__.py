"""The study: tables, entries and report; its edits, journal, file and exports."""
