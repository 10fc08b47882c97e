"""Requests made from the interface's own description, by a fuzzer that knows it: none is answered by a 5xx, and none takes what the description does not say."""

import json
import pathlib
import unittest
from unittest import mock

import schemathesis
from hypothesis import HealthCheck, Phase, given, settings
from hypothesis.errors import Unsatisfiable

from tests import DEEP
from tests.builds import document
from tests.database import DatabaseCase
from tests.leaf import leaves
from uphill_spark.web import create_app
from uphill_spark.web.listening import Ears

ROOT = pathlib.Path(__file__).resolve().parents[2]
#: Of each operation, well-formed ones and ones that are not; a paper asks for nothing but a revision.
EACH, PAPER = (250, 20) if DEEP else (4, 1)


class Described(DatabaseCase):
    def test_every_operation_stands_what_its_description_allows_and_what_it_does_not(self) -> None:
        app = create_app(self.url)
        self.addCleanup(app.extensions["database"].close)
        client = app.test_client()
        no_process = mock.patch.object(Ears, "begin")  # a stand-in for each request would be a hundred of them
        no_process.start()
        self.addCleanup(no_process.stop)
        if not DEEP:
            leaves(self)
        build = client.post("/api/builds/import", data=json.dumps(document()), content_type="application/json").get_json()["id"]
        schema = schemathesis.openapi.from_dict(json.loads((ROOT / "frontend" / "openapi.json").read_text()))
        modes = (schemathesis.GenerationMode.POSITIVE, schemathesis.GenerationMode.NEGATIVE)
        tried = 0
        for result in schema.get_all_operations():
            operation = result.ok()
            for mode in modes:

                @settings(
                    max_examples=PAPER if operation.path.endswith((".pdf", ".zip")) else EACH,
                    deadline=None,
                    database=None,
                    derandomize=not DEEP,
                    phases=[Phase.generate],
                    suppress_health_check=list(HealthCheck),
                )
                @given(case=operation.as_strategy(generation_mode=mode))
                def one(case: schemathesis.Case) -> None:
                    nonlocal tried
                    tried += 1
                    if "build_id" in (case.path_parameters or {}) and case.method != "DELETE":
                        case.path_parameters["build_id"] = build  # so that it gets past the door
                    sent = case.as_transport_kwargs()
                    answer = client.open(
                        case.formatted_path, method=case.method, query_string=sent.get("params"), json=sent.get("json"), data=sent.get("data"),
                        headers={k: v for k, v in (sent.get("headers") or {}).items() if v.isascii() and v.isprintable()},
                    )  # fmt: skip
                    if answer.status_code >= 500:  # a stream is not read to its end to say that it is none
                        self.fail(f"{case.method} {case.formatted_path} {str(sent)[:300]} -> {answer.get_data()[:300]!r}")
                    answer.close()

                with self.subTest(f"{operation.method} {operation.path}", mode=mode.name):
                    try:
                        one()
                    except Unsatisfiable:  # nothing can be wrong where nothing is asked
                        continue
        self.assertGreater(tried, 150)


if __name__ == "__main__":
    unittest.main()
