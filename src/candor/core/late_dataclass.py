"""`dataclass` of the standard library, whose methods are made when a class is first used.

To make them (`__init__`, `__eq__`, `__hash__`, `__repr__`) takes a millisecond a class, and a window that starts names some
hundreds of classes of which it uses a few. A class is as `dataclasses.dataclass` makes it from its first instance, its first
comparison or the first look at its fields on; until then stand-ins keep their places.
"""

from __future__ import annotations

import dataclasses
from collections.abc import Callable
from threading import RLock
from typing import TYPE_CHECKING, Any

__all__ = ["dataclass"]
_CALLED = ("__init__", "__repr__", "__eq__", "__hash__")
_LOOKED_AT = ("__dataclass_fields__", "__dataclass_params__", "__match_args__")
_FROZEN = ("__setattr__", "__delattr__")
_OF_THE_CLASS_ALONE = ("__dict__", "__weakref__")
_LOCK = RLock()  # a class may be first used by two threads, and its bases by itself

if TYPE_CHECKING:
    from dataclasses import dataclass
else:

    def dataclass(cls: type | None = None, /, **how: bool) -> Any:
        """Return a class as `dataclasses.dataclass` does, its methods made at its first use.

        Parameters
        ----------
        cls : type
        **how : bool
            As of `dataclasses.dataclass`. A class with methods of its own in their places, or with more than `frozen` and
            `kw_only`, is made at once.

        Raises
        ------
        TypeError
            At the first use, where fields stand in an order that `dataclasses.dataclass` does not take.
        """

        def made(cls: type) -> type:
            own = vars(cls)
            if how.keys() - {"frozen", "kw_only"} or any(name in own for name in (*_CALLED, *_FROZEN)):
                return dataclasses.dataclass(cls, **how)
            make = _maker(cls, how)
            for name in _CALLED:
                setattr(cls, name, _first_call(cls, name, make))
            for name in _LOOKED_AT:
                setattr(cls, name, _FirstLook(cls, name, make))
            if how.get("frozen"):
                cls.__setattr__, cls.__delattr__ = (
                    _frozen(cls, "__setattr__"),
                    _frozen(cls, "__delattr__"),
                )
            return cls

        return made if cls is None else made(cls)


def _maker(cls: type, how: dict[str, bool]) -> Callable[[], None]:
    """Return what makes a class whole, once.

    The methods are made for a twin and put in their places one by one: whoever uses the class meanwhile finds a stand-in or the
    method itself, never neither.
    """
    waits = True

    def make() -> None:
        nonlocal waits
        with _LOCK:
            if not waits:
                return
            left_out = (*_CALLED, *_LOOKED_AT, *_FROZEN, *_OF_THE_CLASS_ALONE)
            own = {name: value for name, value in vars(cls).items() if name not in left_out}
            whole = vars(dataclasses.dataclass(type(cls)(cls.__name__, cls.__bases__, own), **how))
            for field in whole[
                "__dataclass_fields__"
            ]:  # a default stands in the class; one that a factory makes does not
                if field in own and field not in whole:
                    delattr(cls, field)
                elif field in whole:
                    setattr(cls, field, whole[field])
            for name in (*_LOOKED_AT, *_CALLED):
                setattr(cls, name, whole[name])
            waits = False

    return make


def _first_call(cls: type, name: str, make: Callable[[], None]) -> Callable[..., Any]:
    def first(self: Any, *values: Any, **named: Any) -> Any:
        make()
        return getattr(cls, name)(self, *values, **named)

    first.__name__, first.__qualname__ = name, f"{cls.__qualname__}.{name}"
    return first


def _frozen(cls: type, name: str) -> Callable[..., None]:
    def refuse(self: Any, field: str, *value: Any) -> None:
        if type(self) is cls or field in cls.__dataclass_fields__:  # type: ignore[attr-defined]
            raise dataclasses.FrozenInstanceError(field)
        getattr(super(cls, self), name)(field, *value)

    return refuse


class _FirstLook:
    """Stands where a class keeps what it says of its fields: the first look makes the class whole."""

    def __init__(self, cls: type, name: str, make: Callable[[], None]) -> None:
        self._cls, self._name, self._make = cls, name, make

    def __get__(self, instance: object, owner: type | None = None) -> Any:
        self._make()
        return vars(self._cls)[self._name]
