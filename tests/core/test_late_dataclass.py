"""A class is what the standard library makes of it, whichever way it is first used; until then nothing of it is made."""

from __future__ import annotations

import copy
import dataclasses
import importlib
import pickle
import pkgutil
import threading

import pytest

import candor
from candor.core.late_dataclass import dataclass


@dataclass(frozen=True)
class Meant:
    one: int
    two: float = 2.5
    more: tuple[int, ...] = dataclasses.field(default_factory=tuple)


@dataclasses.dataclass(frozen=True)
class Meant2:
    one: int
    two: float = 2.5
    more: tuple[int, ...] = dataclasses.field(default_factory=tuple)


def late(**how):
    """One of its own for each test: the methods of a class are made once."""

    @dataclass(**how)
    class Made:
        one: int
        two: float = 2.5
        more: tuple[int, ...] = dataclasses.field(default_factory=tuple)

        @property
        def both(self):
            return self.one, self.two

    return Made


FIRST_USES = {
    "instance": lambda cls: cls(1),
    "fields": dataclasses.fields,
    "repr": lambda cls: repr(cls(1)),
    "is one": dataclasses.is_dataclass,
    "match": lambda cls: cls.__match_args__,
    "subclass": lambda cls: dataclasses.dataclass(frozen=True, kw_only=True)(
        type("Sub", (cls,), {"__annotations__": {"three": int}})
    )(1, three=3),
}


@pytest.mark.parametrize("first", FIRST_USES)
def test_whatever_looks_first_finds_a_data_class(first):
    cls = late(frozen=True)
    FIRST_USES[first](cls)
    assert [f.name for f in dataclasses.fields(cls)] == ["one", "two", "more"]
    assert (cls(1), cls(1).both, cls(1).more, cls(2) == cls(2, 2.5)) == (cls(one=1), (1, 2.5), (), True)
    assert dataclasses.replace(cls(1), two=3.0).both == (1, 3.0)
    assert (cls.two, hasattr(cls, "more"), cls.__match_args__) == (2.5, False, ("one", "two", "more"))
    assert len({cls(1), cls(1), cls(2)}) == 2
    match cls(7, 8.0):
        case cls(one, two):
            assert (one, two) == (7, 8.0)


def test_it_says_the_same_as_the_standard_library_does():
    one, other = Meant(1, more=(3,)), Meant2(1, more=(3,))
    assert repr(one) == repr(other).replace("Meant2", "Meant")
    assert hash(one) == hash(other)
    assert one != other
    assert dataclasses.asdict(one) == dataclasses.asdict(other)
    for deed in (
        lambda made: setattr(made, "one", 2),
        lambda made: delattr(made, "two"),
        lambda made: setattr(made, "new", 2),
    ):
        for made in (one, other):
            with pytest.raises(dataclasses.FrozenInstanceError):
                deed(made)
    with pytest.raises(TypeError, match="one"):
        Meant()
    plain = late()(1)
    plain.one = 5
    assert plain.one == 5
    with pytest.raises(TypeError, match="unhashable"):
        hash(plain)


def test_an_instance_from_elsewhere_is_whole():
    """Copied or sent by another process, it comes without its class having made one here."""
    assert pickle.loads(pickle.dumps(Meant(3))) == Meant(3)
    cls = late(frozen=True)
    one, other = cls.__new__(cls), cls.__new__(cls)
    for made in (one, other):
        vars(made).update(one=1, two=2.0, more=())
    assert one == other
    assert hash(copy.copy(one)) == hash(other)
    assert "one=1" in repr(one)
    with pytest.raises(dataclasses.FrozenInstanceError):
        one.one = 3


def test_fields_in_a_wrong_order_are_refused_at_the_first_use():
    @dataclass
    class Wrong:
        one: int = 1
        two: float

    with pytest.raises(TypeError, match="non-default argument"):
        Wrong(1, 2.0)


def test_threads_that_use_a_class_first_all_find_it_whole():
    found = []
    for _ in range(30):
        cls, start = late(frozen=True), threading.Barrier(8)

        def use(cls=cls, start=start):
            start.wait()
            found.append((cls(1) == cls(1), hash(cls(2)) == hash(cls(2)), len(dataclasses.fields(cls))))

        threads = [threading.Thread(target=use) for _ in range(8)]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
    assert found == [(True, True, 3)] * 240


def test_every_class_of_the_program_can_be_made():
    """Else a wrong order of fields would wait for whoever uses the class first."""
    names = [
        m.name
        for m in pkgutil.walk_packages(candor.__path__, "candor.")
        if "__main__" not in m.name and "migrations" not in m.name
    ]
    made = 0
    for module in map(importlib.import_module, names):
        for thing in vars(module).values():
            if (
                isinstance(thing, type)
                and thing.__module__ == module.__name__
                and "__dataclass_fields__" in vars(thing)
            ):
                assert isinstance(dataclasses.fields(thing), tuple)
                made += 1
    assert made > 500
