"""What the person told us: the build document, one module a stage."""

from .document import FORMAT, VERSION, Build, Mark, json_schema, parse, upgraded
from .edit import apply_edit

__all__ = ["FORMAT", "VERSION", "Build", "Mark", "apply_edit", "json_schema", "parse", "upgraded"]
