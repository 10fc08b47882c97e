"""The stages, in the order of work. Each has `work_out(build, earlier results) -> Result` and its table of FIGURES."""
