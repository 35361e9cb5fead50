"""Packs values that a sign picks together, sixteen at a time, and lays them back.

Processors with registers of 512 bits have an instruction for either; elsewhere the
compiler writes sixteen tests.
"""

from __future__ import annotations

from typing import Any

from llvmlite import ir
from numba import types
from numba.core import cgutils
from numba.extending import intrinsic

LANES = 16
WORD = ir.FloatType()
VECTOR = ir.VectorType(WORD, LANES)


def _at(builder: Any, address: Any, kind: Any) -> Any:
    return builder.inttoptr(address, kind.as_pointer())


def _below_zero(builder: Any, address: Any) -> Any:
    signs = builder.load(_at(builder, address, VECTOR), align=4)
    return builder.fcmp_ordered("<", signs, VECTOR(None))


def _count(builder: Any, picked: Any) -> Any:
    bits = builder.bitcast(picked, ir.IntType(LANES))
    return builder.zext(builder.ctpop(bits), ir.IntType(64))


def _called(builder: Any, name: str, result: Any, given: list[Any]) -> Any:
    shape = ir.FunctionType(result, [one.type for one in given])
    whole = f"llvm.masked.{name}.v{LANES}f32"
    function = cgutils.get_or_insert_function(builder.module, shape, whole)
    return builder.call(function, given)


@intrinsic
def pack(_typing: Any, _signs: Any, _source: Any, _target: Any) -> Any:
    """Copy those of sixteen float32 whose sign is below zero, one after another.

    All three are addresses; returns how many there are.
    """

    def lower(_context: Any, builder: Any, _signature: Any, values: Any) -> Any:
        signs, source, target = values
        picked = _below_zero(builder, signs)
        every = builder.load(_at(builder, source, VECTOR), align=4)
        where = _at(builder, target, WORD)
        _called(builder, "compressstore", ir.VoidType(), [every, where, picked])
        return _count(builder, picked)

    return types.int64(types.int64, types.int64, types.int64), lower


@intrinsic
def unpack(_typing: Any, _signs: Any, _source: Any, _target: Any) -> Any:
    """Copy float32 that were packed to where their signs are below zero.

    All three are addresses; returns how many there are.
    """

    def lower(_context: Any, builder: Any, _signature: Any, values: Any) -> Any:
        signs, source, target = values
        picked = _below_zero(builder, signs)
        place = _at(builder, target, VECTOR)
        others = builder.load(place, align=4)
        packed = _at(builder, source, WORD)
        mixed = _called(builder, "expandload", VECTOR, [packed, picked, others])
        builder.store(mixed, place, align=4)
        return _count(builder, picked)

    return types.int64(types.int64, types.int64, types.int64), lower
