"""The rules of the job: a build document in, a plan out. No files, no clock, no network, no database."""
