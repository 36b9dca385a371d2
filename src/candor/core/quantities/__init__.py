"""Values as people write them; units old and new; numbers as Candor shows them."""

from candor.core.quantities.show import engineering, pair, plain, signed
from candor.core.quantities.values import Quantity, parse_date, parse_number, parse_quantity

__all__ = [
    "Quantity",
    "engineering",
    "pair",
    "parse_date",
    "parse_number",
    "parse_quantity",
    "plain",
    "signed",
]
