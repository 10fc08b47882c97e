"""The web: one blueprint a resource, requests and answers as models, no arithmetic."""

from .app import create_app

__all__ = ["create_app"]
