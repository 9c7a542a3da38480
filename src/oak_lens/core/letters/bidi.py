"""The Unicode Bidirectional Algorithm (UAX 9): characters of a paragraph to levels, levels of a line to the order in which it is seen."""

import re
from collections.abc import Iterable, Sequence
from itertools import groupby
from unicodedata import bidirectional, category, mirrored, normalize

ISOLATES = ("LRI", "RLI", "FSI")
REMOVED = ("LRE", "RLE", "LRO", "RLO", "PDF", "BN")
DEEPEST = 125
"""Levels end here (BD2)."""

MOST_BRACKETS = 63
"""Brackets that may be open at once (BD16)."""

_OPENS = [c for c in range(0x28, 0xFF60) if category(chr(c)) == "Ps" and bidirectional(chr(c)) == "ON" and mirrored(chr(c))]
_NEXT = {0x298D: 0x2990, 0x298F: 0x298E}
CLOSING = {chr(c): normalize("NFC", chr(d)) for c in _OPENS for d in (c + 2, _NEXT.get(c, c + 1)) if category(chr(d)) == "Pe"}
"""Closing brackets by the opening ones (BD14, BD15)."""

_LETTER = {"L": "L", "R": "R", "AL": "A", "EN": "1", "AN": "2", "ES": "e", "CS": "c", "ET": "t", "NSM": "n"}
_SIDE = {"L": "L", "R": "R", "1": "R", "2": "R"}
_RIGHT_TO_LEFT = re.compile("[\u0590-\u08ff\u200f\u202a-\u202e\u2066-\u2069\ufb1d-\ufdff\ufe70-\ufeff\U00010800-\U00010fff\U0001e800-\U0001efff]")


def levels_of(text: str) -> list[int]:
    """The level of each character of a paragraph (no line ends in it), its base level that of its first strong character; odd levels run
    from right to left."""
    if not _RIGHT_TO_LEFT.search(text):
        return [0] * len(text)
    return levels(text)[0]


def _first_strong(kinds: Sequence[str], i: int, stop: int, ends: dict[int, int]) -> int:
    while i < stop and kinds[i] not in ("L", "R", "AL"):
        i = ends.get(i, len(kinds)) + 1 if kinds[i] in ISOLATES else i + 1
    return int(i < stop and kinds[i] != "L")


def levels(text: str, base: int | None = None, kinds: Sequence[str] | None = None) -> tuple[list[int], int]:
    """(level of each character of a paragraph, its base level). `base`: 0, 1 or None for that of the first strong character; `kinds`:
    bidirectional classes instead of the characters' own."""
    original = list(kinds) if kinds else [bidirectional(c) or "L" for c in text]
    kinds, ends, starts = list(original), dict[int, int](), dict[int, int]()
    waiting: list[int] = []
    for i, kind in enumerate(kinds):  # BD9
        if kind in ISOLATES:
            waiting.append(i)
        elif kind == "PDI" and waiting:
            starts[i] = waiting.pop()
            ends[starts[i]] = i
    base = _first_strong(kinds, 0, len(kinds), ends) if base is None else base
    found = _explicit(original, kinds, base, ends)
    runs = [list(group) for _, group in groupby((i for i, kind in enumerate(original) if kind not in REMOVED), found.__getitem__)]
    by_start, explicit = {run[0]: run for run in runs}, list(found)
    for run in runs:  # BD13
        if run[0] not in starts:
            while original[run[-1]] in ISOLATES and run[-1] in ends:
                run = run + by_start[ends[run[-1]]]
            _resolve(run, text, [kinds[i] for i in run], explicit, found, base, ends, original)
    for i in (i for i, kind in enumerate(original) if kind in REMOVED):
        found[i] = found[i - 1] if i else base
    trailing = True
    for i in reversed(range(len(original))):  # L1
        trailing = original[i] in ("B", "S") or (trailing and original[i] in ("WS", "PDI", *ISOLATES, *REMOVED))
        found[i] = base if trailing else found[i]
    return found, base


def _explicit(original: Sequence[str], kinds: list[str], base: int, ends: dict[int, int]) -> list[int]:
    """X1 to X8: the levels that embeddings and isolates say; `kinds` as overrides change them."""
    found = [base] * len(original)
    stack, over_isolates, over_embeddings = [(base, "", False)], 0, 0
    for i, kind in enumerate(original):
        level, override, _ = stack[-1]
        found[i] = base if kind == "B" else level
        if kind in ("RLE", "LRE", "RLO", "LRO", *ISOLATES):
            isolate = kind in ISOLATES
            kinds[i] = override if isolate and override else kind
            if kind == "FSI":
                kind = "RLI" if _first_strong(original, i + 1, ends.get(i, len(original)), ends) else "LRI"
            fresh = (level + 1) | 1 if kind[0] == "R" else (level + 2) & ~1
            if fresh <= DEEPEST and not over_isolates and not over_embeddings:
                stack.append((fresh, {"RLO": "R", "LRO": "L"}.get(kind, ""), isolate))
            else:
                over_isolates += isolate
                over_embeddings += not isolate and not over_isolates
        elif kind == "PDI":
            if over_isolates:
                over_isolates -= 1
            elif any(entry[2] for entry in stack):
                over_embeddings = 0
                del stack[max(d for d, entry in enumerate(stack) if entry[2]) :]
            found[i], kinds[i] = stack[-1][0], stack[-1][1] or kind
        elif kind == "PDF":
            if over_embeddings and not over_isolates:
                over_embeddings -= 1
            elif not over_isolates and not stack[-1][2] and len(stack) > 1:
                stack.pop()
        elif override and kind not in ("B", "BN"):
            kinds[i] = override
    return found


def _resolve(
    run: list[int],
    text: str,
    kinds: list[str],
    explicit: list[int],
    found: list[int],
    base: int,
    ends: dict[int, int],
    original: Sequence[str],
) -> None:
    """W1 to I2 for one isolating run sequence, as substitutions in a string of one letter a kind between two sentinels."""
    level, own = explicit[run[0]], "LR"[explicit[run[0]] & 1]

    def kept(indices: Iterable[int]) -> int:
        return next((explicit[i] for i in indices if original[i] not in REMOVED), base)

    before = kept(range(run[0] - 1, -1, -1))
    after = base if original[run[-1]] in ISOLATES and run[-1] not in ends else kept(range(run[-1] + 1, len(original)))
    letters = "".join(_LETTER.get(v) or ("i" if v == "PDI" or v in ISOLATES else "o") for v in kinds)
    k = "LR"[max(level, before) & 1] + letters + "LR"[max(level, after) & 1]
    k = re.sub("(.)(n+)", lambda m: m[1] + ("o" if m[1] == "i" else m[1]) * len(m[2]), k)  # W1
    k = re.sub("A[^LR]*", lambda m: m[0].replace("1", "2"), k).replace("A", "R")  # W2, W3
    k = re.sub("(?<=1)[ec](?=1)", "1", re.sub("(?<=2)c(?=2)", "2", k))  # W4
    k = re.sub("t+(?=1)|(?<=1)t+", lambda m: "1" * len(m[0]), k)  # W5
    k = re.sub("L[^R]*", lambda m: m[0].replace("1", "L"), re.sub("[ect]", "o", k))  # W6, W7
    sides = list(k)
    _pair_brackets(run, text, sides, own, original)
    k = "".join(sides)
    k = re.sub("(.)([oi]+)(?=(.))", lambda m: m[1] + (_SIDE[m[1]] if _SIDE[m[1]] == _SIDE[m[3]] else own) * len(m[2]), k)  # N1, N2
    for kind, i in zip(k[1:-1], run, strict=True):  # I1, I2
        found[i] = level + (kind != "R" if level & 1 else {"L": 0, "R": 1}.get(kind, 2))


def _pair_brackets(run: list[int], text: str, sides: list[str], own: str, original: Sequence[str]) -> None:
    """N0: brackets take the side of what they hold."""
    waiting: list[tuple[str, int]] = []
    pairs: list[tuple[int, int]] = []
    for j, i in enumerate(run if text else (), 1):
        if sides[j] == "o" and (closing := CLOSING.get(text[i])):
            waiting.append((closing, j))
            if len(waiting) > MOST_BRACKETS:
                break
        elif sides[j] == "o" and category(text[i]) == "Pe":
            depth = next((d for d in reversed(range(len(waiting))) if waiting[d][0] == normalize("NFC", text[i])), None)
            if depth is not None:
                pairs.append((waiting[depth][1], j))
                del waiting[depth:]
    for a, b in sorted(pairs):
        inside = {_SIDE[v] for v in sides[a + 1 : b] if v in _SIDE}
        take = own if own in inside else next(_SIDE[v] for v in reversed(sides[:a]) if v in _SIDE)
        for j in (a, b) if inside else ():
            sides[j] = take
            while j < len(run) and original[run[j]] == "NSM":
                j += 1
                sides[j] = take


def visual_order(found: Sequence[int]) -> list[int]:
    """Indices from left to right (L2)."""
    order = list(range(len(found)))
    for level in range(max(found, default=0), 0, -1):
        for run in re.finditer("1+", "".join("01"[found[i] >= level] for i in order)):
            order[run.start() : run.end()] = reversed(order[run.start() : run.end()])
    return order
