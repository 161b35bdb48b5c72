"""Pydantic in APIFlask: strict JSON in, and one flat list of schema names in the OpenAPI file."""

from __future__ import annotations

import json
from typing import Any

from apiflask.schema_adapters import registry
from apiflask.schema_adapters.pydantic import PydanticAdapter
from flask import Request
from pydantic import BaseModel, ValidationError

from cabrio.files.bounds import error_message, not_kept

from .problems import BadShape, UnsupportedType
from .schemas import AsSent, Problem


class StrictAdapter(PydanticAdapter):
    """Refuses other content types, `null` bodies and NaN; leaves errors to one handler."""

    def validate_input(self, request: Request, location: str, **kwargs: Any) -> Any:
        if location == "json" and not request.is_json:
            raise UnsupportedType()
        if issubclass(self.model_class, AsSent):
            return request.get_data()
        if location == "json":
            data = _parsed(request.get_data())
        else:
            data = dict(request.headers if location == "headers" else request.args)
        if (where := not_kept(data)) is not None:
            raise BadShape([(where, "there is a character in it that cannot be kept")])
        try:
            return self.model_class.model_validate(data)
        except ValidationError as problem:
            raise BadShape(_errors(problem)) from problem

    def serialize_output(self, data: Any, many: bool = False) -> Any:
        if many:
            return [self.serialize_output(one) for one in data]
        model = data if isinstance(data, BaseModel) else self.model_class.model_validate(data)
        return model.model_dump(mode="json")

    def get_openapi_schema(self, **kwargs: Any) -> dict[str, Any]:
        taken = self.model_class.__name__.endswith(("In", "Query"))
        template = f"#/components/schemas/{self.get_schema_name()}.{{model}}"
        schema: dict[str, Any] = self.model_class.model_json_schema(
            ref_template=template, mode="validation" if taken else "serialization"
        )
        return schema


def _parsed(body: bytes) -> Any:
    def refuse(name: str) -> float:
        raise BadShape([("", f"{name} is not a number")])

    def once_each(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
        found = dict(pairs)
        if len(found) != len(pairs):  # which of them counts would be anybody's guess
            raise BadShape([("", "a field stands twice in one object")])
        return found

    try:
        data = json.loads(body, parse_constant=refuse, object_pairs_hook=once_each)
    except (ValueError, RecursionError) as problem:
        raise BadShape([("", "the request is no valid JSON")]) from problem
    if not isinstance(data, dict):
        raise BadShape([("", "an object is expected")])
    return data


def _errors(problem: ValidationError) -> list[tuple[str, str]]:
    # a value may be several things: the first reason at each place is enough
    return [
        ("/".join(str(part) for part in error["loc"]), error_message(error))
        for error in problem.errors(include_url=False, include_input=False)
    ]


PROBLEM = {"$ref": "#/components/schemas/Problem"}


def register() -> None:
    """Before any route is declared."""
    registry.register("pydantic", StrictAdapter)


def flat_names(spec: dict[str, Any]) -> dict[str, Any]:
    """`Bench.Line` as `Line`; two different schemas of one name are an error, not a silent loss."""
    schemas = spec.get("components", {}).get("schemas", {})
    text = json.dumps(spec)
    for name in sorted(schemas, key=len, reverse=True):
        if "." in name:
            text = text.replace(
                f'#/components/schemas/{name}"', f'#/components/schemas/{name.split(".")[-1]}"'
            )
    flat: dict[str, Any] = json.loads(text)
    kept: dict[str, Any] = {}
    for name, schema in flat["components"]["schemas"].items():
        short = name.split(".")[-1]
        if short in kept and kept[short] != schema:
            raise ValueError(f"two different schemas are called {short}")
        kept[short] = schema
    problem = Problem.model_json_schema(ref_template="#/components/schemas/{model}")
    kept |= problem.pop("$defs") | {"Problem": problem}
    flat["components"]["schemas"] = dict(sorted(kept.items()))
    answer = {
        "description": "What was refused, as problem details",
        "content": {"application/problem+json": {"schema": PROBLEM}},
    }
    for path in flat["paths"].values():
        for operation in path.values():
            if isinstance(operation, dict) and "responses" in operation:
                operation["responses"]["default"] = answer
    return flat
