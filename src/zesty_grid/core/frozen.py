"""The base of all domain types: frozen, strict about unknown fields and what is a number."""

from typing import Any, cast

from pydantic import BaseModel, ConfigDict, GetCoreSchemaHandler
from pydantic_core import CoreSchema, core_schema

# The keys of an object are always text; what is known of a field holds no schema.
NO_NUMBERS = ("keys_schema", "metadata", "default")


def _no_truth(value: object) -> object:
    if isinstance(value, bool | str):
        raise ValueError("a whole number is wanted")
    return value


def _only_numbers(schema: Any, of: type[BaseModel]) -> Any:
    """The same schema of a model, in which neither `true` nor a text passes for a number. The
    models within it have been through this themselves."""
    if isinstance(schema, list | tuple):
        return type(schema)(_only_numbers(one, of) for one in schema)
    if not isinstance(schema, dict):
        return schema
    if schema.get("type") == "model" and schema["cls"] is not of:
        return schema
    if schema.get("type") == "float":
        return schema | {"strict": True}
    if schema.get("type") == "int":
        whole = cast(CoreSchema, schema)
        return core_schema.no_info_before_validator_function(_no_truth, whole, json_schema_input_schema=whole)
    return {key: value if key in NO_NUMBERS else _only_numbers(value, of) for key, value in schema.items()}


class Frozen(BaseModel):
    model_config = ConfigDict(frozen=True, extra="forbid")

    @classmethod
    def __get_pydantic_core_schema__(cls, source: type[BaseModel], handler: GetCoreSchemaHandler) -> CoreSchema:
        return cast(CoreSchema, _only_numbers(handler(source), cls))
