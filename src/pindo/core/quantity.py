"""What a person typed, understood: fractions, either unit, comma, ±, drills, arithmetic, words.

The grammar is a small recursive descent; nothing is ever evaluated as code. What could be read in two
ways is asked about (:class:`AskAgain`), never guessed, and the text stays with whoever typed it.
"""

import re
from dataclasses import dataclass
from functools import lru_cache

from pindo.core.tables import read_table
from pindo.core.units import INCH_MM, KINDS, Kind, echo_inches, to_base, wire_section_mm2

MAX_LENGTH = 120  # characters in one entry: a note belongs in the note


class EntryError(ValueError):
    """The text cannot be a number of this kind; the message says what to type instead."""


class AskAgain(EntryError):
    """The text could mean two things; the message puts the question."""


@dataclass(frozen=True, kw_only=True)
class Entry:
    """What an entry means. ``value`` and ``pm`` are in the base unit of the kind; a word has neither."""

    typed: str
    value: float | None
    pm: float | None = None
    word: str | None = None


@dataclass(frozen=True)
class _Amount:
    """A term while it is being read: ``amount`` is in base units when ``has_unit``."""

    amount: float
    has_unit: bool
    last_unit: str | None = None


_PM = re.compile(r"±|\+/-|\+-")
_OPEN = re.compile(r"\s+")
_MIXED = re.compile(r"(\d+)(?:-|\s+)(\d+)/(\d+)(?![\d.,/])")
_FRACTION = re.compile(r"(\d+)/(\d+)(?![\d.,])")
_NUMBER = re.compile(r"(?:\d[\d,]*\.?\d*|[.,]\d+)(?:[eE][+-]?\d+)?")
_ASKED_COMMA = re.compile(r"[1-9]\d{0,2},\d{3}")
_WORD = re.compile(r"^[^\W\d_][^\d]*[^\W\d_?!.]$")
_GAUGE = re.compile(r"^(?:(\d)/0|(\d{1,2}))\s*(?:awg|ga|gauge)$", re.IGNORECASE)
_DASH = re.compile(r"^-(\d{1,2})(?:\s*AN)?$|^dash\s*(\d{1,2})$", re.IGNORECASE)
_PITCH = re.compile(r"^([\d.]+)\s*dp$", re.IGNORECASE)
_DRILL = re.compile(r"^(?:drill\s+)?([A-Z]|#\d{1,2})(?:\s+drill)?$")


def _drill_mm(name: str) -> float:
    for drill, inches in read_table("drills")[0]:
        if drill == name:
            return float(inches) * INCH_MM
    raise EntryError(f"There is no drill {name}: letters A to Z, numbers #1 to #80.")


def _number(text: str) -> float:
    """One decimal number; a comma is the decimal sign unless it groups thousands."""
    mantissa = re.split("[eE]", text)[0]
    if _ASKED_COMMA.fullmatch(mantissa):
        plain = text.replace(",", "")
        raise AskAgain(f"Is {text} {plain}, or {text.replace(',', '.')}? Type it without the comma, or with a point.")
    if "." in text:
        if not re.fullmatch(r"\d{1,3}(,\d{3})+\.\d*|[\d]*\.\d*", mantissa):
            raise EntryError(f"The commas in {text} do not group thousands.")
        return float(text.replace(",", ""))
    if mantissa.count(",") > 1:
        if not re.fullmatch(r"\d{1,3}(,\d{3})+", mantissa):
            raise EntryError(f"{text} has more than one comma.")
        return float(text.replace(",", ""))
    return float(text.replace(",", "."))


class _Reader:
    """Reads one expression from left to right. ``unit`` is the unit shown in the field."""

    def __init__(self, text: str, kind: Kind, unit: str) -> None:
        self.text = text
        self.kind = kind
        self.unit = unit
        self.at = 0
        self.depth = 0
        names = sorted(kind.factors, key=len, reverse=True)
        self.units = re.compile("|".join(f"{re.escape(n)}(?![A-Za-z])" for n in names) or "(?!)")

    def read(self) -> _Amount:
        total = self.sum()
        self.skip()
        if self.at < len(self.text):
            raise EntryError(f"“{self.text[self.at :].strip()}” is not understood here.{self._hint()}")
        return total

    def _hint(self) -> str:
        units = ", ".join(dict.fromkeys(n for n in (self.kind.unit, self.kind.imperial) if n))
        return f" Units: {units}." if units else " A plain number is wanted."

    def skip(self) -> None:
        if match := _OPEN.match(self.text, self.at):
            self.at = match.end()

    def take(self, signs: str) -> str | None:
        self.skip()
        if self.at < len(self.text) and self.text[self.at] in signs:
            self.at += 1
            return self.text[self.at - 1]
        return None

    def sum(self) -> _Amount:
        total = self.product()
        while sign := self.take("+-−"):
            term = self.product()
            if total.has_unit != term.has_unit:
                # "Every term may carry a unit": a bare one takes the field's.
                total, term = self.in_field_unit(total), self.in_field_unit(term)
            amount = total.amount + term.amount if sign == "+" else total.amount - term.amount
            total = _Amount(amount, total.has_unit, term.last_unit or total.last_unit)
        return total

    def in_field_unit(self, amount: _Amount) -> _Amount:
        if amount.has_unit or not self.unit:
            return amount
        return _Amount(to_base(amount.amount, self.unit, self.kind.name), True, amount.last_unit)

    def product(self) -> _Amount:
        total = self.factor()
        while sign := self.take("*×/"):
            term = self.factor()
            if sign == "/" and term.has_unit:
                raise EntryError("That divides by a number with a unit. Put brackets round what carries the unit.")
            if total.has_unit and term.has_unit:
                raise EntryError("That multiplies two numbers with units.")
            if sign == "/" and term.amount == 0:
                raise EntryError("That divides by zero.")
            amount = total.amount / term.amount if sign == "/" else total.amount * term.amount
            total = _Amount(amount, total.has_unit or term.has_unit, total.last_unit or term.last_unit)
        return total

    def factor(self) -> _Amount:
        if sign := self.take("+-−"):
            inner = self.factor()
            return inner if sign == "+" else _Amount(-inner.amount, inner.has_unit, inner.last_unit)
        if self.take("("):
            self.depth += 1
            if self.depth > 20:
                raise EntryError("Too many brackets.")
            inner = self.sum()
            if not self.take(")"):
                raise EntryError("A bracket is not closed.")
            return self.with_unit(inner)
        return self.feet_and_inches()

    def feet_and_inches(self) -> _Amount:
        first = self.with_unit(self.literal())
        if self.kind.name != "length" or first.last_unit not in ("ft", "feet", "'", "′"):
            return first
        here = self.at
        self.skip()
        if self.at < len(self.text) and self.text[self.at].isdigit():
            inches = self.with_unit(self.literal())
            if inches.last_unit in ("in", "inch", "inches", '"', "″"):
                return _Amount(first.amount + inches.amount, True, inches.last_unit)
        self.at = here
        return first

    def literal(self) -> _Amount:
        self.skip()
        if (match := _MIXED.match(self.text, self.at)) and int(match[2]) < int(match[3]):
            self.at = match.end()
            if self.unit != "in" and not self.peek_unit():
                self.ask_fraction(match[0])
            return _Amount(int(match[1]) + int(match[2]) / int(match[3]), False)
        if match := _FRACTION.match(self.text, self.at):
            alone = self.at == 0 and match.end() == len(self.text.rstrip())
            self.at = match.end()
            if int(match[2]) == 0:
                raise EntryError("That divides by zero.")
            if alone and self.unit == "mm":
                self.ask_fraction(match[0])
            return _Amount(int(match[1]) / int(match[2]), False)
        if match := _NUMBER.match(self.text, self.at):
            self.at = match.end()
            return _Amount(_number(match[0]), False)
        if self.at >= len(self.text):
            raise EntryError("A number is missing at the end.")
        raise EntryError(f"“{self.text[self.at :].strip()}” is not a number.{self._hint()}")

    def ask_fraction(self, text: str) -> None:
        if self.unit == "mm":
            raise AskAgain(f"Is {text} in inches? Type {text} in. In millimetres type it as a decimal.")
        raise AskAgain(f"{text} reads as a fraction or as a sum. Type it as a decimal, or with spaces round the sign.")

    def peek_unit(self) -> bool:
        here = self.at
        self.skip()
        found = self.units.match(self.text, self.at) is not None
        self.at = here
        return found

    def with_unit(self, inner: _Amount) -> _Amount:
        here = self.at
        self.skip()
        match = self.units.match(self.text, self.at)
        if match is None:
            self.at = here
            return inner
        if inner.has_unit:
            raise EntryError("That carries two units.")
        self.at = match.end()
        return _Amount(to_base(inner.amount, match[0], self.kind.name), True, match[0])


def _named_size(text: str, kind: str) -> float | None:
    """Sizes that go by a name: drills, tube dash sizes, wire gauges, diametral pitches."""
    if kind == "length" and (match := _DRILL.fullmatch(text)):
        return _drill_mm(match[1])
    if kind == "length" and (match := _DASH.fullmatch(text)) and match[2]:
        return int(match[2]) * INCH_MM / 16
    if kind == "wire" and (match := _GAUGE.fullmatch(text)):
        return wire_section_mm2(1 - int(match[1]) if match[1] else int(match[2]))
    if kind == "module" and (match := _PITCH.fullmatch(text)) and float(match[1]) > 0:
        return INCH_MM / float(match[1])
    return None


def _pressure_reference(text: str) -> tuple[str, bool]:
    """The text without its word for the reference, and whether one was said."""
    cleaned = re.sub(r"\b(gauge|absolute|abs|g|a)\b\.?\s*$", "", text, flags=re.IGNORECASE)
    return cleaned.strip(), cleaned.strip() != text.strip()


@lru_cache(maxsize=8192)
def parse(typed: str, kind: str = "length", unit: str | None = None) -> Entry:
    """Understand what was typed into a field of ``kind`` that shows ``unit`` (default: its base unit).

    Returns
    -------
    Entry
        ``value`` and ``pm`` in the base unit of the kind; a word ("plenty") has ``word`` and no value.

    Raises
    ------
    AskAgain
        The text has two readings: ``1,234``; ``3/4`` in a millimetre field; a pressure near one bar.
    EntryError
        Anything else that is not a number of this kind.
    """
    k = KINDS[kind]
    field_unit = k.unit if unit is None else unit
    text = typed.strip()
    if not text:
        raise EntryError("Nothing was typed.")
    if len(typed) > MAX_LENGTH:
        raise EntryError(f"That is longer than {MAX_LENGTH} characters. Put the rest into the note.")
    if re.search(r"\d.*\bor\b.*\d", text):
        raise AskAgain("Two figures joined by “or”: enter each as a statement of its own, with its source.")
    if (named := _named_size(text, kind)) is not None:
        return Entry(typed=typed, value=named)
    if _WORD.fullmatch(text) and not re.search(r"[+*/=()]", text):
        return Entry(typed=typed, value=None, word=text)
    said_reference = True
    if kind == "pressure":
        text, said_reference = _pressure_reference(text)
    parts = _PM.split(text)
    if len(parts) > 2:
        raise EntryError("There is more than one ±.")
    reader = _Reader(parts[0], k, field_unit)
    read = reader.read()
    value = reader.in_field_unit(read).amount
    if not abs(value) < 1e9:
        raise EntryError("That number is too large to be a size.")
    if kind == "pressure" and 0.9 <= value <= 1.1 and not said_reference:
        raise AskAgain("About one bar: gauge or absolute? Add the word; absolute, it is no pressure at all.")
    if kind == "count" and abs(value - round(value)) > 1e-9:
        raise EntryError("A count is a whole number.")
    pm = _read_pm(parts[1], k, read.last_unit or field_unit) if len(parts) == 2 else None
    return Entry(typed=typed, value=value, pm=pm)


def _read_pm(text: str, kind: Kind, unit: str) -> float:
    read = _Reader(text, kind, unit).read()
    if kind.name == "temperature":
        raise EntryError("Give the ± of a temperature in the ± field, in °C.")
    pm = read.amount if read.has_unit or not unit else to_base(read.amount, unit, kind.name)
    if pm < 0:
        raise EntryError("The ± part is below zero.")
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
