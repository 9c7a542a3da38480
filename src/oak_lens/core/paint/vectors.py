"""What a compiler does not turn into the machine's vectors by itself, written as such: sums of neighbouring pixels, of a pixel's channels, and
memory asked for ahead. All are functions for compiled code, of addresses."""

from typing import Any

from llvmlite import ir
from numba import extending, types

intrinsic: Any = extending.intrinsic
"""What it makes is called without the type context its maker is given, which type checkers cannot know."""

UNIT = 14
"""Bits of the weights of a pixel's neighbours: bytes are multiplied and summed in signed 16-bit pairs."""

LUMA = (5983, 20127, 2032, 0)
LUMA_BITS, LUMA_PLUS = 15, 540672
BLUE, RED = (-6596, -22189, 28785, 0), (28785, -26145, -2640, 0)
CHROMA_BITS, CHROMA_PLUS = 19, 67371008
"""BT.709, limited range (ITU-R BT.709-6, 3.5), of R, G, B, A: in 15 bits for a pixel; in 16 for one of eight times its value."""

VECTOR, FRACTION, BYTE, WORD, NUMBER, ADDRESS = ir.VectorType, ir.FloatType(), *(ir.IntType(n) for n in (8, 16, 32, 64))


def _shuffled(b: Any, one: Any, other: Any, order: list[int]) -> Any:
    return b.shuffle_vector(one, other, ir.Constant(VECTOR(NUMBER, len(order)), order))


def _load(b: Any, at: Any, kind: Any, align: int = 1) -> Any:
    return b.load(b.inttoptr(at, kind.as_pointer()), align=align)


def _store(b: Any, value: Any, at: Any) -> None:
    b.store(value, b.inttoptr(at, value.type.as_pointer()), align=1)


def _number(value: int, like: Any) -> Any:
    return ir.Constant(like, [value] * like.count)


def _of_pairs(b: Any, vector: Any) -> Any:
    """Sums of elements 2k and 2k + 1."""
    return b.add(*(_shuffled(b, vector, vector, list(range(first, vector.type.count, 2))) for first in (0, 1)))


def _joined(b: Any, parts: list[Any]) -> Any:
    while len(parts) > 1:
        parts = [_shuffled(b, x, y, list(range(2 * x.type.count))) for x, y in zip(parts[::2], parts[1::2], strict=True)]
    return parts[0]


def _taps(context: Any, b: Any, signature: Any, args: Any) -> Any:
    """Four pixels at `to`: sums of 2 x 2 pixels of one or two sprites; offsets and weights lie in arrays."""

    def line(base: Any, offsets: Any, weights: Any) -> Any:
        eights = []
        for k in range(4):
            offset = b.zext(b.extract_element(offsets, ir.Constant(NUMBER, k)), ADDRESS)
            eights.append(_load(b, b.add(base, offset), VECTOR(BYTE, 8)))
        pairs = [_shuffled(b, eights[k], eights[k + 1], list(range(16))) for k in (0, 2)]
        # Left and right neighbour of one channel side by side.
        both = _shuffled(b, pairs[0], pairs[1], [8 * pixel + side + c for pixel in range(4) for c in range(4) for side in (0, 4)])
        spread = b.bitcast(_shuffled(b, weights, weights, [pixel for pixel in range(4) for _ in range(4)]), VECTOR(WORD, 32))
        return _of_pairs(b, b.mul(b.zext(both, VECTOR(NUMBER, 32)), b.sext(spread, VECTOR(NUMBER, 32))))

    thresholds = _load(b, args[1], VECTOR(NUMBER, 4))
    total = _shuffled(b, thresholds, thresholds, [pixel for pixel in range(4) for _ in range(4)])
    for level in range((len(args) - 2) // 5):
        base, below, offsets, upper, lower = args[2 + 5 * level : 7 + 5 * level]
        at, up, low = (_load(b, a, VECTOR(NUMBER, 4), 4) for a in (offsets, upper, lower))
        total = b.add(total, b.add(line(base, at, up), line(b.add(base, below), at, low)))
    _store(b, b.trunc(b.lshr(total, _number(UNIT, total.type)), VECTOR(BYTE, 16)), args[0])
    return context.get_dummy_value()


def _sharp(context: Any, b: Any, signature: Any, args: Any) -> Any:
    """Four pixels at `to`: sums of 4 x 4 pixels of one or two sprites; offsets and weights lie in arrays. Of each row the two on the left come
    first, a channel's side by side, as words, and then the two on the right."""
    words, nothing = VECTOR(WORD, 32), _number(0, VECTOR(BYTE, 64))
    # A byte and a zero are a word.
    beside = [
        [16 * pixel + first + c if low else 64 for pixel in range(4) for c in range(4) for first in ends for low in (1, 0)]
        for ends in ((0, 4), (8, 12))
    ]
    to_all = [pixel for pixel in range(4) for _ in range(4)]
    thresholds = _load(b, args[1], VECTOR(NUMBER, 4))
    total = _shuffled(b, thresholds, thresholds, to_all)
    for level in range((len(args) - 2) // 4):
        base, below, offsets, weights = args[2 + 4 * level : 6 + 4 * level]
        at = _load(b, offsets, VECTOR(NUMBER, 4), 4)
        starts = [b.add(base, b.zext(b.extract_element(at, ir.Constant(NUMBER, k)), ADDRESS)) for k in range(4)]
        for row in range(4):
            sixteen = _joined(b, [_load(b, start, VECTOR(BYTE, 16)) for start in starts])
            for side in range(2):
                share = _load(b, b.add(weights, ir.Constant(ADDRESS, 128 * row + 64 * side)), VECTOR(NUMBER, 4), 4)
                ofs = [b.bitcast(v, words) for v in (_shuffled(b, sixteen, nothing, beside[side]), _shuffled(b, share, share, to_all))]
                total = b.add(total, _of_pairs(b, b.mul(*(b.sext(v, VECTOR(NUMBER, 32)) for v in ofs))))
            starts = [b.add(start, below) for start in starts]
    # What swings beyond black, white or its own opacity ends there.
    whole = b.ashr(total, _number(UNIT, total.type))
    whole = _least(b, _most(b, whole, _number(0, whole.type)), _number(255, whole.type))
    whole = _least(b, whole, _shuffled(b, whole, whole, [4 * pixel + 3 for pixel in to_all]))
    _store(b, b.trunc(whole, VECTOR(BYTE, 16)), args[0])
    return context.get_dummy_value()


def _shares(context: Any, b: Any, signature: Any, args: Any) -> Any:
    """Of sixteen places: what is left of the weights of four pixels in a row, two side by side, by the weights of four rows."""
    left, right, *downs, whole, to = args
    words, numbers = VECTOR(WORD, 32), VECTOR(NUMBER, 32)
    pairs = [b.bitcast(_load(b, at, VECTOR(NUMBER, 16)), words) for at in (left, right)]
    downs = [b.bitcast(_load(b, at, VECTOR(NUMBER, 16)), words) for at in downs]
    # The higher halves of products: the machine has them in one step.
    made = [b.trunc(b.lshr(b.mul(b.sext(pair, numbers), b.sext(down, numbers)), _number(16, numbers)), words) for down in downs for pair in pairs]
    total = made[0]
    for one in made[1:]:
        total = b.add(total, one)
    # What rounding leaves is the second pixel's of the second row.
    total = b.bitcast(total, VECTOR(NUMBER, 16))
    sums = b.and_(b.add(total, b.shl(total, _number(16, total.type))), _number(-65536, total.type))
    one = b.insert_element(ir.Constant(total.type, ir.Undefined), b.shl(b.trunc(whole, NUMBER), ir.Constant(NUMBER, 16)), ir.Constant(NUMBER, 0))
    rest = b.sub(_shuffled(b, one, one, [0] * 16), sums)
    made[2] = b.add(made[2], b.bitcast(rest, words))
    for k, one in enumerate(made):
        _store(b, one, b.add(to, ir.Constant(ADDRESS, 64 * k)))
    return context.get_dummy_value()


def _least(b: Any, one: Any, other: Any) -> Any:
    return b.select(b.icmp_signed("<", one, other), one, other)


def _most(b: Any, one: Any, other: Any) -> Any:
    return b.select(b.icmp_signed(">", one, other), one, other)


def _moved(context: Any, b: Any, signature: Any, args: Any) -> Any:
    """Four pixels at `to`: sums of 2 x 2 pixels that lie side by side, with the same weights each."""
    to, noise, above, below, upper, lower = args
    thresholds = _load(b, noise, VECTOR(NUMBER, 4))
    total = _shuffled(b, thresholds, thresholds, [pixel for pixel in range(4) for _ in range(4)])
    for at, weights in ((above, upper), (below, lower)):
        left, right = (_load(b, b.add(at, ir.Constant(ADDRESS, way)), VECTOR(BYTE, 16)) for way in (0, 4))
        both = _shuffled(b, left, right, [side + k for k in range(16) for side in (0, 16)])
        one = b.insert_element(ir.Constant(VECTOR(NUMBER, 16), ir.Undefined), b.trunc(weights, NUMBER), ir.Constant(NUMBER, 0))
        spread = b.bitcast(_shuffled(b, one, one, [0] * 16), VECTOR(WORD, 32))
        total = b.add(total, _of_pairs(b, b.mul(b.zext(both, VECTOR(NUMBER, 32)), b.sext(spread, VECTOR(NUMBER, 32)))))
    _store(b, b.trunc(b.lshr(total, _number(UNIT, total.type)), VECTOR(BYTE, 16)), to)
    return context.get_dummy_value()


def _luma(context: Any, b: Any, signature: Any, args: Any) -> Any:
    to, at = args
    weights = ir.Constant(VECTOR(NUMBER, 16), list(LUMA) * 4)
    fours = []
    for k in range(4):
        pixels = _load(b, b.add(at, ir.Constant(ADDRESS, 16 * k)), VECTOR(BYTE, 16))
        fours.append(_of_pairs(b, _of_pairs(b, b.mul(b.zext(pixels, weights.type), weights))))
    total = _joined(b, fours)
    whole = b.lshr(b.add(total, _number(LUMA_PLUS, total.type)), _number(LUMA_BITS, total.type))
    _store(b, b.trunc(whole, VECTOR(BYTE, 16)), to)
    return context.get_dummy_value()


def _chroma(context: Any, b: Any, signature: Any, args: Any) -> Any:
    to_blue, to_red, upper, lower = args
    words = VECTOR(WORD, 32)

    def both(way: int) -> Any:
        """Eight pixels of both rows, summed."""
        rows = [b.zext(_load(b, b.add(at, ir.Constant(ADDRESS, way)), VECTOR(BYTE, 32)), words) for at in (upper, lower)]
        return b.add(*rows)

    before, after = both(-4), both(4)
    even, odd = ([4 * pixel + c for pixel in range(first, 8, 2) for c in range(4)] for first in (0, 1))
    left, middle, right = _shuffled(b, before, before, even), _shuffled(b, before, before, odd), _shuffled(b, after, after, even)
    total = b.add(b.add(left, right), b.add(middle, middle))
    for to, weights in ((to_blue, BLUE), (to_red, RED)):
        scaled = b.mul(b.sext(total, VECTOR(NUMBER, 16)), ir.Constant(VECTOR(NUMBER, 16), list(weights) * 4))
        summed = _of_pairs(b, _of_pairs(b, scaled))
        whole = b.lshr(b.add(summed, _number(CHROMA_PLUS, summed.type)), _number(CHROMA_BITS, summed.type))
        _store(b, b.trunc(whole, VECTOR(BYTE, 4)), to)
    return context.get_dummy_value()


def _mix(context: Any, b: Any, signature: Any, args: Any) -> Any:
    to, above, amount = args
    words, numbers = VECTOR(WORD, 32), VECTOR(NUMBER, 32)
    first, second = (b.zext(_load(b, at, VECTOR(BYTE, 32)), words) for at in (to, above))
    few = b.insert_element(ir.Constant(words, ir.Undefined), b.trunc(amount, WORD), ir.Constant(NUMBER, 0))
    share = _shuffled(b, few, few, [0] * 32)
    # The machine's own product of fractions: shifted, rounded, shifted again.
    product = b.lshr(b.mul(b.sext(b.sub(second, first), numbers), b.sext(share, numbers)), _number(14, numbers))
    change = b.trunc(b.lshr(b.add(product, _number(1, numbers)), _number(1, numbers)), words)
    _store(b, b.trunc(b.add(first, change), VECTOR(BYTE, 32)), to)
    return context.get_dummy_value()


def _shaded(context: Any, b: Any, signature: Any, args: Any) -> Any:
    to, opacities, dither, *colour = args
    fractions, numbers = VECTOR(FRACTION, 8), VECTOR(NUMBER, 8)
    alpha, noise, pixels = _load(b, opacities, fractions), _load(b, dither, fractions), _load(b, to, numbers)
    noise = b.select(b.fcmp_ordered(">", alpha, _number(0, fractions)), noise, _number(0, fractions))
    keep, made = b.fsub(_number(1, fractions), alpha), _number(-16777216, numbers)
    for place, of in zip((0, 8, 16), colour, strict=True):
        one = b.insert_element(ir.Constant(fractions, ir.Undefined), of, ir.Constant(NUMBER, 0))
        ink = b.fadd(b.fmul(_shuffled(b, one, one, [0] * 8), alpha), noise)
        here = b.sitofp(b.and_(b.lshr(pixels, _number(place, numbers)), _number(255, numbers)), fractions)
        made = b.or_(made, b.shl(b.fptosi(b.fadd(b.fmul(here, keep), ink), numbers), _number(place, numbers)))
    _store(b, made, to)
    return context.get_dummy_value()


@intrinsic
def prefetch(typing, at):  # type: ignore[no-untyped-def]
    """Asks for the memory at an address, which need not be one."""

    def codegen(context: Any, b: Any, signature: Any, args: Any) -> Any:
        number = ir.IntType(32)
        pointer = b.inttoptr(args[0], ir.IntType(8).as_pointer())
        kind = ir.FunctionType(ir.VoidType(), [pointer.type, number, number, number])
        known = b.module.globals.get("llvm.prefetch.p0") or ir.Function(b.module, kind, "llvm.prefetch.p0")
        b.call(known, [pointer, number(0), number(3), number(1)])
        return context.get_dummy_value()

    return types.void(types.int64), codegen


@intrinsic
def four_of_one(typing, to, noise, base, below, at, upper, lower):  # type: ignore[no-untyped-def]
    """Addresses: where four pixels go, what is added before they are cut to whole levels, the sprite, the sprite's bytes per row, and of four
    pixels the offsets and weights (see `placing`)."""
    return types.void(*[types.int64] * 7), _taps


@intrinsic
def four_of_two(typing, to, noise, base, below, at, upper, lower, base2, below2, at2, upper2, lower2):  # type: ignore[no-untyped-def]
    """The same of two sprites, whose weights sum to one together."""
    return types.void(*[types.int64] * 12), _taps


@intrinsic
def sixteen_shares(typing, left, right, down0, down1, down2, down3, whole, to):  # type: ignore[no-untyped-def]
    """Of sixteen places: weights of 4 x 4 pixels, that sum to `whole`, as eight rows at `to`: of each row of four the first two side by side, the
    second in the higher half, and then the last two. `left`, `right`: such pairs across, in all twice as much; `down0` ...: each row's share of
    2^15, twice side by side."""
    return types.void(*[types.int64] * 8), _shares


@intrinsic
def four_sharp(typing, to, noise, base, below, at, weights):  # type: ignore[no-untyped-def]
    """The same of four pixels that are each 4 x 4 of the sprite's: offsets are of the first of them, weights by `sixteen_shares`. No result lies
    beyond 0, 255 or its own opacity."""
    return types.void(*[types.int64] * 6), _sharp


@intrinsic
def four_sharp_of_two(typing, to, noise, base, below, at, weights, base2, below2, at2, weights2):  # type: ignore[no-untyped-def]
    """The same of two sprites, whose weights sum to one together."""
    return types.void(*[types.int64] * 10), _sharp


@intrinsic
def four_moved(typing, to, noise, above, below, upper, lower):  # type: ignore[no-untyped-def]
    """The same of four pixels side by side whose weights are all alike: addresses of the first's neighbours above and below, and their weights,
    the right one's in the higher half."""
    return types.void(*[types.int64] * 6), _moved


@intrinsic
def sixteen_of_luma(typing, to, at):  # type: ignore[no-untyped-def]
    """Luma of sixteen RGBA pixels at `at`, sixteen bytes at `to`."""
    return types.void(types.int64, types.int64), _luma


@intrinsic
def four_of_chroma(typing, to_blue, to_red, upper, lower):  # type: ignore[no-untyped-def]
    """Four chroma samples of each kind, sited left, of eight RGBA pixels of two rows at `upper` and `lower` and their neighbours: one pixel
    before them and one after are read as well."""
    return types.void(*[types.int64] * 4), _chroma


@intrinsic
def eight_mixed(typing, to, above, amount):  # type: ignore[no-untyped-def]
    """Eight pixels at `to` mixed with those at `above`; amount 0..32767 of 32768 is the latter's share."""
    return types.void(types.int64, types.int64, types.int64), _mix


@intrinsic
def eight_shaded(typing, to, opacities, dither, red, green, blue):  # type: ignore[no-untyped-def]
    """Eight opaque pixels at `to` mixed with a colour 0..255 by opacities 0..1, all float32, to whole levels by what is added of `dither`."""
    return types.void(types.int64, types.int64, types.int64, types.float32, types.float32, types.float32), _shaded
