"""The fewest moves that free two spaces, one above the other, on opposite legs.

With the panel dead, breakers can be lifted out and set again in any order, so what counts is how many devices end up
somewhere else. Let a set of devices be lifted. The spaces then free hold the rest again, and the new pair beside them,
exactly when

* they can be cut into one upright pair more than two-space devices were lifted, quads in pairs that take tandems,
* enough single spaces that take tandems are left for the lifted tandems, and
* two spaces more are free than before; idle devices that are taken out for good give theirs.

One pass down both columns finds the smallest such set: every space is kept, lifted, begun as a pair or left single, and
of all ways to reach the same balances the one with the fewest lifted devices is carried on.
"""

from __future__ import annotations

import functools
from typing import Final, NamedTuple

import msgspec

from awlmark.core.job.panel_face import Breaker, DeadFront

OUT: Final = 0
"""Where a device goes that is taken out for good."""
_WIDTHS: Final = (1, 2, 4, 999)
"""How many devices may be lifted, tried in turn; narrow searches are quick and the last one is whole."""


class Move(msgspec.Struct, frozen=True):
    """One device from one space to another."""

    breaker: str
    name: str
    from_space: int
    to_space: int
    """:data:`OUT` where it is taken out."""


class Freed(msgspec.Struct, frozen=True):
    """What it takes to free a pair of spaces."""

    pair: tuple[int, int] | None
    """Upper and lower space; None when no moves free any."""
    moves: tuple[Move, ...]
    empty: int
    """Empty spaces in the panel."""


class _State(NamedTuple):
    """What is known after a space: balances are capped at what can still be asked of them."""

    begun: int = 0
    """1 when the space above began a pair, 2 when it also takes tandems."""
    lifting: bool = False
    """Whether the device that reaches into the next space was lifted."""
    pairs: int = 0
    quads: int = 0
    tandems: int = 0
    gained: int = 0
    """Net spaces gained so far: free ones less those that lifted devices need again."""


class _Step(NamedTuple):
    moved: int
    before: _State | None
    lifted: Breaker | None
    laid: int
    """2 when the space begins a pair, 1 when it is left single, 0 when it is neither."""


def cells(breaker: Breaker) -> tuple[int, ...]:
    """Spaces a device takes."""
    return (breaker.space, breaker.space + 2) if breaker.poles == 2 or breaker.tied else (breaker.space,)


def takes_tandems(front: DeadFront, space: int) -> bool:
    """Whether a space takes tandems and quads."""
    return front.tandem_from is not None and space >= front.tandem_from


def fewest_moves(front: DeadFront) -> Freed:
    """Free two adjacent spaces on opposite legs with the fewest devices moved.

    Parameters
    ----------
    front : DeadFront
        The panel; fixed, main and back-fed devices stay, idle ones with both proofs may be taken out.

    Returns
    -------
    Freed
        A pair with the fewest moves, in an order that can be followed.
    """
    return _fewest(msgspec.json.encode(front))


@functools.lru_cache(maxsize=32)
def _fewest(encoded: bytes) -> Freed:
    """The search, kept by its whole input: most edits of a job leave the panel alone."""
    front = msgspec.json.decode(encoded, type=DeadFront)
    taken = {space for breaker in front.breakers for space in cells(breaker)}
    empty = {space for space in range(1, front.spaces + 1) if space not in taken}
    removable = sum(len(cells(breaker)) for breaker in front.breakers if breaker.spare)
    if len(empty) + removable >= 2:
        for most in _WIDTHS:
            found = _search(front, len(empty), most)
            if found is not None:
                return _settled(front, empty, *found)
    return Freed(None, (), len(empty))


def _search(front: DeadFront, empty: int, most: int) -> tuple[list[Breaker], list[int], list[int]] | None:
    """Lifted devices, upper spaces of the pairs laid, single spaces left; None where no set of ``most`` does."""
    order = [*range(1, front.spaces + 1, 2), *range(2, front.spaces + 1, 2)]
    owner = {space: breaker for breaker in front.breakers for space in cells(breaker)}
    ahead = _still_ahead(front, order)
    layers: list[dict[_State, _Step]] = [{_State(gained=min(empty, 2)): _Step(0, None, None, 0)}]
    for place, space in enumerate(order):
        breaker = owner.get(space)
        bottom = place + 1 == len(order) or order[place + 1] < space or space + 2 > front.spaces
        layer: dict[_State, _Step] = {}
        for state, step in layers[-1].items():
            for lifted, free, freed in _choices(state, breaker, space):
                moved = step.moved + (lifted is not None)
                if moved > most or (not free and state.begun):
                    continue
                after = _after(freed, lifted)
                for laid, next_state in _laid(after, free, takes_tandems(front, space), bottom):
                    room = most - moved
                    capped = next_state._replace(
                        pairs=min(next_state.pairs, 1 + min(ahead[place][0], room)),
                        quads=min(next_state.quads, min(ahead[place][1], room)),
                        tandems=min(next_state.tandems, min(ahead[place][2], room)),
                    )
                    known = layer.get(capped)
                    if known is None or moved < known.moved:
                        layer[capped] = _Step(moved, state, lifted, laid)
        layers.append(layer)
    done = [
        (step.moved, state)
        for state, step in layers[-1].items()
        if state.pairs >= 1 and state.quads >= 0 and state.tandems >= 0 and state.gained >= 2
    ]
    if not done:
        return None
    at: _State | None = min(done, key=lambda one: one[0])[1]
    lifted_ones: list[Breaker] = []
    uppers: list[int] = []
    singles: list[int] = []
    for place in range(len(order), 0, -1):
        assert at is not None
        step = layers[place][at]
        if step.lifted is not None:
            lifted_ones.append(step.lifted)
        if step.laid:
            (uppers if step.laid == 2 else singles).append(order[place - 1])
        at = step.before
    return lifted_ones, sorted(uppers), sorted(singles)


def _still_ahead(front: DeadFront, order: list[int]) -> list[tuple[int, int, int]]:
    """After each space: two-space devices, quads and tandems that can still be lifted."""
    rank = {space: place for place, space in enumerate(order)}
    wide, quads, tandems = ([0] * len(order) for _ in range(3))
    for breaker in front.breakers:
        if not breaker.stays:
            at = rank[breaker.space]
            wide[at] += len(cells(breaker)) == 2
            quads[at] += breaker.quad
            tandems[at] += breaker.tandem
    return [(sum(wide[n + 1 :]), sum(quads[n + 1 :]), sum(tandems[n + 1 :])) for n in range(len(order))]


def _choices(state: _State, breaker: Breaker | None, space: int) -> list[tuple[Breaker | None, bool, _State]]:
    """What can be done at a space: the device lifted there, whether the space is free, the state carried on."""
    if breaker is None:
        return [(None, True, state._replace(lifting=False))]
    if space != breaker.space:
        return [(None, state.lifting, state._replace(lifting=False))]
    two = len(cells(breaker)) == 2
    kept: tuple[Breaker | None, bool, _State] = (None, False, state._replace(lifting=False))
    return [kept] if breaker.stays else [kept, (breaker, True, state._replace(lifting=two))]


def _after(state: _State, lifted: Breaker | None) -> _State:
    """Balances once a device is lifted."""
    if lifted is None:
        return state
    if lifted.spare:
        return state._replace(gained=min(state.gained + len(cells(lifted)), 2))
    return state._replace(
        pairs=state.pairs - (len(cells(lifted)) == 2),
        quads=state.quads - lifted.quad,
        tandems=state.tandems - lifted.tandem,
    )


def _laid(state: _State, free: bool, takes: bool, bottom: bool) -> list[tuple[int, _State]]:
    """Ways to use a space."""
    if not free:
        return [(0, state)]
    if state.begun:
        both = state.begun == 2 and takes
        return [(0, state._replace(begun=0, pairs=state.pairs + 1, quads=state.quads + both))]
    single = (1, state._replace(tandems=state.tandems + takes))
    return [single] if bottom else [single, (2, state._replace(begun=2 if takes else 1))]


def _settled(front: DeadFront, empty: set[int], lifted: list[Breaker], uppers: list[int], singles: list[int]) -> Freed:
    """Give every lifted device its new space, and order the moves."""
    placed: dict[str, int] = {breaker.id: OUT for breaker in lifted if breaker.spare}
    others = [breaker for breaker in lifted if not breaker.spare]
    pairs = list(uppers)
    for breaker in (one for one in others if one.quad):
        placed[breaker.id] = next(at for at in reversed(pairs) if takes_tandems(front, at))
        pairs.remove(placed[breaker.id])
    pair = pairs.pop(0)
    for breaker in (one for one in others if len(cells(one)) == 2 and not one.quad):
        placed[breaker.id] = pairs.pop(0)
    # Pairs that nothing needs are single spaces again; those that take tandems go to tandems last of all.
    left = sorted({*singles, *pairs, *(at + 2 for at in pairs)}, key=lambda at: (takes_tandems(front, at), at))
    for breaker in (one for one in others if one.tandem):
        placed[breaker.id] = left.pop()
    for breaker in (one for one in others if len(cells(one)) == 1 and not one.tandem):
        placed[breaker.id] = left.pop(0)
    return Freed((pair, pair + 2), _in_order(lifted, placed, empty), len(empty))


def _in_order(moved: list[Breaker], placed: dict[str, int], empty: set[int]) -> tuple[Move, ...]:
    """Moves so that each goes where it is empty by then; a ring of moves is begun by setting its first device aside."""

    def target(breaker: Breaker) -> set[int]:
        new = placed[breaker.id]
        return set() if new == OUT else {new + 2 * step for step in range(len(cells(breaker)))}

    waiting, free, found = sorted(moved, key=lambda one: (placed[one.id] != OUT, one.space)), set(empty), []
    while waiting:
        breaker = next((one for one in waiting if target(one) <= free | set(cells(one))), waiting[0])
        waiting.remove(breaker)
        free = (free | set(cells(breaker))) - target(breaker)
        found.append(Move(breaker.id, breaker.name or f"space {breaker.space}", breaker.space, placed[breaker.id]))
    return tuple(found)
