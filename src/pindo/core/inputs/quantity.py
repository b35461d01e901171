"""What a person typed, understood: fractions, either unit, comma, ±, ranges, drills, threads, shop
forms, arithmetic, words.

The grammar is a small recursive descent; nothing is ever evaluated as code. What could be read in
two ways is asked about (:class:`AskAgain`), never guessed, and the text stays with whoever typed
it.
"""

import re
from collections.abc import Collection
from dataclasses import dataclass
from functools import lru_cache

from pindo.core.inputs.quantity_reader import (
    _DASH,
    MIXED,
    MOST,
    AmountReader,
    AskAgain,
    EntryError,
    number_of,
)
from pindo.core.inputs.threads import INCH_MM, thread_words, threads
from pindo.core.inputs.units import KINDS, Kind, echo_inches, to_base, wire_section_mm2
from pindo.core.tables import read_table

MAX_LENGTH = 120  # characters in one entry: a note belongs in the note
ABOUT_SHARE, ABOUT_LEAST_MM = 0.10, 2.0  # ± of "about 20"; proposed


@dataclass(frozen=True, kw_only=True)
class Entry:
    """What an entry means. ``value`` and ``pm`` are in the base unit of the kind; a word has
    neither.
    """

    typed: str
    value: float | None
    pm: float | None = None
    word: str | None = None
    span: tuple[float, float] | None = None
    """Both ends where a range was typed: the value is its middle, the ± its half."""
    about: bool = False
    """Said with ``about``: a guess unless its source says more."""
    pitch: float | None = None
    """Pitch that a thread's name carries. [mm]"""


_PM = re.compile(r"±|\+/-|\+-")
_WORD = re.compile(r"^[^\W\d_][^\d]*[^\W\d_?!.]$")
_GAUGE_WIRE = re.compile(
    r"^(?:(\d)/0(?:\s*(?:awg|ga|gauge))?|(\d{1,2})\s*(?:awg|ga|gauge))$", re.IGNORECASE
)
_PITCH = re.compile(r"^([\d.]+)\s*dp$", re.IGNORECASE)
_DRILL = re.compile(r"^(?:drill\s+)?([A-Z]|#\d{1,2})(?:\s+drill)?$")
_INSTRUMENT = re.compile(
    r"^\d{2}[A-Z](?=[+-]\d)"
)  # channel and datum mark in front of a gauge's reading: 01A+0017.46
_ABOUT = re.compile(
    r"^(?:about|approx\.?|approximately|ca\.?|circa|roughly|~)\s*(?=\S)", re.IGNORECASE
)
_TAKEN_OVER = re.compile(
    r"\s*(?:\b(?:o\.?d\.?|i\.?d\.?|dia\.?|diameter|outside|inside|bore)|[øØ⌀])\s*$|^\s*[øØ⌀]\s*",
    re.IGNORECASE,
)
_FASTENER = re.compile(
    r"\b(?:bolts?|screws?|nuts?|studs?|spanner|wrench|socket|a/?f|across flats)\b", re.IGNORECASE
)
_BY_NUMBER = re.compile(r"number\s+(?:\w+)", re.IGNORECASE)
_OVER_MORE = re.compile(r"\bover\s+(?:the\s+|its\s+)?(?:bead|barb|threads?|head)\b", re.IGNORECASE)
_RATIO = re.compile(r"^([\d.,]+)\s*:\s*([\d.,]+)$")
_CURRENCY = re.compile(r"^[€$£¥]\s*|\s*[€$£¥]$")
_METRIC_THREAD = re.compile(
    r"^M\s*(\d+(?:[.,]\d+)?)(?:\s*[x×*]\s*(\d+(?:[.,]\d+)?))?$", re.IGNORECASE
)
_INCH_THREAD = re.compile(
    r"^((?:\d+\s*/\s*\d+|1|(?:no\.?|#)\s*\d{1,2}))(?:\s*(?:in|\"))?(?:\s*-\s*(\d{1,2}))?\s*(unc|unf|un)?$",
    re.IGNORECASE,
)
_VULGAR = {
    "½": "1/2",
    "¼": "1/4",
    "¾": "3/4",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8",
    "⅓": "1/3",
    "⅔": "2/3",
}
_SPOKEN = re.compile(
    r"^(?:(one|an?)\s+)?(?:(half|quarter|three[\s-]quarters?|eighth)(?:\s+(?:of\s+)?an?)?\s+)?inch(?:\s+and\s+(?:an?\s+)?(half|quarter|three[\s-]quarters?|eighth))?$",
    re.IGNORECASE,
)
_SHARES = {"half": 0.5, "quarter": 0.25, "eighth": 0.125}


def _drill_mm(name: str) -> float:
    for row in read_table("drills", "name", "diameter_in"):
        if row["name"] == name:
            return float(row["diameter_in"]) * INCH_MM
    raise EntryError(f"There is no drill {name}: letters A to Z, numbers #1 to #80.")


def _named_size(text: str, kind: str) -> float | None:
    """Sizes that go by a name: drills, tube dash sizes, wire gauges, diametral pitches, spoken
    parts of an inch.
    """
    if kind == "length" and (match := _DRILL.fullmatch(text)):
        return _drill_mm(match[1])
    if kind == "length" and (match := _DASH.fullmatch(text)) and match[2]:
        return int(match[2]) * INCH_MM / 16
    if kind == "length" and (match := _SPOKEN.fullmatch(text)):
        first, more = (
            0.75 if (m or "").lower().startswith("three") else _SHARES.get((m or "").lower(), 0.0)
            for m in match.groups()[1:]
        )
        return ((first or 1.0) + more) * INCH_MM
    if kind == "wire" and (match := _GAUGE_WIRE.fullmatch(text)):
        return wire_section_mm2(1 - int(match[1]) if match[1] else int(match[2]))
    if kind == "module" and (match := _PITCH.fullmatch(text)) and float(match[1]) > 0:
        return INCH_MM / float(match[1])
    return None


def _thread(text: str) -> tuple[float, float | None] | None:
    """Diameter and pitch of a thread's name; None where the text is no name. Raises EntryError.
    [mm]
    """
    if match := _METRIC_THREAD.fullmatch(text):
        d = float(match[1].replace(",", "."))
        if match[2]:
            return d, float(match[2].replace(",", "."))
        coarse = next(
            (t for t in threads() if t.metric and t.d == d and t.series == "coarse"), None
        )
        return d, coarse.pitch if coarse else None
    match = _INCH_THREAD.fullmatch(text)
    if match is None or not (match[2] or match[3] or not match[1][0].isdigit()):
        return None
    digits = re.sub(r"\D+", "/" if match[1][0].isdigit() else "", match[1]).strip("/")
    name = digits if match[1][0].isdigit() else f"No. {digits}"
    rows = [t for t in threads() if not t.metric and t.name == name]
    if not rows:
        raise EntryError(f"{text} is not in the table of threads: type its diameter and its pitch.")
    series = (match[3] or "").upper()
    if match[2]:
        pitch = INCH_MM / int(match[2])
        if series in ("UNC", "UNF") and not any(
            t.series == series and abs(t.pitch - pitch) < 1e-6 for t in rows
        ):
            raise AskAgain(
                f"{name} {series} does not have {match[2]} threads an inch: which of the two holds?"
            )
        return rows[0].d, pitch
    return rows[0].d, next((t.pitch for t in rows if t.series == series), None)


def _pressure_reference(text: str) -> tuple[str, bool]:
    """The text without its word for the reference, and whether one was said: ``58 psig``, ``4
    bar abs``.
    """
    text = re.sub(
        r"(?<=psi)([ga])\b|(?<=bar)\(?([ga])\)?(?=\s*$)", r" \1\2", text, flags=re.IGNORECASE
    )
    cleaned = re.sub(r"\b(gauge|absolute|abs|g|a)\b\.?\s*$", "", text, flags=re.IGNORECASE)
    return cleaned.strip(), cleaned.strip() != text.strip()


def _plain(text: str, kind: str) -> str:
    """Shop forms brought to plain ones: one sign for a fraction, a gauge's channel, what a
    diameter was taken over, a currency.
    """
    text = _INSTRUMENT.sub("", text)
    for sign, plain in _VULGAR.items():
        text = re.sub(rf"(?<=\d)\s*{sign}", f" {plain}", text).replace(sign, plain)
    if kind in ("length", "thread"):
        text = _TAKEN_OVER.sub("", text)
    if kind == "money":
        text = _CURRENCY.sub("", text)
    return text.strip()


@lru_cache(maxsize=8192)
def _ask_what_it_names(typed: str, kind: str) -> None:
    """Puts the question where a figure goes by a name that stands for two sizes: a bolt by its
    thread or its spanner, a pipe over its bead or its bore. Raises AskAgain.
    """
    if kind not in ("length", "thread"):
        return
    if _FASTENER.search(typed):
        raise AskAgain(
            "Is that the thread, or the spanner that fits its head? Type the thread (M8, 5/16-18)"
            " or its diameter; the spanner's size belongs in the note."
        )
    if kind == "thread" and _BY_NUMBER.fullmatch(typed.strip()):
        raise AskAgain(
            "Is that the thread No. 10 and its like, or a spanner? Type the thread: #10-32, M5."
        )
    if _OVER_MORE.search(typed):
        raise AskAgain(
            "Over a bead, a barb, a thread or a head is not the size itself: type the bore or the"
            " outside beside it, and what was measured over in the note."
        )


def parse(
    typed: str, kind: str = "length", unit: str | None = None, zero: tuple[str, ...] = ()
) -> Entry:
    """Understand what was typed into a field of ``kind`` that shows ``unit`` (default: its base
    unit).

    Parameters
    ----------
    typed : str
        As it was typed; kept as it is.
    kind, unit : str
        Kind of number, and the unit that bare figures take.
    zero : words that mean nought here, such as ``flush``.

    Returns
    -------
    Entry
        ``value`` and ``pm`` in the base unit of the kind; a word ("plenty") has ``word`` and no
        value.

    Raises
    ------
    AskAgain
        The text has two readings: ``1,234``; ``3/4`` in a millimetre field; a pressure near one
        bar.
    EntryError
        Anything else that is not a number of this kind.
    """
    k = KINDS[kind]
    field_unit = k.unit if unit is None else unit
    if not typed.strip():
        raise EntryError("Nothing was typed.")
    if len(typed) > MAX_LENGTH:
        raise EntryError(
            f"That is longer than {MAX_LENGTH} characters. Put the rest into the note."
        )
    if any(c.isdigit() and not c.isascii() for c in typed):
        raise EntryError("Type the figures as 0 to 9.")
    if re.search(r"\d.*\bor\b.*\d", typed):
        raise AskAgain(
            "Two figures joined by “or”: enter each as a statement of its own, with its source."
        )
    _ask_what_it_names(typed, kind)
    text = _plain(typed.strip(), kind)
    if text.casefold() in zero:
        return Entry(typed=typed, value=0.0)
    if (named := _named_size(text, kind)) is not None:
        return Entry(typed=typed, value=named)
    if kind == "thread" and (found := _thread(text)) is not None:
        return Entry(typed=typed, value=found[0], pitch=found[1])
    about = _ABOUT.match(text) is not None and re.search(r"\d", text) is not None
    if about:
        text = _ABOUT.sub("", text)
    if _WORD.fullmatch(text) and not re.search(r"[+*/=()]", text):
        return Entry(typed=typed, value=None, word=text)
    said_reference = True
    if kind == "pressure":
        text, said_reference = _pressure_reference(text)
    if kind == "ratio" and (match := _RATIO.fullmatch(text)) and number_of(match[2]) > 0:
        return Entry(typed=typed, value=number_of(match[1]) / number_of(match[2]))
    parts = _PM.split(text)
    if len(parts) > 2:
        raise EntryError("There is more than one ±.")
    if len(parts) == 1 and (ends := AmountReader(parts[0], k, field_unit).span()) is not None:
        low, high = sorted(e.amount for e in ends)
        if kind == "count":
            raise AskAgain("A count is one number: count them.")
        if not max(abs(low), abs(high)) < MOST:
            raise EntryError("That number is too large to be a size.")
        return Entry(
            typed=typed, value=(low + high) / 2, pm=(high - low) / 2, span=(low, high), about=about
        )
    reader = AmountReader(parts[0], k, field_unit)
    read = reader.read()
    value = reader.in_field_unit(read).amount
    if not abs(value) < MOST:
        raise EntryError("That number is too large to be a size.")
    if kind == "pressure" and 0.9 <= value <= 1.1 and not said_reference:
        raise AskAgain(
            "About one bar: gauge or absolute? Add the word; absolute, it is no pressure at all."
        )
    if kind == "count" and abs(value - round(value)) > 1e-9:
        raise EntryError("A count is a whole number.")
    pm = _read_pm(parts[1], k, read.last_unit, field_unit) if len(parts) == 2 else None
    if about and pm is None:
        pm = max(ABOUT_SHARE * abs(value), ABOUT_LEAST_MM if kind == "length" else 0.0)
    return Entry(typed=typed, value=value, pm=pm, about=about)


def _read_pm(text: str, kind: Kind, value_unit: str | None, field_unit: str) -> float:
    unit = value_unit or field_unit
    read = AmountReader(text, kind, unit).read()
    if kind.name == "temperature":
        raise EntryError("Give the ± of a temperature in the ± field, in °C.")
    if value_unit is None and read.last_unit not in (None, field_unit):
        raise AskAgain(
            f"Is the ± alone in {read.last_unit}, or both figures? Give both their unit."
        )
    pm = read.amount if read.has_unit or not unit else to_base(read.amount, unit, kind.name)
    if pm < 0:
        raise EntryError("The ± part is below zero.")
    if not pm < MOST:
        raise EntryError("That ± is too large to be one.")
    return pm


def typed_resolution(typed: str, kind: str, unit: str | None = None) -> float:
    """Half a unit of the last digit typed, in the base unit: what a bare statement leaves open.

    ``125 N·m`` -> 0.5; ``19,05`` -> 0.005; a fraction, a drill or a sum counts as exact (0).
    """
    match = re.fullmatch(r"\s*[+-]?(\d+)(?:[.,](\d+))?\s*(\D*)", typed)
    if match is None:
        return 0.0
    shown = match[3].strip() or (KINDS[kind].unit if unit is None else unit)
    step = 10.0 ** -len(match[2] or "")
    factor = KINDS[kind].factors.get(shown, 1.0)
    return 0.5 * step * factor


def echo(value: float, kind: str) -> str:
    """What was understood, in both units: ``19.05 mm = 3/4 in``."""
    k = KINDS[kind]
    base = f"{value:.{k.decimals + 1}f}".rstrip("0").rstrip(".") if k.decimals else f"{value:g}"
    other = echo_inches(value, kind)
    return f"{base} {k.unit}".strip() + (f" = {other}" if other else "")


def echo_entry(entry: Entry, kind: str) -> str:
    """An entry in words: its value in both units, its ±, and how it was read where that is not
    plain.
    """
    if entry.value is None:
        return f"“{entry.word}” is kept; give the number that it stands for"
    if kind == "thread" and entry.pitch is not None:
        return f"{thread_words(entry.value, entry.pitch)}, {echo(entry.value, kind)}"
    words = [echo(entry.value, kind)]
    if entry.pm is not None:
        words.append(f"± {round(entry.pm, 4):g}")
    if entry.span is not None:
        words.append("read as a range")
    elif re.search(r"\d\s*[-−]\s*[\d(]", entry.typed) and not MIXED.search(entry.typed):
        words.append("read as a difference")
    if entry.about:
        words.append("a guess")
    return ", ".join(words)


def zero_words(words: Collection[str]) -> tuple[str, ...]:
    """Words that mean nought in a field, as :func:`parse` takes them."""
    return tuple(w.casefold() for w in words)
