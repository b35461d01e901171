"""Amounts read from text: numbers, fractions, sums, products and units, by recursive descent."""

import re
from dataclasses import dataclass, replace

from pindo.core.errors import PindoError
from pindo.core.inputs.units import Kind, to_base

MOST = 1e9  # in base units: no size of a vehicle comes near it


class EntryError(PindoError, ValueError):
    """The text cannot be a number of this kind; the message says what to type instead."""


class AskAgain(EntryError):
    """The text could mean two things; the message puts the question."""


@dataclass(frozen=True)
class _Amount:
    """A term while it is being read: ``amount`` is in base units when ``has_unit``."""

    amount: float
    has_unit: bool
    last_unit: str | None = None
    fraction: str = ""
    """A fraction without a unit in it that the field's unit leaves open."""
    summed: bool = False


_OPEN = re.compile(r"\s+")


MIXED = re.compile(r"(\d+)(?:-|\s+)(\d+)/(\d+)(?![\d.,/])")


_FRACTION = re.compile(r"(\d+)/(\d+)(?![\d.,])")


_NUMBER = re.compile(r"(?:\d[\d,]*\.?\d*|[.,]\d+)(?:[eE][+-]?\d+)?")


_ASKED_COMMA = re.compile(r"[1-9]\d{0,2},\d{3}")


_DASH = re.compile(r"^-(\d{1,2})(?:\s*AN)?$|^dash\s*(\d{1,2})$", re.IGNORECASE)


_COMPOUND = {
    "length": (("ft", "feet", "'", "′"), ("in", "inch", "inches", '"', "″")),
    "time": (("h", "hr", "hrs", "hour", "hours"), ("min", "mins", "minutes")),
}


def number_of(text: str) -> float:
    """One decimal number; a comma is the decimal sign unless it groups thousands. Raises AskAgain
    where it could be either, EntryError for no number.
    """
    mantissa = re.split("[eE]", text)[0]
    if _ASKED_COMMA.fullmatch(mantissa):
        plain = text.replace(",", "")
        raise AskAgain(
            f"Is {text} {plain}, or {text.replace(',', '.')}? Type it without the comma, or with a"
            " point."
        )
    if "." in text:
        if not re.fullmatch(r"\d{1,3}(,\d{3})+\.\d*|[\d]*\.\d*", mantissa):
            raise EntryError(f"The commas in {text} do not group thousands.")
        return float(text.replace(",", ""))
    if mantissa.count(",") > 1:
        if not re.fullmatch(r"\d{1,3}(,\d{3})+", mantissa):
            raise EntryError(f"{text} has more than one comma.")
        return float(text.replace(",", ""))
    return float(text.replace(",", "."))


class AmountReader:
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
            raise EntryError(
                f"“{self.text[self.at :].strip()}” is not understood here.{self._hint()}"
            )
        if total.fraction and not total.has_unit:
            self.ask_fraction(total.fraction)
        return total

    def span(self) -> tuple[_Amount, _Amount] | None:
        """Both ends where the whole text is a range: ``a - b`` with a below b, ``a to b``. A
        bare end takes the other's unit.
        """
        first = self.signed()
        if first is None:
            return None
        self.skip()
        word = re.compile(r"to\b|–|-|−").match(self.text, self.at)
        if word is None:
            return None
        self.at = word.end()
        second = self.signed()
        self.skip()
        if second is None or self.at < len(self.text):
            return None
        if first.has_unit != second.has_unit:
            unit = first.last_unit or second.last_unit or self.unit
            first, second = (
                a if a.has_unit else _Amount(to_base(a.amount, unit, self.kind.name), True, unit)
                for a in (first, second)
            )
        if word[0] != "to" and not first.amount < second.amount:
            return None
        for end in (first, second):
            if end.fraction and not end.has_unit:
                self.ask_fraction(end.fraction)
        return self.in_field_unit(first), self.in_field_unit(second)

    def signed(self) -> _Amount | None:
        """One literal with its sign and unit, nothing else."""
        sign = self.take("+-−")
        self.skip()
        if not any(p.match(self.text, self.at) for p in (MIXED, _FRACTION, _NUMBER)):
            return None
        found = self.with_unit(self.literal())
        return replace(found, amount=-found.amount) if sign and sign != "+" else found

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
            for a in (total, term):
                if a.fraction and not a.has_unit:
                    self.ask_fraction(a.fraction)
            if not total.has_unit and term.last_unit not in (None, self.unit) and not total.summed:
                raise AskAgain(
                    f"The first figure has no unit and the next is in {term.last_unit}: give both"
                    " their unit."
                )
            if total.has_unit != term.has_unit:
                # "Every term may carry a unit": a bare one takes the field's.
                total, term = self.in_field_unit(total), self.in_field_unit(term)
            amount = total.amount + term.amount if sign == "+" else total.amount - term.amount
            total = _Amount(amount, total.has_unit, term.last_unit or total.last_unit, summed=True)
        return total

    def in_field_unit(self, amount: _Amount) -> _Amount:
        if amount.has_unit or not self.unit:
            return amount
        return _Amount(
            to_base(amount.amount, self.unit, self.kind.name),
            True,
            amount.last_unit,
            summed=amount.summed,
        )

    def product(self) -> _Amount:
        total = self.factor()
        while sign := self.take("*×/"):
            term = self.factor()
            if sign == "/" and term.has_unit:
                raise EntryError(
                    "That divides by a number with a unit. Put brackets round what carries the"
                    " unit."
                )
            if total.has_unit and term.has_unit:
                raise EntryError("That multiplies two numbers with units.")
            if sign == "/" and term.amount == 0:
                raise EntryError("That divides by zero.")
            amount = total.amount / term.amount if sign == "/" else total.amount * term.amount
            # A fraction that multiplies is a number, not a length.
            total = _Amount(
                amount, total.has_unit or term.has_unit, total.last_unit or term.last_unit
            )
        return total

    def factor(self) -> _Amount:
        if sign := self.take("+-−"):
            inner = self.factor()
            return inner if sign == "+" else replace(inner, amount=-inner.amount)
        if self.take("("):
            self.depth += 1
            if self.depth > 20:
                raise EntryError("Too many brackets.")
            inner = self.sum()
            if not self.take(")"):
                raise EntryError("A bracket is not closed.")
            return self.with_unit(inner)
        return self.in_two_units()

    def in_two_units(self) -> _Amount:
        """``2 ft 6 in``, ``1 h 30 min``."""
        first = self.with_unit(self.literal())
        large, small = _COMPOUND.get(self.kind.name, ((), ()))
        if first.last_unit not in large:
            return first
        here = self.at
        self.skip()
        if self.at < len(self.text) and self.text[self.at].isdigit():
            rest = self.with_unit(self.literal())
            if rest.last_unit in small:
                return _Amount(first.amount + rest.amount, True, rest.last_unit)
        self.at = here
        return first

    def literal(self) -> _Amount:
        self.skip()
        if (match := MIXED.match(self.text, self.at)) and int(match[2]) < int(match[3]):
            self.at = match.end()
            return _Amount(
                int(match[1]) + int(match[2]) / int(match[3]),
                False,
                fraction="" if self.unit == "in" else match[0],
            )
        if match := _FRACTION.match(self.text, self.at):
            self.at = match.end()
            if int(match[2]) == 0:
                raise EntryError("That divides by zero.")
            return _Amount(
                int(match[1]) / int(match[2]), False, fraction=match[0] if self.unit == "mm" else ""
            )
        if match := _NUMBER.match(self.text, self.at):
            self.at = match.end()
            return _Amount(number_of(match[0]), False)
        if self.at >= len(self.text):
            raise EntryError("A number is missing at the end.")
        raise EntryError(f"“{self.text[self.at :].strip()}” is not a number.{self._hint()}")

    def ask_fraction(self, text: str) -> None:
        if self.unit == "mm":
            raise AskAgain(
                f"Is {text} in inches? Type {text} in. In millimetres type it as a decimal."
            )
        raise AskAgain(
            f"{text} reads as a fraction or as a sum. Type it as a decimal, or with spaces round"
            " the sign."
        )

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
