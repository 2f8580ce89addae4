"""Writes docs/project.schema.json from the model; run after the model changed."""

import json
from pathlib import Path

from korbent.core.model import Project

target = Path(__file__).parents[1] / "docs" / "project.schema.json"
target.write_text(json.dumps(Project.model_json_schema(mode="serialization"), indent=1) + "\n")
